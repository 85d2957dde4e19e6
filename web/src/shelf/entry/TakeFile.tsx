import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { wordsFor } from "../../api/client";
import { formats as formatsQuery } from "../../api/bakes";
import { useMakeFile } from "../../api/packing";
import type { Described } from "../../api/types";
import { JobLine, useJob } from "../../jobs/JobLine";
import { ReadyFile } from "../../jobs/ReadyFile";
import { RightsNote } from "../../jobs/RightsNote";
import { Secondary } from "../../kit/Button";
import { Notice } from "../../kit/Notice";
import { Picker } from "../../kit/Picker";
import { Block, Pair } from "./layout";

/** Strips and tiles want 16, 32, 64; some programs 32. */
const sizes = ["", "16", "17", "25", "32", "33", "49", "64", "65"] as const;

interface Props {
  readonly entry: Described;
  /** In place of the one that leaves in packs. */
  readonly version: number | null;
  /** Which of a look's family; empty for the recipe. */
  readonly member: string;
}

/** The entry as a file of any format and size, made when it is asked for. */
export function TakeFile({ entry, version, member }: Props) {
  const { data: formats = [] } = useQuery(formatsQuery);
  const [format, setFormat] = useState("cube");
  const [size, setSize] = useState<string>("");
  const [jobId, setJobId] = useState<number | null>(null);
  const make = useMakeFile();
  const { job, running } = useJob(jobId);
  const own = entry.kind === "lut" ? "Its own" : "33";
  return (
    <Block aria-label="Take a file">
      <h2>Take a file</h2>
      <Pair>
        <Picker
          label="Format"
          value={format}
          options={formats.map((one) => ({ id: one.id, name: one.name }))}
          onChange={setFormat}
        />
        <Picker
          label="Nodes a side"
          value={size}
          options={sizes.map((id) => ({ id, name: id || own })).filter((one) => one.id !== own)}
          onChange={setSize}
        />
      </Pair>
      {!running && (
        <Secondary
          isPending={make.isPending}
          onPress={() => {
            setJobId(null);
            make.mutate(
              {
                entry: entry.id,
                format: { format, depth: 0, suffix: "" },
                size: size ? Number(size) : null,
                version,
                member,
              },
              { onSuccess: (started) => setJobId(started.id) },
            );
          }}
        >
          {["Make it", version !== null && `of version ${String(version)}`, member && `as ${member}`]
            .filter(Boolean)
            .join(" ")}
        </Secondary>
      )}
      <RightsNote kind={entry.kind} id={entry.id} version={version} />
      <JobLine id={jobId} what="Making the file" cancelled="Cancelled. No file was made." />
      {make.error && <Notice>{wordsFor(make.error)}</Notice>}
      <ReadyFile job={job} />
    </Block>
  );
}
