import { memo, useEffect, useMemo, useState } from "react";
import styled from "styled-components";
import { useLatest } from "../../api/useLatest";
import type { Look, Pixel } from "../../api/types";
import { SurroundChoice } from "../../kit/SurroundChoice";
import { useIsWide } from "../../browser/screen";
import { unitNames, useUnits } from "../../kit/units";
import { readPixel, type Seen } from "../../api/seen";
import type { Place } from "../../look/view/picking";
import { shownLook } from "../../look/store";
import { seenAs } from "../../look/view/view";
import { useBench, useViewPart } from "../../look/useBench";
import { usePainted, type Frames } from "../../look/frames/useFrames";
import { trayButton } from "./trayButton";

const Read = styled.div`
  display: flex;
  align-items: center;
  gap: 16px;
  padding: 0 18px;
  background: ${(p) => p.theme.surround.tray};
  font-family: ${(p) => p.theme.tokens.numbers};
  font-size: 12px;
  font-variant-numeric: tabular-nums;
  white-space: nowrap;
  overflow: hidden;
  i {
    display: inline-block;
    width: 14px;
    height: 14px;
    border-radius: 50%;
    vertical-align: -2px;
    margin-right: 7px;
  }
  p {
    font-family: ${(p) => p.theme.tokens.words};
    color: ${(p) => p.theme.surround.ink};
    overflow: hidden;
    text-overflow: ellipsis;
    min-width: 0;
  }
  > button {
    ${trayButton}
  }
`;
const Gap = styled.span`
  flex: 1;
`;

export interface Pointed {
  readonly picture: number;
  readonly at: Place;
}

const css = (values: readonly number[]) =>
  `rgb(${values.map((value) => Math.round(Math.min(1, Math.max(0, value)) * 255)).join(" ")})`;

function usePixel(pointed: Pointed | null, frames: Frames): Pixel | null {
  const { store, view } = useBench();
  const [pixel, setPixel] = useState<Pixel | null>(null);
  const drawn = usePainted(frames.painter, (painted) => painted.drawn);
  const ask = useLatest<Pointed & { look: Look }, Pixel>(
    ({ look, picture, at }, signal) => readPixel(look, seenAs(view.get(), picture), at, "", signal),
    setPixel,
  );
  useEffect(() => {
    if (pointed) ask({ ...pointed, look: shownLook(store.get()) });
  }, [pointed, ask, store, drawn]);
  return pointed ? pixel : null;
}

/** The same place of the picture that is pinned. */
function useReferencePixel(pointed: Pointed | null): Pixel | null {
  const { store } = useBench();
  const reference = useViewPart((one) => one.reference);
  const [pixel, setPixel] = useState<Pixel | null>(null);
  const ask = useLatest<{ look: Look; seen: Seen; at: Place }, Pixel>(
    ({ look, seen, at }, signal) => readPixel(look, seen, at, "", signal),
    setPixel,
  );
  useEffect(() => {
    if (!pointed || !reference) return;
    const { input = "srgb", encodings = [] } = store.get().look;
    const look = reference.look ?? { input, output: input, encodings, steps: [] };
    ask({ look, seen: { picture: reference.picture, read_as: reference.read_as }, at: pointed.at });
  }, [pointed, reference, ask, store]);
  return pointed && reference ? pixel : null;
}

/** What the picture is shown on; a wide screen can show it as a narrower one would. */
function Seen() {
  const { view } = useBench();
  const proof = useViewPart((one) => one.proof);
  const isWide = useIsWide();
  if (!isWide)
    return (
      <span title="This screen, or browser, shows no more than the colours of sRGB" data-testid="seen-on">
        sRGB
      </span>
    );
  return (
    <button
      type="button"
      onClick={() => view.set({ proof: !proof })}
      aria-label={
        proof
          ? "Seen as sRGB would show it. Change to Display P3"
          : "Seen on Display P3. Change to as sRGB would show it"
      }
      data-testid="seen-on"
    >
      {proof ? "as sRGB" : "Display P3"}
    </button>
  );
}

/** What the pixel under the pointer holds, in and out; units; what it is seen on; the surround. */
export const Readout = memo(function Readout({ pointed, frames }: { pointed: Pointed | null; frames: Frames }) {
  const { units, write, choose } = useUnits();
  const pixel = usePixel(pointed, frames);
  const pinned = useReferencePixel(pointed);
  const picking = useViewPart((view) => view.picking);
  const next = useMemo(() => unitNames[(unitNames.indexOf(units) + 1) % unitNames.length] ?? "8-bit", [units]);
  return (
    <Read data-testid="readout">
      {picking && <p>{picking}</p>}
      {pixel && (
        <>
          <span>
            <i style={{ background: css(pixel.source) }} />
            in {pixel.source.map(write).join(" ")}
          </span>
          <span>
            <i style={{ background: css(pixel.result) }} />
            out {pixel.result.map(write).join(" ")}
          </span>
          <span title="CIEDE2000 between in and out">ΔE {pixel.difference.toFixed(1)}</span>
        </>
      )}
      {pixel && pinned && (
        <span title="The same place of the picture that is pinned" data-testid="reference-pixel">
          <i style={{ background: css(pinned.result) }} />
          pinned {pinned.result.map(write).join(" ")}
        </span>
      )}
      {!pixel && !picking && <p>Point at the picture to read it. Press ? for the keys.</p>}
      <Gap />
      <button type="button" onClick={() => choose(next)} aria-label={`Units: ${units}. Change to ${next}`}>
        {units}
      </button>
      <Seen />
      <SurroundChoice />
    </Read>
  );
});
