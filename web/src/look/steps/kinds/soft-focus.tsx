import type { StepOf } from "../../../api/types";
import { Glow } from "../graph/Glow";
import { Spread } from "../graph/Spread";
import { Settings } from "../settings/Settings";
import { defineEditor, type EditorProps } from "../editor";

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

function SoftFocusEditor({ step, picture, change, done }: EditorProps<SoftFocus>) {
  return (
    <>
      <Spread picture={picture} radius={step.radius ?? 0.01} kind="glow" words="How far a point spreads" />
      <Settings title="Soft focus" step={step} settings={settings} change={change} done={done} />
    </>
  );
}

function Spark({ step }: { step: SoftFocus }) {
  return <Glow reach={(step.radius ?? 0.01) / 0.03} strength={(step.amount ?? 0) / 2} />;
}

export default defineEditor<SoftFocus>({
  kind: "soft-focus",
  title: "Soft focus",
  purpose: "a soft picture over the sharp one",
  fresh: () => ({ kind: "soft-focus", amount: 0.3 }),
  Spark,
  Editor: SoftFocusEditor,
});
