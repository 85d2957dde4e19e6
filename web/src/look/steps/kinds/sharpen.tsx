import { useTheme } from "styled-components";
import type { StepOf } from "../../../api/types";
import { Spread } from "../graph/Spread";
import { Settings } from "../settings/Settings";
import { defineEditor, type EditorProps } from "../editor";

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

function SharpenEditor({ step, picture, change, done }: EditorProps<Sharpen>) {
  return (
    <>
      <Spread picture={picture} radius={step.radius ?? 0.001} kind="glow" words="How wide an edge is taken to be" />
      <Settings title="Sharpen" step={step} settings={settings} change={change} done={done} />
    </>
  );
}

function Spark({ step }: { step: Sharpen }) {
  const { tokens } = useTheme();
  // An edge, and how far it overshoots.
  const over = Math.min(6, 1 + (step.amount ?? 0) * 3);
  return (
    <path
      d={`M1 18H13Q15 ${18 + over} 16.5 18L17.5 8Q19 ${8 - over} 21 8H33`}
      fill="none"
      stroke={tokens.graph.master}
      strokeWidth={1.6}
    />
  );
}

export default defineEditor<Sharpen>({
  kind: "sharpen",
  title: "Sharpen",
  purpose: "more detail along edges",
  fresh: () => ({ kind: "sharpen", amount: 0.6 }),
  Spark,
  Editor: SharpenEditor,
});
