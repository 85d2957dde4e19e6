import { SplitSquareHorizontal, Eye } from "lucide-react";
import { memo, useEffect, useMemo, useState } from "react";
import { ToggleButton } from "react-aria-components";
import styled from "styled-components";
import { call } from "../api/client";
import { useLatest } from "../api/useLatest";
import type { Look, Picture, Pixel } from "../api/types";
import { Compare, type Wipe } from "../kit/Compare";
import { SurroundChoice } from "../kit/SurroundChoice";
import { chooseUnits, unitNames, useUnits } from "../kit/units";
import { useBench } from "./useBench";
import type { Frames } from "./useFrames";

const Root = styled.section`
  display: grid; grid-template-rows: 44px minmax(0, 1fr) 34px; min-height: 0; min-width: 0; background: ${(p) => p.theme.surround.field}; color: ${(p) => p.theme.surround.ink};
`;
const Tools = styled.div`
  display: flex; align-items: center; gap: 4px; padding: 0 14px;
`;
const Pill = styled(ToggleButton)`
  display: inline-flex; align-items: center; gap: 6px; border: 0; background: none; padding: 4px 12px; border-radius: 14px; cursor: pointer; font-weight: 500; color: inherit;
  svg { width: 15px; height: 15px; }
  &[data-hovered] { background: color-mix(in srgb, currentColor 10%, transparent); }
  &[data-selected], &[data-pressed] { background: ${(p) => p.theme.surround.pill}; color: ${(p) => p.theme.surround.pillInk}; }
`;
const Gap = styled.span`
  flex: 1;
`;
const Read = styled.div`
  display: flex; align-items: center; gap: 18px; padding: 0 20px; font-family: ${(p) => p.theme.tokens.numbers}; font-size: 12px; font-variant-numeric: tabular-nums; white-space: nowrap; overflow: hidden;
  i { display: inline-block; width: 14px; height: 14px; border-radius: 50%; vertical-align: -2px; margin-right: 7px; }
  p { font-family: ${(p) => p.theme.tokens.words}; color: ${(p) => p.theme.surround.soft}; }
  button { font: inherit; color: inherit; border: 0; background: none; padding: 2px 4px; cursor: pointer; text-decoration: underline dotted; text-underline-offset: 3px; }
`;
const Said = styled.div`
  position: absolute; left: 50%; bottom: 14px; transform: translateX(-50%); max-width: 80%; padding: 6px 14px; border-radius: 14px; background: ${(p) => p.theme.tokens.glaze}; color: ${(p) => p.theme.tokens.caution}; font-size: 12px;
`;
const Corner = styled.span`
  position: absolute; top: 2px; left: 50%; transform: translateX(-50%); padding: 2px 10px; border-radius: 10px; background: rgb(0 0 0 / 55%); color: #fcfcfc; font-size: 11px; pointer-events: none;
`;

interface Props {
  readonly picture: Picture | undefined;
  readonly frames: Frames;
  readonly onWidth: (width: number) => void;
}

type Ask = { look: Look; picture: number; x: number; y: number };

function usePixel(picture: Picture | undefined, drawn: number) {
  const { store } = useBench();
  const [pixel, setPixel] = useState<Pixel | null>(null);
  const [at, setAt] = useState<{ x: number; y: number } | null>(null);
  const ask = useLatest<Ask, Pixel>((input, signal) => call("/looks/pixel", { method: "POST", body: input, signal }), setPixel);
  const id = picture?.id;
  useEffect(() => {
    if (at && id !== undefined) ask({ look: store.get().look, picture: id, ...at });
  }, [at, id, ask, store, drawn]);
  const inside = (p: { x: number; y: number } | null) => (p && p.x >= 0 && p.x <= 1 && p.y >= 0 && p.y <= 1 ? p : null);
  return { pixel: at ? pixel : null, onPoint: (p: { x: number; y: number } | null) => setAt(inside(p)) };
}

const css = (values: readonly number[]) => `rgb(${values.map((value) => Math.round(Math.min(1, Math.max(0, value)) * 255)).join(" ")})`;

interface ToolsProps {
  readonly wiping: boolean;
  readonly held: boolean;
  readonly onWiping: (on: boolean) => void;
  readonly onHeld: (on: boolean) => void;
}

const StageTools = memo(function StageTools({ wiping, held, onWiping, onHeld }: ToolsProps) {
  return (
    <Tools>
      <Pill isSelected={wiping} onChange={onWiping}><SplitSquareHorizontal aria-hidden />Wipe</Pill>
      <Pill isSelected={held} onPressStart={() => onHeld(true)} onPressEnd={() => onHeld(false)}><Eye aria-hidden />Hold for original</Pill>
      <Gap />
      <SurroundChoice />
    </Tools>
  );
});

/** The picture: as it leaves the look, compared with how it came. */
export function Stage({ picture, frames, onWidth }: Props) {
  const [wipe, setWipe] = useState<Wipe>({ x: 0.5, y: 0.5, angle: 6 });
  const [wiping, setWiping] = useState(false);
  const [held, setHeld] = useState(false);
  const { units, write } = useUnits();
  const { pixel, onPoint } = usePixel(picture, frames.drawn);
  const nextUnits = useMemo(() => unitNames[(unitNames.indexOf(units) + 1) % unitNames.length] ?? "8-bit", [units]);

  useEffect(() => {
    const typing = (event: KeyboardEvent) => event.target instanceof HTMLElement && event.target.closest("input, textarea, [role='dialog']") !== null;
    const down = (event: KeyboardEvent) => {
      if (typing(event) || event.ctrlKey || event.metaKey || event.altKey) return;
      if (event.key === "o" || event.key === "O") setHeld(true);
      if ((event.key === "w" || event.key === "W") && !event.repeat) setWiping((on) => !on);
    };
    const up = (event: KeyboardEvent) => {
      if (event.key === "o" || event.key === "O") setHeld(false);
    };
    const lost = () => setHeld(false);
    window.addEventListener("keydown", down);
    window.addEventListener("keyup", up);
    window.addEventListener("blur", lost);
    return () => {
      window.removeEventListener("keydown", down);
      window.removeEventListener("keyup", up);
      window.removeEventListener("blur", lost);
    };
  }, []);

  return (
    <Root aria-label="Picture">
      <StageTools wiping={wiping} held={held} onWiping={setWiping} onHeld={setHeld} />
      <Compare before={frames.original} after={frames.frame} drawn={frames.drawn} wipe={wiping ? wipe : null} onWipe={setWipe} showBefore={held}
        label={picture ? `${picture.name}, ${held ? "original" : "through the look"}` : "No picture"} onPoint={onPoint} onWidth={onWidth}>
        {held && <Corner>original</Corner>}
        {frames.problem && <Said role="alert">{frames.problem}</Said>}
      </Compare>
      <Read data-testid="readout">
        {pixel ? (
          <>
            <span><i style={{ background: css(pixel.source) }} />in {pixel.source.map(write).join(" ")}</span>
            <span><i style={{ background: css(pixel.result) }} />out {pixel.result.map(write).join(" ")}</span>
            <span title="CIEDE2000 between in and out">ΔE {pixel.difference.toFixed(1)}</span>
          </>
        ) : (
          <p>Point at the picture to read it. Hold O for the original, W for the wipe.</p>
        )}
        <Gap />
        <button type="button" onClick={() => chooseUnits(nextUnits)} aria-label={`Units: ${units}. Change to ${nextUnits}`}>{units}</button>
      </Read>
    </Root>
  );
}
