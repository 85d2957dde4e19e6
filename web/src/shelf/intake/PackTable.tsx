import { CircleAlert, CircleCheck, Copy, Eye } from "lucide-react";
import { memo } from "react";
import styled from "styled-components";
import { rowPicture } from "../../api/making";
import type { Correction, Encoding, PackRow, Picture } from "../../api/types";
import { Check } from "../../kit/Check";
import { TextInput } from "../../kit/TextBox";
import { Unseen } from "../../kit/Unseen";
import { isKept } from "./usePackRows";

const Table = styled.table`
  width: 100%;
  border-collapse: collapse;
  table-layout: fixed;
  font-size: ${(p) => p.theme.tokens.size.small};
  th {
    text-align: left;
    font-weight: 500;
    color: ${(p) => p.theme.tokens.soft};
    padding: 4px 8px 6px 0;
    position: sticky;
    top: -18px;
    background: ${(p) => p.theme.tokens.glaze};
    z-index: 1;
    border-bottom: 1px solid ${(p) => p.theme.tokens.line};
  }
  td {
    padding: 5px 8px 5px 0;
    vertical-align: top;
    border-bottom: 1px solid ${(p) => p.theme.tokens.hush};
    overflow-wrap: anywhere;
  }
  tr {
    content-visibility: auto;
  }
  small {
    display: block;
    color: ${(p) => p.theme.tokens.soft};
  }
  input:not([type="checkbox"]) {
    min-height: 26px;
    padding: 1px 8px;
    font-size: ${(p) => p.theme.tokens.size.small};
  }
`;
const Select = styled.select`
  width: 100%;
  min-height: 26px;
  border: 1px solid ${(p) => p.theme.tokens.line};
  border-radius: 6px;
  background: ${(p) => p.theme.tokens.glaze};
  color: ${(p) => p.theme.tokens.ink};
  font: inherit;
  padding: 1px 4px;
`;
const Seen = styled.img`
  display: block;
  width: 96px;
  aspect-ratio: 16 / 9;
  object-fit: cover;
  border-radius: 3px;
  background: ${(p) => p.theme.tokens.hush};
`;
const State = styled.span`
  display: flex;
  gap: 5px;
  align-items: flex-start;
  svg {
    width: 14px;
    height: 14px;
    flex: none;
    margin-top: 1px;
  }
`;
const Trouble = styled(State)`
  color: ${(p) => p.theme.tokens.caution};
`;
const hows = { declared: "The file says so", guessed: "", asked: "Not known: please choose", "": "" } as const;

interface RowProps {
  readonly row: PackRow;
  readonly encodings: readonly Encoding[];
  readonly onChange: (row: PackRow, change: Correction) => void;
  /** The number of the pack's job. */
  readonly pack: number;
  readonly picture: Picture | undefined;
}

const Line = memo(function Line({ row, encodings, onChange, pack, picture }: RowProps) {
  if (row.problem) {
    return (
      <tr>
        <td />
        <td colSpan={7}>
          <b>{row.path}</b>
          <Trouble>
            <CircleAlert aria-hidden />
            <span>{row.problem}</span>
          </Trouble>
        </td>
      </tr>
    );
  }
  const ends = (which: "expects" | "gives") => (
    <Select
      aria-label={`${row.name}, ${which}`}
      value={row[which]}
      onChange={(event) =>
        onChange(
          row,
          which === "expects" && row.gives === row.expects
            ? { expects: event.target.value, gives: event.target.value }
            : { [which]: event.target.value },
        )
      }
    >
      {encodings.map((one) => (
        <option key={one.id} value={one.id}>
          {one.name}
        </option>
      ))}
    </Select>
  );
  return (
    <tr>
      <td>
        <Check isOn={isKept(row)} onChange={(keep) => onChange(row, { keep })} label={`Keep ${row.name}`} />
      </td>
      <td>
        {picture && (
          <Seen
            src={rowPicture(pack, row, picture.id)}
            alt={`${picture.name} through ${row.name}`}
            loading="lazy"
            draggable={false}
          />
        )}
      </td>
      <td>
        <TextInput
          aria-label={`Name of ${row.path}`}
          value={row.name}
          maxLength={120}
          onChange={(event) => onChange(row, { name: event.target.value })}
        />
        <small>{row.path}</small>
      </td>
      <td>
        {row.format}
        <small>
          {row.kind}
          {row.size ? `, ${row.size}` : ""}
        </small>
      </td>
      <td>
        <TextInput
          aria-label={`Category of ${row.name}`}
          value={row.category}
          maxLength={200}
          placeholder="None"
          onChange={(event) => onChange(row, { category: event.target.value })}
        />
      </td>
      <td>
        {ends("expects")}
        <small>{row.how === "guessed" ? `A guess. ${row.reason}` : hows[row.how ?? ""]}</small>
      </td>
      <td>{ends("gives")}</td>
      <td>
        {row.health === "fine" ? (
          <State>
            <CircleCheck aria-hidden />
            <span>Healthy</span>
          </State>
        ) : (
          <State>
            <Eye aria-hidden />
            <span>{row.health_words}</span>
          </State>
        )}
        {row.entry !== null ? (
          <State>
            <Copy aria-hidden />
            <span>On the Shelf</span>
          </State>
        ) : (
          row.same_as && (
            <State>
              <Copy aria-hidden />
              <span>{row.same_as}</span>
            </State>
          )
        )}
      </td>
    </tr>
  );
});

interface Props {
  readonly rows: readonly PackRow[];
  readonly onChange: (row: PackRow, change: Correction) => void;
  readonly encodings: readonly Encoding[];
  readonly pack: number;
  /** What each file is seen on. */
  readonly picture: Picture | undefined;
}

/** What is in the pack: one line a file, each to be corrected before it is kept. */
export function PackTable({ rows, onChange, encodings, pack, picture }: Props) {
  return (
    <Table aria-label="Files in the pack">
      <colgroup>
        <col style={{ width: 26 }} />
        <col style={{ width: 108 }} />
        <col style={{ width: "23%" }} />
        <col style={{ width: 92 }} />
        <col style={{ width: "14%" }} />
        <col style={{ width: "15%" }} />
        <col style={{ width: "15%" }} />
        <col />
      </colgroup>
      <thead>
        <tr>
          <th scope="col">
            <Unseen>Keep</Unseen>
          </th>
          <th scope="col">
            <Unseen>Picture</Unseen>
          </th>
          <th scope="col">Name</th>
          <th scope="col">Format</th>
          <th scope="col">Category</th>
          <th scope="col">Expects</th>
          <th scope="col">Gives</th>
          <th scope="col">Health</th>
        </tr>
      </thead>
      <tbody>
        {rows.map((row) => (
          <Line key={row.index} row={row} encodings={encodings} onChange={onChange} pack={pack} picture={picture} />
        ))}
      </tbody>
    </Table>
  );
}
