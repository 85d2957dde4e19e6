import { useEffect, useState } from "react";
import styled from "styled-components";
import { wordsFor } from "../../api/client";
import { fetchBaked } from "../../api/seen";
import type { BakeChoice, Fidelity, FormatChoice, Look, Picture, SizeFidelity } from "../../api/types";
import { Compare, type Wipe } from "../../kit/Compare";
import { Notice } from "../../kit/Notice";
import { withoutMarks } from "../../kit/PlainList";

const Field = styled.div`
  position: relative;
  display: grid;
  min-height: 272px;
  background: ${(p) => p.theme.surround.field};
  color: ${(p) => p.theme.surround.ink};
  em {
    position: absolute;
    bottom: 5px;
    font-style: normal;
    font-size: ${(p) => p.theme.tokens.size.small};
  }
`;
const Spot = styled.i`
  position: absolute;
  display: grid;
  place-items: center;
  width: 18px;
  height: 18px;
  margin: -9px;
  border-radius: 50%;
  font-style: normal;
  font-size: 11px;
  font-weight: 600;
  background: ${(p) => p.theme.tokens.onPicture};
  color: ${(p) => p.theme.tokens.ink};
  box-shadow: 0 0 0 1px ${(p) => p.theme.tokens.pictureEdge};
`;
const Figures = styled.table`
  width: 100%;
  border-collapse: collapse;
  font-size: ${(p) => p.theme.tokens.size.small};
  th {
    text-align: right;
    font-weight: 400;
    color: ${(p) => p.theme.tokens.soft};
    padding: 1px 0 1px 12px;
  }
  th:first-child,
  tbody th {
    text-align: left;
    padding-left: 0;
  }
  tr[data-decides] > * {
    color: ${(p) => p.theme.tokens.ink};
    font-weight: 600;
  }
  td {
    text-align: right;
    font-family: ${(p) => p.theme.tokens.numbers};
    font-variant-numeric: tabular-nums;
    padding: 1px 0 1px 12px;
  }
`;
const Swatches = styled.ol`
  ${withoutMarks}
  display: grid;
  grid-template-columns: repeat(6, 1fr);
  gap: 8px;
  li {
    display: grid;
    gap: 3px;
    min-width: 0;
  }
  div {
    display: flex;
    height: 34px;
    border-radius: 17px;
    overflow: hidden;
  }
  div span {
    flex: 1;
  }
  small {
    font-size: ${(p) => p.theme.tokens.size.small};
    color: ${(p) => p.theme.tokens.soft};
    text-align: center;
    white-space: nowrap;
  }
  b {
    font-family: ${(p) => p.theme.tokens.numbers};
    font-weight: 500;
    color: ${(p) => p.theme.tokens.ink};
  }
`;
const Part = styled.section`
  display: grid;
  gap: 6px;
  h3 {
    font-size: ${(p) => p.theme.tokens.size.small};
    font-weight: 500;
    color: ${(p) => p.theme.tokens.soft};
  }
  ul {
    margin: 0;
    padding-left: 16px;
  }
`;

interface Frames {
  readonly exact: ImageBitmap | null;
  readonly baked: ImageBitmap | null;
  readonly drawn: number;
  readonly problem: string | null;
}

/** The picture through the exact look and through the LUT as its file will hold it. */
function useFrames(
  look: Look,
  choice: BakeChoice,
  format: FormatChoice,
  size: number,
  picture: Picture | undefined,
  ready: boolean,
): Frames {
  const [frames, setFrames] = useState<Frames>({ exact: null, baked: null, drawn: 0, problem: null });
  const asked = picture && ready ? JSON.stringify({ look, choice: { ...choice, size }, picture: picture.id }) : null;
  const form = JSON.stringify(format);
  useEffect(() => {
    if (!asked) return undefined;
    const controller = new AbortController();
    const body = JSON.parse(asked) as { look: Look; choice: BakeChoice; picture: number };
    const wanted = [null, JSON.parse(form) as FormatChoice].map((one) =>
      fetchBaked({ ...body, format: one }, controller.signal),
    );
    void Promise.all(wanted).then(
      ([exact, baked]) =>
        setFrames((last) => ({ exact: exact ?? null, baked: baked ?? null, drawn: last.drawn + 1, problem: null })),
      (error: unknown) => {
        if (!controller.signal.aborted) setFrames((last) => ({ ...last, problem: wordsFor(error) }));
      },
    );
    return () => controller.abort();
  }, [asked, form]);
  return frames;
}

const colour = (rgb: readonly number[]) => `rgb(${rgb.map((value) => Math.round(value * 255)).join(" ")})`;
const SORTS = [
  ["picture", "This picture"],
  ["uniform", "Colours everywhere"],
  ["neutral", "Round grey"],
  ["dark", "In the dark"],
  ["skin", "Skin"],
] as const;

/** Name, figures and sort of each kind of colours that was measured. */
function rowsOf(sorts: SizeFidelity["colours"]) {
  return SORTS.flatMap(([sort, name]) => {
    const spread = sorts[sort];
    return spread ? [[name, spread, sort] as const] : [];
  });
}

const figure = (value: number) => (value < 10 ? value.toFixed(2) : value.toFixed(0));

interface Props {
  readonly look: Look;
  readonly choice: BakeChoice;
  readonly format: Required<FormatChoice>;
  readonly found: Fidelity | undefined;
  readonly measured: SizeFidelity | undefined;
  readonly problem: string | null;
  readonly picture: Picture | undefined;
}

/** The check: exact against baked on the current picture, the figures, the worst colours, what is lost and what is left out. */
export function CheckSide({ look, choice, format, found, measured, problem, picture }: Props) {
  const frames = useFrames(look, choice, format, measured?.size ?? choice.size ?? 33, picture, problem === null);
  const [wipe, setWipe] = useState<Wipe>({ x: 0.5, y: 0.5, angle: 0 });
  const tables = measured && [
    {
      unit: "CIEDE2000",
      rows: [
        ...rowsOf(measured.colours),
        ["Middles of cells", measured.cells, ""] as const,
        ["Read trilinearly", measured.trilinear, ""] as const,
      ],
    },
    ...(measured.itp ? [{ unit: "Delta E ITP", rows: rowsOf(measured.itp) }] : []),
  ];
  const places = measured?.worst.flatMap((worst, index) => (worst.place ? [{ index, place: worst.place }] : [])) ?? [];
  return (
    <>
      <Field>
        <Compare
          before={frames.exact}
          after={frames.baked}
          drawn={frames.drawn}
          wipe={wipe}
          onWipe={setWipe}
          inset={22}
          label={`${picture?.name ?? "No picture"}, exact to the left, baked to the right`}
          over={places.map(({ index, place }) => (
            <Spot key={index} style={{ left: `${place[0] * 100}%`, top: `${place[1] * 100}%` }}>
              {index + 1}
            </Spot>
          ))}
        />
        <em style={{ left: 24 }}>Exact</em>
        <em style={{ right: 24 }}>Baked</em>
      </Field>
      {(problem ?? frames.problem) && <Notice>{problem ?? frames.problem}</Notice>}
      {tables?.map(({ unit, rows }) => (
        <Figures key={unit}>
          <thead>
            <tr>
              <th>Difference, {unit}</th>
              <th>mean</th>
              <th>95 %</th>
              <th>99 %</th>
              <th>largest</th>
            </tr>
          </thead>
          <tbody>
            {rows.map(([name, spread, sort]) => {
              const decides = sort === measured?.decided_by && spread.p99 === measured.p99;
              return (
                <tr key={name} data-decides={decides || undefined}>
                  <th scope="row">
                    {name}
                    {decides && ", decides"}
                  </th>
                  <td>{figure(spread.mean)}</td>
                  <td>{figure(spread.p95)}</td>
                  <td>{figure(spread.p99)}</td>
                  <td>{figure(spread.largest)}</td>
                </tr>
              );
            })}
          </tbody>
        </Figures>
      ))}
      {measured && measured.worst.length > 0 && (
        <Part aria-label="Worst colours">
          <h3>Worst colours: exact to the left, baked to the right</h3>
          <Swatches>
            {measured.worst.map((worst, index) => (
              <li
                key={index}
                title={`${worst.place ? "In the picture" : "Not in this picture"}: goes in as ${worst.source.map((v) => v.toFixed(3)).join(" ")}`}
              >
                <div>
                  <span style={{ background: colour(worst.exact) }} />
                  <span style={{ background: colour(worst.baked) }} />
                </div>
                <small>
                  {worst.place ? `${index + 1}: ` : ""}
                  <b>{figure(worst.difference)}</b>
                </small>
              </li>
            ))}
          </Swatches>
        </Part>
      )}
      {found && (found.lost.length > 0 || found.left_out.length > 0) && (
        <Part aria-label="What the file will not hold">
          <h3>What the file will not hold</h3>
          <ul>
            {found.left_out.map((words) => (
              <li key={words}>{words}: works on places, not on colours, so no LUT can hold it</li>
            ))}
            {found.lost.map((words) => (
              <li key={words}>{words}</li>
            ))}
          </ul>
        </Part>
      )}
    </>
  );
}
