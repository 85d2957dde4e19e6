import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { useSearchParams } from "react-router";
import styled from "styled-components";
import { wordsFor } from "../../api/client";
import { team as teamQuery, useTakeInviteBack } from "../../api/team";
import type { Account } from "../../api/types";
import { useActions } from "../../browser/actions";
import { Secondary, WordButton } from "../../kit/Button";
import { initialsOf } from "../../kit/initials";
import { Notice } from "../../kit/Notice";
import { TextBox } from "../../kit/TextBox";
import { since } from "../../kit/since";
import { Room, RoomHead, Rooms } from "../Rooms";
import { AccountPanel } from "./AccountPanel";
import { InviteSheet } from "./InviteSheet";
import { ServiceSheet } from "./ServiceSheet";
import { factorsOf, ownsOf } from "./words";

const Split = styled.div`
  display: grid;
  grid-template-columns: minmax(0, 1fr) auto;
  min-height: 0;
  min-width: 0;
`;
const Table = styled.table`
  width: 100%;
  border-collapse: collapse;
  th {
    text-align: left;
    font-weight: 500;
    font-size: ${(p) => p.theme.tokens.size.small};
    color: ${(p) => p.theme.tokens.soft};
  }
  th,
  td {
    padding: 9px 12px 9px 0;
    border-bottom: 1px solid ${(p) => p.theme.tokens.line};
    overflow-wrap: anywhere;
  }
  th:first-child,
  td:first-child {
    padding-left: 8px;
    width: 28%;
  }
  td:nth-child(2),
  th {
    white-space: nowrap;
  }
  td small {
    color: ${(p) => p.theme.tokens.soft};
    font-size: ${(p) => p.theme.tokens.size.small};
  }
  tr[aria-selected="true"] {
    background: ${(p) => p.theme.tokens.accentWash};
  }
`;
const Who = styled.div`
  display: flex;
  align-items: center;
  gap: 9px;
  button {
    font-weight: 600;
    color: inherit;
    text-align: left;
    white-space: normal;
  }
`;
const Initials = styled.span`
  flex: none;
  display: grid;
  place-items: center;
  width: 26px;
  height: 26px;
  border-radius: 50%;
  background: ${(p) => p.theme.tokens.line};
  font-size: 11px;
  font-weight: 600;
`;
const Finder = styled.div`
  width: 200px;
`;

const fits = (one: Account, typed: string) =>
  `${one.name} ${one.username} ${one.email} ${one.role}`.toLowerCase().includes(typed.toLowerCase().trim());

/** Everybody in the studio, for its admins. */
export function PeoplePage() {
  const { data: team, error } = useQuery(teamQuery);
  const [asked, setAsked] = useSearchParams();
  const takeBack = useTakeInviteBack();
  const [adding, setAdding] = useState<"person" | "service" | null>(null);
  const [typed, setTyped] = useState("");
  useActions([
    { name: "Invite somebody", run: () => setAdding("person") },
    { name: "Add a service", run: () => setAdding("service") },
  ]);
  const members = team?.members ?? [];
  const invites = team?.invites ?? [];
  const chosen = members.find((one) => one.username === asked.get("who"));
  const choose = (username: string | null) => setAsked(username === null ? {} : { who: username }, { replace: true });
  const off = members.filter((one) => !one.is_active).length;
  return (
    <Rooms>
      <Split>
        <Room>
          <RoomHead>
            <h1>People</h1>
            <Secondary onPress={() => setAdding("person")}>Invite...</Secondary>
            <Secondary onPress={() => setAdding("service")}>Add a service...</Secondary>
            <p>
              {team &&
                [
                  `${String(members.length - off)} in`,
                  invites.length > 0 && `${String(invites.length)} invited`,
                  off > 0 && `${String(off)} off`,
                ]
                  .filter(Boolean)
                  .join(", ")}
            </p>
            {members.length > 12 && (
              <Finder>
                <TextBox
                  label="Find somebody"
                  hideLabel
                  placeholder="Find somebody"
                  value={typed}
                  onChange={setTyped}
                  type="search"
                />
              </Finder>
            )}
          </RoomHead>
          {(error ?? takeBack.error) && <Notice>{wordsFor(error ?? takeBack.error)}</Notice>}
          {team && (
            <Table aria-label="People">
              <thead>
                <tr>
                  <th>Who</th>
                  <th>May</th>
                  <th>Last seen</th>
                  <th>Second factor</th>
                  <th>Owns</th>
                </tr>
              </thead>
              <tbody>
                {members
                  .filter((one) => fits(one, typed))
                  .map((one) => (
                    <tr key={one.username} aria-selected={one.username === chosen?.username}>
                      <td>
                        <Who>
                          <Initials aria-hidden>{initialsOf(one.name)}</Initials>
                          <WordButton onPress={() => choose(one.username)}>{one.name}</WordButton>
                        </Who>
                      </td>
                      <td>
                        {one.is_active ? one.role : "off"}
                        {one.is_service && <small> service</small>}
                        {one.is_held && <small> held: too many tries</small>}
                      </td>
                      <td>
                        <small>{one.seen ? since(one.seen) : "never"}</small>
                      </td>
                      <td>
                        {one.is_service
                          ? `${String(one.tokens)} token${one.tokens === 1 ? "" : "s"}`
                          : factorsOf(one) || <small>none</small>}
                      </td>
                      <td>
                        <small>{ownsOf(one) || "nothing"}</small>
                      </td>
                    </tr>
                  ))}
                {invites.map((one) => (
                  <tr key={`invite ${String(one.id)}`}>
                    <td>
                      <Who>
                        <Initials aria-hidden>{initialsOf(one.full_name || one.email || "?")}</Initials>
                        <span>{one.full_name || one.email || "Somebody"}</span>
                      </Who>
                    </td>
                    <td>{one.role}</td>
                    <td colSpan={2}>
                      <small>
                        invited {since(one.made)}
                        {one.by && ` by ${one.by}`}, until {one.until.slice(0, 10)}
                      </small>
                    </td>
                    <td>
                      <WordButton onPress={() => takeBack.mutate(one.id)}>Take back</WordButton>
                    </td>
                  </tr>
                ))}
              </tbody>
            </Table>
          )}
        </Room>
        {chosen && <AccountPanel key={chosen.username} account={chosen} team={members} onClose={() => choose(null)} />}
      </Split>
      {adding === "person" && <InviteSheet mails={team?.mail ?? false} onClose={() => setAdding(null)} />}
      {adding === "service" && (
        <ServiceSheet
          onClose={() => setAdding(null)}
          onAdded={(name) => {
            setAdding(null);
            choose(name);
          }}
        />
      )}
    </Rooms>
  );
}
