import { useQuery } from "@tanstack/react-query";
import styled from "styled-components";
import { wordsFor } from "../../api/client";
import { calls as callsQuery } from "../../api/hooks";
import { Notice } from "../../kit/Notice";
import { PlainTable } from "../../kit/PlainTable";
import { howItStands } from "./words";

const Table = styled(PlainTable)`
  th,
  td:not(:last-child) {
    white-space: nowrap;
    padding-right: 18px;
  }
`;

/** The last calls of a hook, the newest first. */
export function Calls({ hook }: { hook: number }) {
  const { data: calls = [], error, dataUpdatedAt } = useQuery(callsQuery(hook));
  if (error) return <Notice>{wordsFor(error)}</Notice>;
  if (calls.length === 0) return <p>It has not been called yet.</p>;
  return (
    <Table aria-label="Last calls">
      <thead>
        <tr>
          <th>When</th>
          <th>What</th>
          <th>Answer</th>
          <th>How it stands</th>
        </tr>
      </thead>
      <tbody>
        {calls.map((one) => (
          <tr key={one.id}>
            <td>
              {one.at.slice(0, 10)} {new Date(one.at).toTimeString().slice(0, 5)}
            </td>
            <td>{one.event}</td>
            <td>{one.status ?? "none"}</td>
            <td>{howItStands(one, dataUpdatedAt)}</td>
          </tr>
        ))}
      </tbody>
    </Table>
  );
}
