import type { StepOf } from "../../../api/types";
import { LineGraph } from "../graph/LineGraph";
import { Settings } from "../settings/Settings";
import type { EditorProps } from "../editor";

type Saturation = StepOf<"saturation">;

const MOST = 3;
const settings = {
  factor: { label: "Saturation", low: 0, high: MOST, neutral: 1, step: 0.01, digits: 2, unit: "x" },
  muted: { label: "Muted colours", low: -1, high: 1, neutral: 0, step: 0.01, digits: 2 },
} as const;

export default function SaturationEditor({ step, sketch, change, done }: EditorProps<Saturation>) {
  const line = sketch?.lines["factor"]?.map((factor) => Math.min(1, factor / MOST));
  return (
    <>
      <LineGraph
        label="The factor, from grey to fully saturated colours"
        line={line}
        height={96}
        neutral={1 / MOST}
        ends={["muted colours", "vivid colours"]}
      />
      <Settings title="Saturation" step={step} settings={settings} change={change} done={done} />
    </>
  );
}
