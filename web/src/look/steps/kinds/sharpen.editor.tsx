import type { StepOf } from "../../../api/types";
import { Spread } from "../graph/Spread";
import { Settings } from "../settings/Settings";
import type { EditorProps } from "../editor";

type Sharpen = StepOf<"sharpen">;

const settings = {
  amount: { label: "Amount", low: 0, high: 4, neutral: 0, step: 0.02, digits: 2 },
  radius: {
    label: "Radius",
    low: 0.0002,
    high: 0.01,
    neutral: 0.001,
    step: 0.0001,
    digits: 4,
    unit: "h",
    inPowers: true,
  },
  threshold: { label: "Threshold", low: 0, high: 0.1, neutral: 0, step: 0.001, digits: 3 },
} as const;

export default function SharpenEditor({ step, picture, change, done }: EditorProps<Sharpen>) {
  return (
    <>
      <Spread picture={picture} radius={step.radius ?? 0.001} kind="glow" words="How wide an edge is taken to be" />
      <Settings title="Sharpen" step={step} settings={settings} change={change} done={done} />
    </>
  );
}
