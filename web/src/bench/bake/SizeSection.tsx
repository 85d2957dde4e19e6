import { useQuery } from "@tanstack/react-query";
import styled from "styled-components";
import { encodings as encodingsQuery } from "../../api/encodings";
import { Secondary } from "../../kit/Button";
import { NumberBox } from "../../kit/NumberBox";
import { FieldLabel } from "../../kit/FieldLabel";
import { Row, Section } from "./layout";
import { SizeChart } from "./SizeChart";
import type { BakeChoices } from "./useBakeChoices";
import type { Surveys } from "./useSurveys";

const Inline = styled.label`
  display: inline-flex;
  align-items: center;
  gap: 6px;
  color: ${(p) => p.theme.tokens.soft};
  input {
    width: 44px;
    text-align: center;
    border: 1px solid ${(p) => p.theme.tokens.line};
    border-radius: 6px;
    background: ${(p) => p.theme.tokens.glaze};
    color: ${(p) => p.theme.tokens.ink};
  }
`;

const Instead = styled.div`
  display: flex;
  align-items: center;
  gap: 12px;
  font-size: ${(p) => p.theme.tokens.size.small};
  > span {
    flex: 1;
  }
  button {
    white-space: nowrap;
  }
`;

function wordsOf({ watched }: Surveys, tolerance: number): string {
  const { found, problem } = watched;
  if (problem !== null) return "Not measured: this format cannot hold what is baked.";
  if (!found) return "Measuring…";
  if (found.sizes[0]?.size === 0) return "Written as curves or formulas: there is no size to choose.";
  if (found.proposed === null) return `No size in the chart keeps 99 % of the colours below ${tolerance}.`;
  return `${found.proposed} is the smallest that keeps 99 % of the colours below ${tolerance}.`;
}

const wordsOfError = (measured: Surveys["measured"]) => (measured ? measured.p99.toFixed(2) : "not measured");

/** How many grid points a side, with the measured error of each size. */
export function SizeSection({ chosen: { choices, set }, surveys }: { chosen: BakeChoices; surveys: Surveys }) {
  const { data: encodings = [] } = useQuery(encodingsQuery);
  const { measured } = surveys;
  const { found } = surveys.watched;
  const here = encodings.find((one) => one.id === found?.expects);
  const isLinear = here?.linear ?? false;
  const instead = found?.instead ?? null;
  const there = instead?.p99[found?.sizes.findIndex((one) => one.size === measured?.size) ?? -1];
  return (
    <Section aria-label="Size">
      <Row>
        <h3>Size</h3>
        <span>
          <Inline>
            grid points a side{" "}
            <NumberBox
              label="Grid points a side"
              value={choices.size}
              low={2}
              high={129}
              step={1}
              digits={0}
              onChange={(value) => set({ size: Math.round(value) })}
            />
          </Inline>{" "}
          <Inline>
            tolerance{" "}
            <NumberBox
              label="Tolerance, CIEDE2000"
              value={choices.tolerance}
              low={0.01}
              high={20}
              step={0.1}
              digits={2}
              neutral={0.5}
              onChange={(tolerance) => set({ tolerance })}
            />
          </Inline>
        </span>
      </Row>
      <SizeChart
        found={surveys.watched.found}
        sizes={surveys.sizes}
        size={surveys.watched.size}
        tolerance={choices.tolerance}
        onChange={(size) => set({ size })}
      />
      <FieldLabel elementType="span">{wordsOf(surveys, choices.tolerance)}</FieldLabel>
      {isLinear && (
        <span>
          <Inline>
            light held above{" "}
            <NumberBox
              label="Light held above"
              value={choices.lightTop}
              low={1}
              high={65504}
              step={1}
              digits={1}
              neutral={16}
              onChange={(lightTop) => set({ lightTop })}
            />
          </Inline>{" "}
          <Inline>
            even in stops from{" "}
            <NumberBox
              label="Nodes even in stops from this light on"
              value={choices.lightToe}
              low={0.00001}
              high={1}
              step={0.001}
              digits={5}
              neutral={0.01}
              onChange={(lightToe) => set({ lightToe })}
            />
          </Inline>
        </span>
      )}
      {instead && there !== undefined && here && (
        <Instead>
          <span>
            {here.name} needs a table in front of the lattice: {wordsOfError(measured)} at {measured?.size}. Made to
            expect {instead.name} it needs none: {there.toFixed(2)}.
          </span>
          <Secondary onPress={() => set({ expects: instead.expects })}>Expect {instead.name}</Secondary>
        </Instead>
      )}
    </Section>
  );
}
