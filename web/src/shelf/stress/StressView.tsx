import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import styled from "styled-components";
import { wordsFor } from "../../api/client";
import { pictures as picturesQuery } from "../../api/pictures";
import { projects as projectsQuery } from "../../api/projects";
import { useMay } from "../../api/session";
import { stress as stressQuery, useTestLook } from "../../api/stress";
import type { Described, Stress } from "../../api/types";
import { JobLine } from "../../jobs/JobLine";
import { useOutcome } from "../../jobs/useOutcome";
import { Secondary } from "../../kit/Button";
import { Notice } from "../../kit/Notice";
import { Picker } from "../../kit/Picker";
import { withoutMarks } from "../../kit/PlainList";
import { PlainTable } from "../../kit/PlainTable";
import { ReportPage } from "../ReportPage";
import { measures } from "../../look/measures";
import { StressLine } from "./StressLine";

const COLUMNS = "minmax(0, 1.5fr) minmax(250px, 1fr)";
const Found = styled.ul`
  ${withoutMarks}
`;
const Beside = styled.div`
  display: grid;
  gap: 18px;
  align-content: start;
  td + td,
  th + th {
    text-align: right;
    white-space: nowrap;
  }
  tr[data-broken] td {
    font-weight: 600;
  }
`;
const Asking = styled.div`
  display: grid;
  gap: 10px;
  justify-items: start;
`;
const Soft = styled.p`
  color: ${(p) => p.theme.tokens.soft};
  margin: 0 0 4px;
`;
const AGREED = "agreed";
const ALL = "all";
const MOST = 200;

/** Over what a look is tested, and how far that has got. */
function Ask({ entry, isFirst }: { entry: Described; isFirst: boolean }) {
  const { data: pictures = [] } = useQuery(picturesQuery);
  const { data: projects = [] } = useQuery(projectsQuery);
  const [over, setOver] = useState(AGREED);
  const [jobId, setJobId] = useState<number | null>(null);
  const test = useTestLook(entry.id);
  const { running } = useOutcome(jobId, ["stress", "shelf", "review"], () => undefined);
  const stills = pictures.filter((one) => !one.of_shots).slice(0, MOST);
  const start = () => {
    const project = Number(over) || null;
    setJobId(null);
    test.mutate(
      { pictures: over === ALL ? stills.map((one) => one.id) : [], project },
      { onSuccess: (job) => setJobId(job.id) },
    );
  };
  return (
    <Asking role="group" aria-label="Test it">
      <Picker
        label="Over"
        options={[
          { id: AGREED, name: "The pictures for reviews" },
          { id: ALL, name: `All pictures, ${String(stills.length)}` },
          ...projects.map((one) => ({ id: String(one.id), name: `The shots of ${one.name}` })),
        ]}
        value={over}
        onChange={setOver}
      />
      {!running && (
        <Secondary isPending={test.isPending} onPress={start}>
          {isFirst ? "Find where it breaks" : "Test it again"}
        </Secondary>
      )}
      <JobLine id={jobId} what="Testing the look" cancelled="Cancelled. What was found before stays." />
      {test.error && <Notice>{wordsFor(test.error)}</Notice>}
    </Asking>
  );
}

/** As the measures are listed: what is kept has no order. */
const order = Object.keys(measures);
const inOrder = (figures: Stress["figures"]) =>
  [...figures].sort((a, b) => order.indexOf(a.what) - order.indexOf(b.what));

function Figures({ report }: { report: Stress }) {
  return (
    <PlainTable aria-label="Everything that was measured">
      <thead>
        <tr>
          <th>Measured</th>
          <th>Worst</th>
          <th>At most</th>
        </tr>
      </thead>
      <tbody>
        {inOrder(report.figures).map((one) => {
          const { name = one.what, told = String } = measures[one.what] ?? {};
          return (
            <tr key={one.what} data-broken={Math.abs(one.figure) > one.limit || undefined}>
              <td>{name}</td>
              <td>{told(one.figure)}</td>
              <td>{told(one.limit)}</td>
            </tr>
          );
        })}
        {report.sizes
          .filter((one) => one.nodes !== 33)
          .map((one) => (
            <tr key={one.nodes}>
              <td>As a LUT of {one.nodes}</td>
              <td>{one.apart.toFixed(1)} off</td>
              <td />
            </tr>
          ))}
      </tbody>
    </PlainTable>
  );
}

const counted = (count: number, noun: string) => `${String(count)} ${noun}${count === 1 ? "" : "s"}`;

/** Where a look breaks: over pictures, ramps and LUT sizes, with the step that does it and what would help. */
export function StressView({ entry }: { entry: Described }) {
  const { data: report, error } = useQuery(stressQuery(entry.id));
  const { data: pictures = [] } = useQuery(picturesQuery);
  const mayDesign = useMay("design");
  if (error)
    return (
      <ReportPage $columns={COLUMNS}>
        <Notice>{wordsFor(error)}</Notice>
      </ReportPage>
    );
  if (report === undefined)
    return (
      <ReportPage $columns={COLUMNS}>
        <Soft>Looking…</Soft>
      </ReportPage>
    );
  if (report === null)
    return (
      <ReportPage $columns={COLUMNS}>
        <section aria-label="What breaks">
          <h2>Not tested yet</h2>
          <Soft>
            A test goes over pictures, ramps of 10 bits and LUTs of three sizes, and says what breaks, where, by which
            step, and what would help.
          </Soft>
          {mayDesign ? <Ask entry={entry} isFirst /> : <Soft>A designer can test it.</Soft>}
        </section>
      </ReportPage>
    );
  return (
    <ReportPage $columns={COLUMNS}>
      <section aria-label="What breaks">
        <h2>{report.holds ? "It holds" : `Breaks in ${counted(report.breaks.length, "way")}`}</h2>
        <Soft>
          Version {report.version}, over {counted(report.pictures, "picture")}, {report.made.slice(0, 10)}
          {report.by && (
            <>
              , by <bdi>{report.by}</bdi>
            </>
          )}
          {!report.is_latest && ". There is a newer version, which is not tested"}
        </Soft>
        <Found>
          {report.breaks.map((one) => (
            <StressLine
              key={one.what}
              look={entry.id}
              version={report.version}
              one={one}
              picture={pictures.find((each) => each.id === one.picture)}
              mayTry={mayDesign && entry.may_change}
            />
          ))}
        </Found>
      </section>
      <Beside>
        {mayDesign && <Ask entry={entry} isFirst={false} />}
        <Figures report={report} />
      </Beside>
    </ReportPage>
  );
}
