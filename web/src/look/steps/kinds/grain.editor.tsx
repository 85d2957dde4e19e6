import styled from "styled-components";
import type { StepOf } from "../../../api/types";
import { WordButton } from "../../../kit/Button";
import { NumberBox } from "../../../kit/NumberBox";
import { Toggle } from "../../../kit/Toggle";
import { Spread } from "../graph/Spread";
import { Settings } from "../settings/Settings";
import type { EditorProps } from "../editor";

type Grain = StepOf<"grain">;

const settings = {
  amount: { label: "Amount", low: 0, high: 1, neutral: 0, step: 0.01, digits: 2 },
  size: { label: "Size", low: 0.0003, high: 0.02, neutral: 0.0018, step: 0.0001, digits: 4, unit: "h", inPowers: true },
} as const;

const Row = styled.div`
  display: grid;
  grid-template-columns: 92px 110px auto;
  gap: 12px;
  align-items: baseline;
  margin-bottom: 10px;
  justify-items: start;
  > span {
    color: ${(p) => p.theme.tokens.soft};
  }
  > div {
    width: 100%;
    border-bottom: 1px solid ${(p) => p.theme.tokens.line};
  }
`;

export default function GrainEditor({ step, picture, change, done }: EditorProps<Grain>) {
  return (
    <>
      <Spread picture={picture} radius={step.size ?? 0.0018} kind="dot" words="From grain to grain" />
      <Settings title="Grain" step={step} settings={settings} change={change} done={done} />
      <Row>
        <span>Pattern</span>
        <div>
          <NumberBox
            label="Number of the pattern"
            value={step.seed ?? 1}
            low={0}
            high={2147483647}
            step={1}
            digits={0}
            neutral={1}
            onChange={(seed) => {
              change("Grain: pattern", (before) => ({ ...before, seed: Math.round(seed) }));
              done();
            }}
          />
        </div>
        <WordButton
          onPress={() => {
            change("Grain: another pattern", (before) => ({
              ...before,
              seed: ((before.seed ?? 1) * 48271) % 2147483647,
            }));
            done();
          }}
        >
          Another one
        </WordButton>
      </Row>
      <Toggle
        label="Each channel its own grain"
        showLabel
        isOn={step.colour ?? false}
        onChange={(on) => change("Grain: colour", (before) => ({ ...before, colour: on }))}
      />
    </>
  );
}
