import styled from "styled-components";
import { characterOf, markOf } from "../../api/shelf";
import type { Entry, Picture } from "../../api/types";
import { Fingerprint } from "../../kit/Disc";
import { firstOf, passOnNames, stateNames } from "../words";
import { Preview } from "./Card";
import { oneLine } from "../../kit/oneLine";

const Row = styled.div`
  display: grid;
  grid-template-columns: 250px repeat(3, minmax(0, 1fr));
  gap: 14px;
  align-items: start;
`;
const Words = styled.div`
  display: grid;
  grid-template-columns: 56px minmax(0, 1fr);
  gap: 2px 12px;
  align-content: start;
  img {
    grid-row: 1 / span 4;
  }
  b {
    font-weight: 600;
    overflow-wrap: anywhere;
  }
  span {
    color: ${(p) => p.theme.surround.soft};
    font-size: ${(p) => p.theme.tokens.size.small};
    overflow: hidden;
    text-overflow: ellipsis;
  }
`;

/** An entry on three pictures at once, so that people, night and sky are judged together. */
export function EntryRow({ entry, pictures }: { entry: Entry; pictures: readonly Picture[] }) {
  const first = firstOf(entry);
  return (
    <Row>
      <Words>
        <Fingerprint $size={56} src={markOf(entry)} alt="" />
        <b>{entry.name}</b>
        <span>
          {first && `${first} · `}
          {entry.detail}
        </span>
        <span>{characterOf(entry)}</span>
        <span>{entry.by}</span>
      </Words>
      {pictures.map((picture) => (
        <Preview key={picture.id} entry={entry} picture={picture} />
      ))}
    </Row>
  );
}

const Line = styled.div`
  display: grid;
  grid-template-columns:
    64px 34px minmax(140px, 1.5fr) 124px minmax(100px, 1fr) minmax(120px, 1.2fr) minmax(80px, 0.8fr)
    74px 92px;
  gap: 12px;
  align-items: center;
  height: 44px;
  > * {
    min-width: 0;
    ${oneLine}
  }
  b {
    font-weight: 600;
  }
  span {
    font-size: ${(p) => p.theme.tokens.size.small};
    color: ${(p) => p.theme.surround.soft};
  }
  time {
    font-family: ${(p) => p.theme.tokens.numbers};
    font-size: ${(p) => p.theme.tokens.size.small};
    color: ${(p) => p.theme.surround.soft};
  }
`;
export const lineHeads = [
  "",
  "",
  "Name",
  "State",
  "Category",
  "Character",
  "Tags",
  "To pass on",
  "Shown since",
] as const;
export const ListHead = styled(Line)`
  height: 30px;
  font-size: ${(p) => p.theme.tokens.size.small};
  color: ${(p) => p.theme.surround.soft};
`;

/** The facts of an entry in columns. */
export function EntryLine({ entry, picture }: { entry: Entry; picture: Picture | undefined }) {
  const state = firstOf(entry, stateNames[entry.state]);
  return (
    <Line>
      {picture ? <Preview entry={entry} picture={picture} /> : <i />}
      <Fingerprint $size={30} src={markOf(entry, 64)} alt="" />
      <b title={entry.name}>{entry.name}</b>
      <span title={state}>{state}</span>
      <span title={entry.category}>{entry.category}</span>
      <span title={characterOf(entry)}>{characterOf(entry)}</span>
      <span title={entry.tags.join(", ")}>{entry.tags.join(", ")}</span>
      <span>{passOnNames[entry.may_pass_on]}</span>
      <time dateTime={entry.at}>{entry.at.slice(0, 10)}</time>
    </Line>
  );
}
