import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Link } from "react-router";
import { wordsFor } from "../../api/client";
import { misfits as misfitsQuery, useCheck, useSetTolerances, type Tolerances } from "../../api/projects";
import type { Project } from "../../api/types";
import { JobLine } from "../../jobs/JobLine";
import { useOutcome } from "../../jobs/useOutcome";
import { AtMost, Limits } from "../../kit/AtMost";
import { Primary, Secondary } from "../../kit/Button";
import { Notice } from "../../kit/Notice";
import { WordList } from "../../kit/PlainList";
import { Sheet, SheetBody, SheetFoot } from "../../kit/Sheet";

interface Row {
  readonly name: keyof Tolerances;
  readonly words: string;
  readonly unit: string;
  readonly by: number;
  readonly high: number;
}

const ROWS: readonly Row[] = [
  { name: "clipped", words: "Clipped by the look", unit: "% of the picture", by: 100, high: 100 },
  { name: "crushed", words: "Crushed by the look", unit: "% of the picture", by: 100, high: 100 },
  { name: "merged", words: "Tones that fall together", unit: "%", by: 100, high: 100 },
  { name: "lightness", words: "Lighter or darker than the others", unit: "of lightness, 0 to 1", by: 1, high: 1 },
  { name: "cast", words: "Another cast than the others", unit: "of OKLab colour", by: 1, high: 1 },
  { name: "skin", words: "Skin turned", unit: "degrees of hue", by: 1, high: 180 },
];

/** How well looks sit on their shots: measured for all of them, held against what the project allows. */
export function CheckSheet({ project, onClose }: { project: Project; onClose: () => void }) {
  const { data, error } = useQuery(misfitsQuery(project.id));
  const check = useCheck(project.id);
  const set = useSetTolerances(project.id);
  const [job, setJob] = useState<number | null>(null);
  const { running } = useOutcome(job, ["projects", "shot"], () => undefined);
  const found = project.shots.filter((one) => one.misfits.length > 0);
  return (
    <Sheet title="Misfits" isOpen onClose={onClose} width="600px">
      <SheetBody>
        {data && (
          <Limits role="group" aria-label="What is allowed">
            {ROWS.map(({ name, words, unit, by, high }) => (
              <AtMost
                key={name}
                words={words}
                unit={unit}
                high={high}
                digits={by === 100 || name === "skin" ? 1 : 3}
                value={(data.tolerances[name] ?? 0) * by}
                onChange={(value) => set.mutate({ ...data.tolerances, [name]: value / by })}
              />
            ))}
          </Limits>
        )}
        <JobLine id={job} what="Measuring" cancelled="Cancelled. What was measured is kept." />
        {(error ?? check.error ?? set.error) && <Notice>{wordsFor(error ?? check.error ?? set.error)}</Notice>}
        {data && (
          <p role="status">
            {data.measured === 0
              ? "Nothing was measured yet."
              : `${String(data.measured)} of ${String(project.shots.length)} shots measured, ${String(found.length)} are misfits. They are kept current as shots change.`}
          </p>
        )}
        <WordList aria-label="Misfits">
          {found.map((shot) => (
            <li key={shot.id}>
              <Link to={`/projects/${String(project.id)}/shots/${String(shot.id)}`}>{shot.code}</Link>
              <span>{shot.misfits.join("; ")}</span>
            </li>
          ))}
        </WordList>
      </SheetBody>
      <SheetFoot>
        <Secondary onPress={onClose}>Close</Secondary>
        {project.may_work && (
          <Primary
            isPending={check.isPending || running}
            onPress={() => check.mutate(undefined, { onSuccess: ({ id }) => setJob(id) })}
          >
            Measure all
          </Primary>
        )}
      </SheetFoot>
    </Sheet>
  );
}
