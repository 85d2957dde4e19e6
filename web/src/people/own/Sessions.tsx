import { useQuery } from "@tanstack/react-query";
import { wordsFor } from "../../api/client";
import { ownSessions, useEndOthers, useEndSession } from "../../api/own";
import { Secondary, WordButton } from "../../kit/Button";
import { Notice } from "../../kit/Notice";
import { PlainTable } from "../../kit/PlainTable";
import { since } from "../../kit/since";
import { Part } from "../Rooms";

export function Sessions() {
  const { data: sessions, error } = useQuery(ownSessions);
  const end = useEndSession();
  const endOthers = useEndOthers();
  const trouble = error ?? end.error ?? endOthers.error;
  return (
    <Part aria-label="Where you are signed in">
      <h2>Where you are signed in</h2>
      {trouble && <Notice>{wordsFor(trouble)}</Notice>}
      {sessions && (
        <PlainTable aria-label="Sessions">
          <thead>
            <tr>
              <th>Browser</th>
              <th>From</th>
              <th>Since</th>
              <th>Last used</th>
              <th aria-label="Actions" />
            </tr>
          </thead>
          <tbody>
            {sessions.map((one) => (
              <tr key={one.id}>
                <td>{one.browser}</td>
                <td>{one.address}</td>
                <td>{since(one.since)}</td>
                <td>{one.is_this ? "this one" : since(one.seen)}</td>
                <td>
                  {!one.is_this && (
                    <WordButton aria-label={`End ${one.browser}, ${one.address}`} onPress={() => end.mutate(one.id)}>
                      End
                    </WordButton>
                  )}
                </td>
              </tr>
            ))}
          </tbody>
        </PlainTable>
      )}
      {sessions && sessions.length > 1 && <Secondary onPress={() => endOthers.mutate()}>End all others</Secondary>}
    </Part>
  );
}
