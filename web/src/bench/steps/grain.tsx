import type { Grain } from "../../api/types";
import { Toggle } from "../../kit/Toggle";
import { Settings } from "../settings/Settings";
import { defineEditor, type EditorProps } from "./editors";

const settings = {
  amount: { label: "Amount", low: 0, high: 1, neutral: 0, step: 0.01, digits: 2 },
  size: { label: "Size", low: 0.0003, high: 0.02, neutral: 0.0018, step: 0.0001, digits: 4, unit: "h", inPowers: true },
} as const;

function GrainEditor({ step, change, done }: EditorProps<Grain>) {
  return (
    <>
      <Settings title="Grain" step={step} settings={settings} change={change} done={done} />
      <Toggle label="Each channel its own grain" showLabel isOn={step.colour ?? false} onChange={(on) => change("Grain: colour", (before) => ({ ...before, colour: on }))} />
    </>
  );
}

export default defineEditor<Grain>({ kind: "grain", title: "Grain", purpose: "noise like that of film", fresh: () => ({ kind: "grain", amount: 0.2 }), Editor: GrainEditor });
