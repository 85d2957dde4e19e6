import type { StepOf } from "../../../api/types";
import { Choice } from "../../../kit/Choice";
import { LineGraph } from "../graph/LineGraph";
import { Ramp } from "../graph/Ramp";
import { Settings } from "../settings/Settings";
import type { EditorProps } from "../editor";

type Tone = StepOf<"tone">;

const settings = {
  exposure: { label: "Exposure", low: -8, high: 8, neutral: 0, step: 0.05, digits: 2, unit: "EV" },
  contrast: { label: "Contrast", low: 0.2, high: 5, neutral: 1, step: 0.02, digits: 2, inPowers: true },
  pivot: { label: "Pivot", low: 0.001, high: 1, neutral: 0.18, step: 0.01, digits: 3, inPowers: true },
  toe: { label: "Toe", low: -1, high: 1, neutral: 0, step: 0.01, digits: 2 },
  shoulder: { label: "Shoulder", low: -1, high: 1, neutral: 0, step: 0.01, digits: 2 },
  brightness: { label: "Brightness", low: -1, high: 1, neutral: 0, step: 0.01, digits: 2 },
} as const;

export default function ToneEditor({ step, sketch, reaching, change, done }: EditorProps<Tone>) {
  return (
    <>
      <LineGraph
        label="What becomes of each tone"
        line={sketch?.lines["all"]}
        counts={reaching?.[3]}
        height={200}
        neutral="diagonal"
        ends={["black", "white"]}
      />
      <Ramp after={sketch?.ramp} />
      <Settings title="Tone" step={step} settings={settings} change={change} done={done} />
      <Choice
        titled
        label="Contrast acts on"
        value={step.contrast_on ?? "code"}
        options={[
          ["code", "Code values"],
          ["light", "Light, in stops"],
        ]}
        onChange={(on) => change("Tone: what contrast acts on", (before) => ({ ...before, contrast_on: on }))}
      />
    </>
  );
}
