import { useQuery } from "@tanstack/react-query";
import { wordsFor } from "../../api/client";
import { everybodysJobs, useCancelAnybodys } from "../../api/running";
import type { TeamJob } from "../../api/types";
import { kindOfJob } from "../../jobs/kinds";
import { WordButton } from "../../kit/Button";
import { Notice } from "../../kit/Notice";
import { PlainTable } from "../../kit/PlainTable";
import { since } from "../../kit/since";
import { Room, RoomHead, Rooms } from "../Rooms";

const isGoing = (one: TeamJob) => one.state === "waiting" || one.state === "running";
function stateOf(one: TeamJob): string {
  const again = one.attempts > 1 ? `, begun ${String(one.attempts)} times` : "";
  if (one.state === "running") return `${String(Math.round(one.progress * 100))} %${again}`;
  return `${one.state}${again}`;
}

/** Everybody's jobs: what goes on first. */
export function JobsPage() {
  const { data: jobs, error } = useQuery(everybodysJobs);
  const cancel = useCancelAnybodys();
  const going = jobs?.filter(isGoing).length ?? 0;
  return (
    <Rooms>
      <Room>
        <RoomHead>
          <h1>Jobs of all</h1>
          {jobs && <p>{going === 0 ? "nothing goes on" : `${String(going)} under way or waiting`}</p>}
        </RoomHead>
        {(error ?? cancel.error) && <Notice>{wordsFor(error ?? cancel.error)}</Notice>}
        {jobs?.length === 0 && <p>Bakes, packs, graded pictures and deliveries of everybody stand here.</p>}
        {jobs && jobs.length > 0 && (
          <PlainTable aria-label="Jobs of all">
            <thead>
              <tr>
                <th>What</th>
                <th>Whose</th>
                <th>State</th>
                <th>Asked for</th>
                <th>Ended</th>
                <th>What went wrong</th>
                <th aria-label="Actions" />
              </tr>
            </thead>
            <tbody>
              {jobs.map((one) => (
                <tr key={one.id}>
                  <td>{kindOfJob(one.kind)}</td>
                  <td>{one.person}</td>
                  <td>{stateOf(one)}</td>
                  <td>{since(one.created)}</td>
                  <td>{one.finished ? since(one.finished) : ""}</td>
                  <td>{one.problem}</td>
                  <td>
                    {isGoing(one) && (
                      <WordButton
                        aria-label={`Cancel ${kindOfJob(one.kind)} of ${one.person}`}
                        onPress={() => cancel.mutate(one.id)}
                      >
                        Cancel
                      </WordButton>
                    )}
                  </td>
                </tr>
              ))}
            </tbody>
          </PlainTable>
        )}
      </Room>
    </Rooms>
  );
}
