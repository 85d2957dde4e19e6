import { useState } from "react";
import styled from "styled-components";
import { wordsFor } from "../../api/client";
import { usePackFiles } from "../../api/luts";
import { useMay } from "../../api/session";
import type { LutFile } from "../../api/types";
import { JobLine, useJob } from "../../jobs/JobLine";
import { WordButton } from "../../kit/Button";
import { Notice } from "../../kit/Notice";
import { withoutMarks } from "../../kit/PlainList";

const List = styled.ul`
  ${withoutMarks}
  display: grid;
  gap: 6px;
  li {
    display: grid;
    gap: 1px;
    overflow-wrap: anywhere;
  }
  small {
    color: ${(p) => p.theme.tokens.soft};
    font-size: ${(p) => p.theme.tokens.size.small};
  }
`;

const sizeOf = (bytes: number) =>
  bytes < 100_000 ? `${(bytes / 1000).toFixed(1)} kB` : `${(bytes / 1e6).toFixed(2)} MB`;

function factsOf(file: LutFile): string {
  const fidelity = file.fidelity
    ? `, CIEDE2000 ${file.fidelity.mean.toFixed(2)} mean, ${file.fidelity.p99.toFixed(2)} for 99 %`
    : "";
  const lost = file.lost.length > 0 ? `; ${file.lost.join("; ")}` : "";
  return sizeOf(file.bytes) + fidelity + lost;
}

/** The files of a LUT: how large, how close to what they hold, and what their format could not hold. */
export function Files({ lut, files }: { lut: number; files: readonly LutFile[] }) {
  const mayDownload = useMay("design");
  const pack = usePackFiles(lut);
  const [jobId, setJobId] = useState<number | null>(null);
  const { job, running } = useJob(jobId);
  return (
    <List>
      {files.map((file) => (
        <li key={file.id}>
          {mayDownload ? (
            <a href={`/api/lut-files/${String(file.id)}`} download>
              {file.file_name}
            </a>
          ) : (
            <span>{file.file_name}</span>
          )}
          <small>{factsOf(file)}</small>
        </li>
      ))}
      {mayDownload && files.length > 1 && (
        <li>
          {job?.state === "done" ? (
            <a href={job.download} download>
              {job.file_name}
            </a>
          ) : (
            !running && (
              <WordButton onPress={() => pack.mutate(undefined, { onSuccess: (started) => setJobId(started.id) })}>
                Pack all of them into one
              </WordButton>
            )
          )}
          <JobLine id={jobId} what="Packing" cancelled="Cancelled." />
          {pack.error && <Notice>{wordsFor(pack.error)}</Notice>}
        </li>
      )}
    </List>
  );
}
