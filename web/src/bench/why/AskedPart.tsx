/** The part of the picture of which it is asked why its colours are so: drawn with the mouse, or a single place. */
import { useCallback, useRef } from "react";
import styled from "styled-components";
import type { Point } from "../../kit/Compare";
import { useBench, useViewPart } from "../../look/useBench";
import { partBetween } from "./part";

const Box = styled.div`
  position: absolute;
  outline: 1.5px solid ${(p) => p.theme.tokens.onPicture};
  box-shadow: 0 0 0 3px ${(p) => p.theme.tokens.pictureVeil};
  pointer-events: none;
  /* A single place shows as a small square. */
  min-width: 7px;
  min-height: 7px;
`;

/** Presses and drags on the picture, as they choose the part. */
export function useAskedPart(): (phase: "down" | "move" | "up", at: Point) => void {
  const { view } = useBench();
  const from = useRef<Point | null>(null);
  return useCallback(
    (phase, at) => {
      if (phase === "down") from.current = at;
      if (from.current) view.set({ asking: partBetween(from.current, at) });
      if (phase === "up") from.current = null;
    },
    [view],
  );
}

export function AskedPart() {
  const asking = useViewPart((view) => view.asking);
  if (asking === null || asking === "where") return null;
  const percent = (value: number) => `${value * 100}%`;
  return (
    <Box
      data-testid="asked-part"
      style={{
        left: percent(asking.left),
        top: percent(asking.top),
        width: percent(asking.right - asking.left),
        height: percent(asking.bottom - asking.top),
      }}
    />
  );
}
