import { useQuery } from "@tanstack/react-query";
import { TriangleAlert } from "lucide-react";
import { DialogTrigger } from "react-aria-components";
import styled from "styled-components";
import { wordsFor } from "../api/client";
import { session, unreadable as unreadableQuery } from "../api/session";
import { Menu } from "../kit/Picker";
import { Panel, Round } from "./panels";

const Ring = styled(Round)`
  background: none;
  color: ${(p) => p.theme.tokens.caution};
  svg {
    width: 17px;
    height: 17px;
  }
`;
const Wide = styled(Panel)`
  max-width: 420px;
  max-height: 420px;
  overflow-y: auto;
  overflow-wrap: anywhere;
`;

function Rows() {
  const { data: rows = [], error } = useQuery(unreadableQuery);
  if (error) return <p>{wordsFor(error)}</p>;
  return (
    <ul>
      {rows.map((one) => (
        <li key={`${one.kind} ${one.key}`}>
          <span>
            <bdi>{one.name}</bdi> ({one.kind} {one.key})
          </span>
          <small>{one.problem}</small>
        </li>
      ))}
    </ul>
  );
}

/** For admins: rows that lists leave out because they cannot be read. Nothing where there are none. */
export function Unreadable() {
  const { data } = useQuery(session);
  const count = data?.unreadable ?? 0;
  if (count === 0) return null;
  const what = count === 1 ? "1 thing cannot be read" : `${String(count)} things cannot be read`;
  return (
    <DialogTrigger>
      <Ring aria-label={what}>
        <TriangleAlert aria-hidden />
      </Ring>
      <Menu placement="bottom end">
        <Wide aria-label="What cannot be read">
          <h2>{what}</h2>
          <p>
            Lists leave it out, for everybody. On the server, ./saucer check tells more, and --mend puts right what can
            be.
          </p>
          <Rows />
        </Wide>
      </Menu>
    </DialogTrigger>
  );
}
