import { useState } from "react";
import styled, { useTheme } from "styled-components";
import type { StepOf } from "../../../api/types";
import { Choice } from "../../../kit/Choice";
import { HueStrip } from "../../../kit/HueStrip";
import { SettingBar, type Setting } from "../../../kit/SettingBar";
import { Handle } from "../graph/Handle";
import { pathOf } from "../graph/points";
import { Settings } from "../settings/Settings";
import { SkinLeft } from "../settings/SkinLeft";
import type { EditorProps } from "../editor";

type SplitTone = StepOf<"split-tone">;
type Tint = NonNullable<SplitTone["shadows"]>;

type Zone = "shadows" | "midtones" | "highlights" | "all";
const zones: readonly (readonly [Zone, string])[] = [
  ["shadows", "Shadows"],
  ["midtones", "Midtones"],
  ["highlights", "Highlights"],
  ["all", "All"],
];
const [WIDTH, HEIGHT] = [312, 112];
/** Chroma at the top of the graph; more can be typed. */
const TOP = 0.12;

const tints: Readonly<Record<"hue" | "amount" | "lightness", Setting>> = {
  hue: { label: "Hue", low: 0, high: 360, neutral: 0, step: 1, digits: 0, unit: "°" },
  amount: { label: "Amount", low: 0, high: 0.3, neutral: 0, step: 0.001, digits: 3, unit: "C" },
  lightness: { label: "Lightness", low: -0.3, high: 0.3, neutral: 0, step: 0.005, digits: 3, unit: "L" },
};
const shape = {
  lean: { label: "Lean", low: -1, high: 1, neutral: 0, step: 0.01, digits: 2 },
  overlap: { label: "Overlap", low: 0, high: 1, neutral: 0.5, step: 0.01, digits: 2 },
} as const;

const Ribbon = styled.div`
  height: 18px;
  border-radius: 3px;
  margin: 10px 8px 0;
`;
const Svg = styled.svg`
  display: block;
  width: calc(100% - 16px);
  margin: 4px 8px 0;
  height: auto;
  overflow: visible;
`;
const Row = styled.div`
  display: flex;
  align-items: center;
  gap: 8px;
  margin: 10px 0 0;
`;

/** Where a zone has the most of its weight, 0..1 from black to white. */
function middleOf(weights: readonly number[] | undefined, fallback: number): number {
  if (!weights) return fallback;
  const sum = weights.reduce((total, weight) => total + weight, 0) || 1;
  return weights.reduce((total, weight, index) => total + (weight * index) / (weights.length - 1), 0) / sum;
}

export default function SplitToneEditor({ step, sketch, change, done }: EditorProps<SplitTone>) {
  const { tokens } = useTheme();
  const [zone, setZone] = useState<Zone>("shadows");
  const tint: Tint = step[zone] ?? {};
  const lines = sketch?.lines ?? {};
  const setIn = (which: Zone, what: string, next: Partial<Tint>, gesture?: string) =>
    change(
      `Split tone: ${which} ${what}`,
      (before) => ({ ...before, [which]: { ...before[which], ...next } }),
      gesture && `${which} ${gesture}`,
    );
  const amountAt = (y: number) => Math.round(Math.min(0.3, Math.max(0, ((HEIGHT - y) / HEIGHT) * TOP)) * 1000) / 1000;
  const stops = sketch?.ramp.map(([r, g, b]) => `rgb(${r} ${g} ${b})`).join(",");
  const lean = step.lean ?? 0;
  return (
    <>
      <Ribbon
        role="img"
        aria-label="Black to white with the tints they get"
        data-testid="tone-ribbon"
        style={{ background: stops ? `linear-gradient(90deg, ${stops})` : "none" }}
      />
      <Svg
        viewBox={`0 0 ${WIDTH} ${HEIGHT}`}
        role="group"
        aria-label="Zones from black to white; up is more tint"
        data-testid="zone-graph"
      >
        <rect width={WIDTH} height={HEIGHT} rx={4} fill={tokens.graph.field} />
        <g transform={`scale(1 ${HEIGHT / WIDTH})`}>
          {Object.entries(lines).map(([name, values]) => (
            <path
              key={name}
              d={`${pathOf(values, WIDTH)}L${WIDTH} ${WIDTH}L0 ${WIDTH}Z`}
              fill={`oklch(0.72 ${step[name as Zone]?.amount ? 0.1 : 0} ${step[name as Zone]?.hue ?? 0})`}
              fillOpacity={name === zone ? 0.38 : 0.16}
              stroke={tokens.graph.master}
              strokeOpacity={name === zone ? 1 : 0.35}
              strokeWidth={name === zone ? 1.8 : 1}
              vectorEffect="non-scaling-stroke"
            />
          ))}
        </g>
        {zones.slice(0, 3).map(([id, name], index) => {
          const own = step[id] ?? {};
          const x = middleOf(lines[id], 0.17 + 0.33 * index) * WIDTH;
          const y = HEIGHT - (Math.min(TOP, own.amount ?? 0) / TOP) * HEIGHT;
          return (
            <g key={id}>
              <path d={`M${x} ${HEIGHT}V${y}`} stroke={tokens.graph.diagonal} />
              <Handle
                x={x}
                y={y}
                r={7}
                label={`${name}: tint`}
                value={own.amount ?? 0}
                low={0}
                high={0.3}
                text={`amount ${(own.amount ?? 0).toFixed(3)}, hue ${(own.hue ?? 0).toFixed(0)} degrees`}
                isChosen={id === zone}
                fill={own.amount ? `oklch(0.72 0.125 ${own.hue ?? 0})` : tokens.glaze}
                onChoose={() => setZone(id)}
                onMove={(toX, toY) => {
                  setIn(id, "amount", { amount: amountAt(toY) }, "drag");
                  // All three move together: the middle of the tones leans with the midtones' marker.
                  if (id === "midtones" && Math.abs(toX - x) > 3)
                    change(
                      "Split tone: lean",
                      (before) => ({
                        ...before,
                        lean: Math.round(Math.min(1, Math.max(-1, lean + (toX - x) / WIDTH)) * 100) / 100,
                      }),
                      `${id} drag`,
                    );
                }}
                onNudge={(right, up) =>
                  right
                    ? change(
                        "Split tone: lean",
                        (before) => ({ ...before, lean: Math.min(1, Math.max(-1, (before.lean ?? 0) + right * 0.01)) }),
                        "lean",
                      )
                    : setIn(
                        id,
                        "amount",
                        { amount: Math.min(0.3, Math.max(0, (own.amount ?? 0) + up * 0.001)) },
                        "nudge",
                      )
                }
                onDone={done}
                onNeutral={() => setIn(id, "to neutral", { amount: 0, lightness: 0 })}
              />
            </g>
          );
        })}
      </Svg>
      <Row>
        <Choice label="Zone" value={zone} options={zones} onChange={setZone} />
      </Row>
      <HueStrip
        label={`Hue of the ${zone === "all" ? "whole range" : zone}`}
        value={tint.hue ?? 0}
        onDone={done}
        onChange={(hue) => setIn(zone, "hue", { hue, ...(tint.amount ? {} : { amount: 0.03 }) }, "strip")}
      />
      {(Object.entries(tints) as ["hue" | "amount" | "lightness", Setting][]).map(([field, setting]) => (
        <SettingBar
          key={field}
          {...setting}
          value={tint[field] ?? setting.neutral}
          onDone={done}
          onChange={(value, moving) =>
            setIn(zone, setting.label.toLowerCase(), { [field]: value }, moving ? field : undefined)
          }
        />
      ))}
      <Settings title="Split tone" step={step} settings={shape} change={change} done={done} />
      <SkinLeft title="Split tone" step={step} change={change} done={done} />
    </>
  );
}
