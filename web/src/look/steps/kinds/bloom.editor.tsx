import type { StepOf } from "../../../api/types";
import { Spread } from "../graph/Spread";
import { Settings } from "../settings/Settings";
import type { EditorProps } from "../editor";

type Bloom = StepOf<"bloom">;

const settings = {
  amount: { label: "Amount", low: 0, high: 2, neutral: 0, step: 0.02, digits: 2 },
  threshold: { label: "Brighter than", low: 0, high: 16, neutral: 0.8, step: 0.02, digits: 2, unit: "light" },
  radius: { label: "Radius", low: 0.001, high: 0.08, neutral: 0.02, step: 0.001, digits: 3, unit: "h", inPowers: true },
} as const;

export default function BloomEditor({ step, picture, change, done }: EditorProps<Bloom>) {
  return (
    <>
      <Spread picture={picture} radius={step.radius ?? 0.02} kind="glow" words="How far a light spreads" />
      <Settings title="Bloom" step={step} settings={settings} change={change} done={done} />
    </>
  );
}
