import styled from "styled-components";
import { NumberBox } from "../../kit/NumberBox";
import { FieldLabel } from "../../kit/Picker";
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

function wordsOf({ watched }: Surveys, tolerance: number): string {
  const { found, problem } = watched;
  if (problem !== null) return "Not measured: this format cannot hold what is baked.";
  if (!found) return "Measuring…";
  if (found.sizes[0]?.size === 0) return "Written as curves or formulas: there is no size to choose.";
  if (found.proposed === null) return `No size in the chart keeps 99 % of the colours below ${tolerance}.`;
  return `${found.proposed} is the smallest that keeps 99 % of the colours below ${tolerance}.`;
}

/** How many grid points a side, with the measured error of each size. */
export function SizeSection({ chosen: { choices, set }, surveys }: { chosen: BakeChoices; surveys: Surveys }) {
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
    </Section>
  );
}
