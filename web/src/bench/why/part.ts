import type { Part } from "../../api/seen";
import type { Point } from "../../kit/Compare";

/** Smaller than this, across and down, is a press and no drag. */
const PRESS = 0.006;
const held = (value: number) => Math.min(1, Math.max(0, value));

/** The part between two places, whichever way it was drawn; the first place alone where they are hardly apart. */
export function partBetween(from: Point, to: Point): Part {
  const isPress = Math.abs(to.x - from.x) < PRESS && Math.abs(to.y - from.y) < PRESS;
  const end = isPress ? from : to;
  const [[left, right], [top, bottom]] = (["x", "y"] as const).map((way) =>
    [held(from[way]), held(end[way])].sort((a, b) => a - b),
  ) as [[number, number], [number, number]];
  return { left, top, right, bottom };
}
