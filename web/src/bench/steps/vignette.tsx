import type { Vignette } from "../../api/types";
import { LineGraph } from "../graph/LineGraph";
import { Settings } from "../settings/Settings";
import { defineEditor, type EditorProps } from "./editors";

const settings = {
  amount: { label: "Amount", low: 0, high: 1, neutral: 0, step: 0.01, digits: 2 },
  midpoint: { label: "Midpoint", low: 0.05, high: 1.5, neutral: 0.75, step: 0.01, digits: 2 },
  feather: { label: "Feather", low: 0.01, high: 2, neutral: 0.7, step: 0.01, digits: 2 },
  roundness: { label: "Roundness", low: 0, high: 1, neutral: 0, step: 0.01, digits: 2 },
} as const;

function VignetteEditor({ step, sketch, change, done }: EditorProps<Vignette>) {
  return (
    <>
      <LineGraph label="How much of the colour, from the middle to a corner" line={sketch?.lines["weight"]} height={96} neutral={0} ends={["middle", "corner"]} />
      <Settings title="Vignette" step={step} settings={settings} change={change} done={done} />
    </>
  );
}

export default defineEditor<Vignette>({ kind: "vignette", title: "Vignette", purpose: "darker towards the edges", fresh: () => ({ kind: "vignette", amount: 0.3 }), Editor: VignetteEditor });
