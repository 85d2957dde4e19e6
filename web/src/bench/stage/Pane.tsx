import { memo, Suspense, useCallback, useRef, useState } from "react";
import styled from "styled-components";
import type { Picture, Step } from "../../api/types";
import { Compare, type Point, type Sight } from "../../kit/Compare";
import { rightOf } from "../../kit/WipeLine";
import { findStep } from "../../look/arrange";
import { readPixel } from "../../api/seen";
import { editors } from "../../look/steps/editors";
import { shownLook } from "../../look/store";
import { seenAs } from "../../look/view/view";
import { useBench, useBenchPart, useViewPart } from "../../look/useBench";
import { usePainted, type Frames } from "../../look/frames/useFrames";
import { AskedPart, useAskedPart } from "../why/AskedPart";
import { MarksOver } from "./MarksOver";
import { useDetail } from "./useDetail";
import { zoomedAt } from "./zoom";
import { oneLine } from "../../kit/oneLine";

const Corner = styled.span`
  position: absolute;
  top: 8px;
  left: 50%;
  transform: translateX(-50%);
  max-width: 90%;
  ${oneLine}
  padding: 2px 11px;
  border-radius: 10px;
  background: ${(p) => p.theme.tokens.pictureVeil};
  color: ${(p) => p.theme.tokens.onPicture};
  font-size: 11px;
  pointer-events: none;
`;
const Sides = styled.div`
  display: grid;
  grid-template-columns: 1fr 1fr;
  min-width: 0;
  min-height: 0;
  height: 100%;
`;

interface Props {
  readonly picture: Picture;
  readonly frames: Frames;
  readonly isChosen: boolean;
  /** Does its name stand over it? */
  readonly named: boolean;
  readonly names: { readonly shown: string; readonly against: string };
  readonly onPoint: (picture: number, at: Point | null) => void;
  readonly onWidth?: ((width: number) => void) | undefined;
}

/** The picture's size as it stands upright; what the file says may be that of a picture turned on its side. */
function uprightSize(picture: Picture): { width: number; height: number } {
  const turned =
    picture.proxy_width > picture.proxy_height !== picture.width > picture.height && picture.width !== picture.height;
  return turned ? { width: picture.height, height: picture.width } : { width: picture.width, height: picture.height };
}

/** What the editor of the chosen step draws on the picture. */
function OnPicture({ ratio }: { ratio: number }) {
  const { store } = useBench();
  const step = useBenchPart((state) => findStep(state.look, state.selected));
  const id = step?.id ?? "";
  const change = useCallback(
    (name: string, next: (one: Step) => Step, gesture?: string) => store.editStep(name, id, next, gesture),
    [store, id],
  );
  const done = useCallback(() => store.dispatch({ type: "endGesture" }), [store]);
  const Drawn = step ? editors[step.kind]?.OnPicture : undefined;
  return step && Drawn && step.enabled !== false ? (
    <Suspense>
      <Drawn step={step} change={change} done={done} ratio={ratio} />
    </Suspense>
  ) : null;
}

/** Hands what is picked to the editor that waits for it. */
function usePicked(picture: Picture) {
  const { store, view, picker } = useBench();
  const from = useRef<{ at: Point; ready: boolean } | null>(null);
  return useCallback(
    async (phase: "down" | "move" | "up", at: Point) => {
      if (phase === "down") {
        const press = { at, ready: false };
        from.current = press;
        if (at.x < 0 || at.x > 1 || at.y < 0 || at.y > 1) return;
        const state = store.get();
        const pixel = await readPixel(state.look, seenAs(view.get(), picture.id), at, state.selected ?? "").catch(
          () => null,
        );
        if (!pixel) return;
        picker.get()?.down(pixel, at);
        // Whoever let go before the answer came has only clicked.
        if (from.current === press) press.ready = true;
        else picker.get()?.up?.();
      } else if (phase === "move" && from.current?.ready) {
        picker.get()?.move?.(at.x - from.current.at.x, from.current.at.y - at.y);
      } else if (phase === "up") {
        if (from.current?.ready) picker.get()?.up?.();
        from.current = null;
      }
    },
    [store, view, picker, picture.id],
  );
}

/** One picture: through the look, compared as the view says. */
export const Pane = memo(function Pane({ picture, frames, isChosen, named, names, onPoint, onWidth }: Props) {
  const { view, mayEdit } = useBench();
  const mode = useViewPart((one) => one.mode);
  const wipe = useViewPart((one) => one.wipe);
  const held = useViewPart((one) => one.held);
  const marks = useViewPart((one) => one.marks);
  const zoom = useViewPart((one) => one.zoom);
  const middle = useViewPart((one) => one.middle);
  const picking = useViewPart((one) => one.picking !== null);
  const isAsking = useViewPart((one) => one.asking !== null);
  const reference = useViewPart((one) => (one.against === "reference" ? one.reference : null));
  const against = reference?.name ?? names.against;
  const trying = useBenchPart((state) => state.trial !== null && shownLook(state) !== state.look);
  const pair = usePainted(frames.painter, (painted) => painted.pairs.get(picture.id));
  const drawn = usePainted(frames.painter, (painted) => painted.drawn);
  const [sight, setSight] = useState<Sight | null>(null);
  const parts = useDetail(frames.painter, picture, sight);
  const picked = usePicked(picture);
  const asked = useAskedPart();
  const size = uprightSize(picture);
  const title = named ? `${picture.name}, ` : "";
  const common = {
    drawn,
    size,
    zoom,
    middle,
    inset: named || mode === "beside" ? 6 : 14,
    onMiddle: (next: Point) => view.set({ middle: next }),
    onZoom: (way: 1 | -1, at: Point) => view.set(zoomedAt(zoom, middle, way, at)),
    onPoint: (at: Point | null) => onPoint(picture.id, at),
    onPick: !isChosen
      ? undefined
      : picking
        ? (phase: "down" | "move" | "up", at: Point) => void picked(phase, at)
        : isAsking
          ? asked
          : undefined,
  };
  const said = held ? against : trying ? "being tried" : names.shown === "draft" ? "" : names.shown;
  const corner = [named ? picture.name : "", said].filter(Boolean).join(", ");
  const [before, after] = [pair?.before ?? null, pair?.after ?? null];
  const over = isChosen && (
    <>
      {marks !== "none" && !held && (
        <MarksOver
          picture={picture}
          frames={frames}
          kind={marks}
          clip={mode === "wipe" ? rightOf(wipe, size.width / size.height) : undefined}
        />
      )}
      {isAsking && <AskedPart />}
      {!held && mayEdit && <OnPicture ratio={size.width / size.height} />}
    </>
  );
  if (mode === "beside") {
    return (
      <Sides>
        <Compare
          {...common}
          size={reference && before ? before : size}
          zoom={reference ? null : zoom}
          before={before}
          after={null}
          wipe={null}
          showBefore
          label={reference ? against : `${title}${against}`}
          parts={{ before: parts.before, after: null }}
        >
          <Corner>
            {reference ? "" : title}
            {against}
          </Corner>
        </Compare>
        <Compare
          {...common}
          before={before}
          after={after}
          wipe={null}
          showBefore={held}
          label={`${title}${names.shown}`}
          parts={parts}
          over={over}
          onWidth={onWidth}
          onSight={setSight}
        >
          <Corner>
            {title}
            {held ? against : names.shown}
          </Corner>
        </Compare>
      </Sides>
    );
  }
  return (
    <Compare
      {...common}
      before={before}
      after={after}
      wipe={mode === "wipe" ? wipe : null}
      onWipe={(next) => view.set({ wipe: next })}
      showBefore={held}
      parts={parts}
      over={over}
      onWidth={onWidth}
      onSight={setSight}
      label={`${picture.name}, ${held ? against : names.shown === "draft" ? "through the look" : names.shown}`}
    >
      {corner && <Corner>{corner}</Corner>}
    </Compare>
  );
});
