import type { StepOf } from "../../../api/types";
import { ColourField } from "../../../kit/ColourField";
import { Glow } from "../graph/Glow";
import { Spread } from "../graph/Spread";
import { Settings } from "../settings/Settings";
import { defineEditor, type EditorProps } from "../editor";

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
} as const;

function HalationEditor({ step, picture, change, done }: EditorProps<Halation>) {
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

function Spark({ step }: { step: Halation }) {
  const [red, green, blue] = step.tint ?? [1, 0.35, 0.1];
  return (
    <Glow
      reach={(step.radius ?? 0.006) / 0.02}
      strength={(step.amount ?? 0) / 3}
      colour={`rgb(${red * 255} ${green * 255} ${blue * 255})`}
    />
  );
}

export default defineEditor<Halation>({
  kind: "halation",
  title: "Halation",
  purpose: "a warm fringe round bright edges",
  fresh: () => ({ kind: "halation", amount: 0.8 }),
  Spark,
  Editor: HalationEditor,
});
