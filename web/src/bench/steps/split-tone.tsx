import { useState } from "react";
import styled, { useTheme } from "styled-components";
import type { SplitTone, Tint } from "../../api/types";
import { Choice } from "../../kit/Choice";
import { SettingBar, type Setting } from "../../kit/SettingBar";
import { pathOf } from "../graph/points";
import { Ramp } from "../graph/Ramp";
import { Settings } from "../settings/Settings";
import { defineEditor, type EditorProps } from "./editors";

type Zone = "shadows" | "midtones" | "highlights" | "all";
const zones: readonly (readonly [Zone, string])[] = [["shadows", "Shadows"], ["midtones", "Midtones"], ["highlights", "Highlights"], ["all", "All"]];
const [WIDTH, HEIGHT] = [312, 64];

const tints: Readonly<Record<"hue" | "amount" | "lightness", Setting>> = {
  hue: { label: "Hue", low: 0, high: 360, neutral: 0, step: 1, digits: 0, unit: "°" },
  amount: { label: "Amount", low: 0, high: 0.3, neutral: 0, step: 0.001, digits: 3, unit: "C" },
  lightness: { label: "Lightness", low: -0.3, high: 0.3, neutral: 0, step: 0.005, digits: 3, unit: "L" },
};
const shape = {
  lean: { label: "Lean", low: -1, high: 1, neutral: 0, step: 0.01, digits: 2 },
  overlap: { label: "Overlap", low: 0, high: 1, neutral: 0.5, step: 0.01, digits: 2 },
} as const;

const Svg = styled.svg`
  display: block; width: calc(100% - 16px); margin: 4px 8px 0; height: auto;
`;
const Row = styled.div`
  display: flex; align-items: center; gap: 8px; margin: 12px 0 2px;
`;
const Swatch = styled.span`
  width: 18px; height: 18px; border-radius: 50%; margin-left: auto; border: 1px solid ${(p) => p.theme.tokens.line}; flex: none;
`;

function SplitToneEditor({ step, sketch, change, done }: EditorProps<SplitTone>) {
  const { tokens } = useTheme();
  const [zone, setZone] = useState<Zone>("shadows");
  const tint: Tint = step[zone] ?? {};
  const lines = sketch?.lines ?? {};
  const set = (what: string, next: Partial<Tint>, gesture?: string) => change(`Split tone: ${zone} ${what}`, (before) => ({ ...before, [zone]: { ...before[zone], ...next } }), gesture);
  return (
    <>
      <Ramp after={sketch?.ramp} />
      <Svg viewBox={`0 0 ${WIDTH} ${HEIGHT}`} role="img" aria-label="How much of each zone acts, from black to white">
        <rect width={WIDTH} height={HEIGHT} rx={4} fill={tokens.graph.field} />
        <g transform={`scale(1 ${HEIGHT / WIDTH})`}>
          {Object.entries(lines).map(([name, values]) => (
            <path key={name} d={pathOf(values, WIDTH)} fill="none" stroke={tokens.graph.master} strokeWidth={name === zone ? 2.4 : 1.2} strokeOpacity={name === zone ? 1 : 0.4} vectorEffect="non-scaling-stroke" />
          ))}
        </g>
      </Svg>
      <Row>
        <Choice label="Zone" value={zone} options={zones} onChange={setZone} />
        <Swatch role="img" aria-label="The tint" style={{ background: `oklch(0.72 ${tint.amount ?? 0} ${tint.hue ?? 0})` }} />
      </Row>
      {(Object.entries(tints) as ["hue" | "amount" | "lightness", Setting][]).map(([field, setting]) => (
        <SettingBar key={field} {...setting} value={tint[field] ?? setting.neutral} onDone={done}
          onChange={(value, moving) => set(setting.label.toLowerCase(), { [field]: value }, moving ? `${zone} ${field}` : undefined)} />
      ))}
      <Settings title="Split tone" step={step} settings={shape} change={change} done={done} />
    </>
  );
}

export default defineEditor<SplitTone>({ kind: "split-tone", title: "Split tone", purpose: "tint shadows, midtones and highlights", fresh: () => ({ kind: "split-tone" }), example: { shadows: { hue: 250, amount: 0.05 }, highlights: { hue: 75, amount: 0.04 } }, Editor: SplitToneEditor });
