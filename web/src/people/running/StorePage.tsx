import { useQuery } from "@tanstack/react-query";
import { Link } from "react-router";
import styled from "styled-components";
import { wordsFor } from "../../api/client";
import { room as roomQuery } from "../../api/running";
import type { RoomPart } from "../../api/types";
import { sizeOf } from "../../kit/amounts";
import { Notice } from "../../kit/Notice";
import { Room, RoomHead, Rooms } from "../Rooms";

const Lists = styled.div`
  display: grid;
  grid-template-columns: repeat(3, minmax(0, 1fr));
  gap: 32px;
  align-items: start;
  h2 {
    font-size: 14px;
    font-weight: 600;
    margin-bottom: 6px;
  }
  p {
    color: ${(p) => p.theme.tokens.soft};
  }
`;
const Parts = styled.ul`
  list-style: none;
  margin: 0;
  padding: 0;
  li {
    display: grid;
    grid-template-columns: minmax(0, 1fr) auto;
    gap: 2px 10px;
    padding: 7px 0;
    border-top: 1px solid ${(p) => p.theme.tokens.line};
    overflow-wrap: anywhere;
  }
  small {
    color: ${(p) => p.theme.tokens.soft};
    font-size: ${(p) => p.theme.tokens.size.small};
  }
  a {
    color: ${(p) => p.theme.tokens.accent};
  }
`;
const Bar = styled.span<{ $share: number }>`
  grid-column: 1 / -1;
  height: 3px;
  border-radius: 2px;
  background: linear-gradient(
    to right,
    ${(p) => p.theme.tokens.soft} ${(p) => p.$share * 100}%,
    ${(p) => p.theme.tokens.line} 0
  );
`;

interface Props {
  readonly title: string;
  readonly parts: readonly RoomPart[];
  readonly nothing: string;
  readonly addressOf?: (part: RoomPart) => string;
}

function PartsOf({ title, parts, nothing, addressOf }: Props) {
  const most = Math.max(1, ...parts.map((one) => one.bytes));
  return (
    <section aria-label={title}>
      <h2>{title}</h2>
      {parts.length === 0 && <p>{nothing}</p>}
      <Parts>
        {parts.map((one) => (
          <li key={one.key}>
            {addressOf ? <Link to={addressOf(one)}>{one.name}</Link> : <span>{one.name}</span>}
            <span>{sizeOf(one.bytes)}</span>
            <Bar $share={one.bytes / most} aria-hidden />
            <small>
              {one.files} file{one.files === 1 ? "" : "s"}
            </small>
          </li>
        ))}
      </Parts>
    </section>
  );
}

/** What takes room. */
export function StorePage() {
  const { data: room, error } = useQuery(roomQuery);
  return (
    <Rooms>
      <Room>
        <RoomHead>
          <h1>Store</h1>
          {room && (
            <p>
              {room.files} files, {sizeOf(room.bytes)}
              {room.free !== null && `; ${sizeOf(room.free)} free on the disk`}
            </p>
          )}
        </RoomHead>
        {error && <Notice>{wordsFor(error)}</Notice>}
        {room && (
          <Lists>
            <PartsOf title="By kind" parts={room.kinds} nothing="Nothing is kept yet." />
            <PartsOf
              title="By person"
              parts={room.people}
              nothing="Nothing is anybody's yet."
              addressOf={(one) => `/studio/people?who=${encodeURIComponent(one.key)}`}
            />
            <PartsOf
              title="By project"
              parts={room.projects}
              nothing="No project has anything yet."
              addressOf={(one) => `/projects/${one.key}`}
            />
          </Lists>
        )}
      </Room>
    </Rooms>
  );
}
