import styled from "styled-components";
import { useMay } from "../../api/session";
import type { LutFile } from "../../api/types";

const List = styled.ul`
  list-style: none;
  margin: 0;
  padding: 0;
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
          <a href={`/api/lut-files/of/${String(lut)}/all.zip`} download>
            Download all of them
          </a>
        </li>
      )}
    </List>
  );
}
