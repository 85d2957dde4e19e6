import { useRef, useState, type KeyboardEvent, type PointerEvent } from "react";
import styled, { useTheme } from "styled-components";
import type { HueBand, HueBands } from "../../api/types";
import { SettingBar, type Setting } from "../../kit/SettingBar";
import { defineEditor, type EditorProps } from "./editors";

const [WIDTH, HEIGHT] = [312, 92];
const GAP = 5;
const MOST = 3;
/** Where skin lies, in OKLCh degrees; common practice, no source. */
const SKIN = [35, 75] as const;
const centres = [29, 66, 110, 142, 195, 264, 300, 328] as const;

const settings: Readonly<Record<"hue" | "saturation" | "lightness", Setting>> = {
  hue: { label: "Hue", low: -60, high: 60, neutral: 0, step: 0.5, digits: 1, unit: "°" },
  saturation: { label: "Saturation", low: 0, high: MOST, neutral: 1, step: 0.01, digits: 2, unit: "x" },
  lightness: { label: "Lightness", low: -0.3, high: 0.3, neutral: 0, step: 0.005, digits: 3, unit: "L" },
};

const Ribbon = styled.div`
  height: 16px; border-radius: 3px; margin: 8px 8px 0;
`;
const Svg = styled.svg`
  display: block; width: calc(100% - 16px); margin: 4px 8px -4px; height: auto; overflow: visible; touch-action: none;
  circle { cursor: grab; }
  circle:focus { outline: none; }
  circle:focus-visible { stroke-width: 4; }
`;
const Note = styled.p`
  margin: 8px 8px 2px; font-size: ${(p) => p.theme.tokens.size.small}; color: ${(p) => p.theme.tokens.soft};
`;
const arrows: Readonly<Record<string, readonly [number, number]>> = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, 1], ArrowDown: [0, -1] };

function bandsOf(step: HueBands): readonly HueBand[] {
  return step.bands ?? centres.map((centre) => ({ centre, hue: 0, saturation: 1, lightness: 0 }));
}

/** A ribbon of the hue circle at the fingerprint's lightness and chroma, changed by the engine's lines where they are given. */
function ribbonOf(lines: Readonly<Record<string, readonly number[]>>): string {
  const count = 48;
  const at = (name: string, share: number, none: number) => lines[name]?.[Math.round(share * ((lines[name]?.length ?? 1) - 1))] ?? none;
  const stops = Array.from({ length: count + 1 }, (_, index) => {
    const share = index / count;
    return `oklch(${0.72 + at("lightness", share, 0)} ${0.125 * at("saturation", share, 1)} ${360 * share + at("hue", share, 0)})`;
  });
  return `linear-gradient(90deg in oklab, ${stops.join(",")})`;
}

function HueBandsEditor({ step, sketch, change, done }: EditorProps<HueBands>) {
  const { tokens } = useTheme();
  const svg = useRef<SVGSVGElement>(null);
  const [chosen, setChosen] = useState(0);
  const [dragging, setDragging] = useState(false);
  const bands = bandsOf(step);
  const band = bands[chosen] ?? bands[0];
  if (!band) return null;
  const lines = sketch?.lines ?? {};
  const factors = lines["saturation"];
  const xOf = (hue: number) => (hue / 360) * WIDTH;
  const yOf = (factor: number) => HEIGHT - (Math.min(MOST, factor) / MOST) * HEIGHT;

  const set = (index: number, what: string, next: Partial<HueBand>, gesture?: string) =>
    change(`Hue bands: ${what}`, (before) => ({ ...before, bands: bandsOf(before).map((one, i) => (i === index ? { ...one, ...next } : one)) }), gesture);

  /** A centre stays between its neighbours, and on the circle as it is unrolled. */
  function placed(index: number, centre: number): number {
    const low = index === 0 ? Math.max(0, (bands.at(-1)?.centre ?? 0) - 360 + GAP) : (bands[index - 1]?.centre ?? 0) + GAP;
    const high = index === bands.length - 1 ? Math.min(359.9, (bands[0]?.centre ?? 0) + 360 - GAP) : (bands[index + 1]?.centre ?? 360) - GAP;
    return Math.round(Math.min(high, Math.max(low, centre)) * 10) / 10;
  }

  function move(event: PointerEvent) {
    const box = svg.current?.getBoundingClientRect();
    if (!dragging || !box) return;
    const centre = placed(chosen, ((event.clientX - box.left) / box.width) * 360);
    const factor = Math.min(MOST, Math.max(0, (1 - (event.clientY - box.top) / box.height) * MOST));
    set(chosen, "move band", { centre, saturation: Math.round(factor * 100) / 100 }, `band ${chosen}`);
  }

  function release() {
    if (dragging) done();
    setDragging(false);
  }

  function onKeyDown(event: KeyboardEvent, index: number, one: HueBand) {
    const way = arrows[event.key];
    if (!way) return;
    const size = event.shiftKey ? 10 : event.altKey ? 0.1 : 1;
    const saturation = Math.round(Math.min(MOST, Math.max(0, (one.saturation ?? 1) + way[1] * size * 0.01)) * 1000) / 1000;
    set(index, "move band", { centre: placed(index, one.centre + way[0] * size), saturation }, `band ${index}`);
    event.preventDefault();
    event.stopPropagation();
  }

  return (
    <>
      <Ribbon role="img" aria-label="Hues as they come in" style={{ background: ribbonOf({}) }} />
      <Svg ref={svg} viewBox={`0 0 ${WIDTH} ${HEIGHT}`} role="group" aria-label="Bands: place across, saturation up" data-testid="hue-graph" onPointerMove={move} onPointerUp={release} onPointerCancel={release}>
        <rect width={WIDTH} height={HEIGHT} fill={tokens.graph.field} />
        <rect x={xOf(SKIN[0])} width={xOf(SKIN[1]) - xOf(SKIN[0])} height={HEIGHT} fill={tokens.hush} />
        <text x={xOf((SKIN[0] + SKIN[1]) / 2)} y={HEIGHT - 5} fontSize={10.5} textAnchor="middle" fill={tokens.soft}>skin</text>
        <path d={`M0 ${yOf(1)}H${WIDTH}`} stroke={tokens.graph.diagonal} strokeDasharray="3 4" />
        {factors && <path d={factors.map((y, i) => `${i ? "L" : "M"}${((i / (factors.length - 1)) * WIDTH).toFixed(1)} ${yOf(y).toFixed(1)}`).join("")} fill="none" stroke={tokens.graph.master} strokeWidth={2} />}
        {bands.map((one, index) => (
          <circle key={index} cx={xOf(one.centre)} cy={yOf(one.saturation ?? 1)} r={6} fill={index === chosen ? tokens.graph.master : tokens.glaze} stroke={tokens.graph.master} strokeWidth={2}
            tabIndex={0} role="slider" aria-label={`Band ${index + 1} of ${bands.length}`} aria-valuenow={one.centre} aria-valuemin={0} aria-valuemax={360}
            aria-valuetext={`at ${one.centre.toFixed(0)} degrees, saturation ${(one.saturation ?? 1).toFixed(2)}`}
            onPointerDown={(event) => { if (event.button !== 0) return; svg.current?.setPointerCapture(event.pointerId); setChosen(index); setDragging(true); }}
            onFocus={() => setChosen(index)} onKeyDown={(event) => onKeyDown(event, index, one)} onKeyUp={(event) => arrows[event.key] && done()}
            onDoubleClick={() => { set(index, "band to neutral", { hue: 0, saturation: 1, lightness: 0 }); done(); }} />
        ))}
      </Svg>
      <Ribbon role="img" aria-label="Hues as they leave" data-testid="ribbon-after" style={{ background: ribbonOf(lines) }} />
      <Note>Band {chosen + 1}, round {band.centre.toFixed(0)}°. Drag it along the hues, or up and down for saturation.</Note>
      {(Object.entries(settings) as ["hue" | "saturation" | "lightness", Setting][]).map(([field, setting]) => (
        <SettingBar key={field} {...setting} value={band[field] ?? setting.neutral} onDone={done}
          onChange={(value, moving) => set(chosen, setting.label.toLowerCase(), { [field]: value }, moving ? `${field} ${chosen}` : undefined)} />
      ))}
    </>
  );
}

export default defineEditor<HueBands>({ kind: "hue-bands", title: "Hue bands", purpose: "turn and shape eight ranges of hue", fresh: () => ({ kind: "hue-bands" }), Editor: HueBandsEditor });
