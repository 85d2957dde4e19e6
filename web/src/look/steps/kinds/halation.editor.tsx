import type { StepOf } from "../../../api/types";
import { ColourField } from "../../../kit/ColourField";
import { Spread } from "../graph/Spread";
import { Settings } from "../settings/Settings";
import type { EditorProps } from "../editor";

type Halation = StepOf<"halation">;

const settings = {
  amount: { label: "Amount", low: 0, high: 4, neutral: 0, step: 0.02, digits: 2 },
  threshold: { label: "Brighter than", low: 0, high: 16, neutral: 0.7, step: 0.02, digits: 2, unit: "light" },
  radius: {
    label: "Radius",
    low: 0.001,
    high: 0.05,
    neutral: 0.006,
    step: 0.0005,
    digits: 4,
    unit: "h",
    inPowers: true,
  },
  wide: { label: "of it wide", low: 0, high: 1, neutral: 0, step: 0.01, digits: 2 },
  wide_radius: {
    label: "Wide radius",
    low: 0.001,
    high: 0.1,
    neutral: 0.03,
    step: 0.001,
    digits: 4,
    unit: "h",
    inPowers: true,
  },
} as const;

export default function HalationEditor({ step, picture, change, done }: EditorProps<Halation>) {
  return (
    <>
      <Spread picture={picture} radius={step.radius ?? 0.006} kind="glow" words="How far the fringe reaches" />
      <Settings title="Halation" step={step} settings={settings} change={change} done={done} />
      <ColourField
        label="Tint of the fringe"
        value={step.tint ?? [1, 0.35, 0.1]}
        onDone={done}
        onChange={(tint, moving) =>
          change("Halation: tint", (before) => ({ ...before, tint }), moving ? "tint" : undefined)
        }
      />
    </>
  );
}
