import type { StepOf } from "../../../api/types";
import { Choice } from "../../../kit/Choice";
import { Spread } from "../graph/Spread";
import { Settings } from "../settings/Settings";
import type { EditorProps } from "../editor";

type SoftFocus = StepOf<"soft-focus">;

const settings = {
  amount: { label: "Amount", low: 0, high: 1, neutral: 0, step: 0.01, digits: 2 },
  radius: {
    label: "Radius",
    low: 0.0005,
    high: 0.05,
    neutral: 0.01,
    step: 0.0005,
    digits: 4,
    unit: "h",
    inPowers: true,
  },
} as const;

export default function SoftFocusEditor({ step, picture, change, done }: EditorProps<SoftFocus>) {
  return (
    <>
      <Spread picture={picture} radius={step.radius ?? 0.01} kind="glow" words="How far a point spreads" />
      <Choice
        titled
        label="A point becomes"
        value={step.shape ?? "bell"}
        options={[
          ["bell", "A bell"],
          ["disc", "A lens's disc"],
        ]}
        onChange={(shape) => change("Soft focus: what a point becomes", (before) => ({ ...before, shape }))}
      />
      <Settings title="Soft focus" step={step} settings={settings} change={change} done={done} />
    </>
  );
}
