/** Points of colour curves as the editor handles them. What a curve does is computed by the engine; nothing here bends anything. */
import type { StepOf } from "../../../api/types";
import type { Point } from "./points";

export type ColourCurves = StepOf<"colour-curves">;
export type Curve = "turn" | "saturation" | "lightness" | "saturation_by_lightness";

export interface Range {
  readonly name: string;
  /** What is drawn across, from 0. */
  readonly across: number;
  /** Points stay so far apart. */
  readonly gap: number;
  readonly isCyclic: boolean;
  readonly low: number;
  readonly high: number;
  readonly neutral: number;
  readonly digits: number;
  readonly step: number;
  readonly unit: string;
}

const overHue = { across: 360, gap: 2, isCyclic: true };
export const curves: Readonly<Record<Curve, Range>> = {
  turn: { ...overHue, name: "Hue", low: -180, high: 180, neutral: 0, digits: 1, step: 1, unit: "°" },
  saturation: { ...overHue, name: "Saturation", low: 0, high: 4, neutral: 1, digits: 2, step: 0.01, unit: "x" },
  lightness: { ...overHue, name: "Lightness", low: -0.5, high: 0.5, neutral: 0, digits: 3, step: 0.005, unit: "L" },
  saturation_by_lightness: {
    name: "Saturation",
    across: 1.2,
    gap: 0.01,
    isCyclic: false,
    low: 0,
    high: 4,
    neutral: 1,
    digits: 2,
    step: 0.01,
    unit: "x",
  },
};
export const MOST_POINTS = 16;
/** A first point brings neutral ones on both sides, so that it moves its own surroundings and not the whole circle. */
const SURROUNDINGS = { hue: 45, lightness: 0.3 };

export const pointsOf = (step: ColourCurves, curve: Curve): readonly Point[] => step[curve] ?? [];

const rounded = (value: number, digits: number) => Math.round(value * 10 ** digits) / 10 ** digits;
const held = (value: number, low: number, high: number) => Math.min(high, Math.max(low, value));

/** The points with one of them elsewhere, as near to it as the others let it; a cyclic one does not pass the ends of the ribbon. */
export function moved(points: readonly Point[], index: number, [x, y]: Point, range: Range): readonly Point[] {
  const first = points[0]?.[0] ?? 0;
  const last = points.at(-1)?.[0] ?? 0;
  const lowest = range.isCyclic && points.length > 1 ? Math.max(0, last - range.across + range.gap) : 0;
  const end = range.isCyclic ? range.across - 0.1 : 4;
  const highest = range.isCyclic && points.length > 1 ? Math.min(end, first + range.across - range.gap) : end;
  const before = points[index - 1];
  const after = points[index + 1];
  const at = held(x, before ? before[0] + range.gap : lowest, after ? after[0] - range.gap : highest);
  const to: Point = [rounded(at, range.isCyclic ? 1 : 3), rounded(held(y, range.low, range.high), range.digits + 1)];
  return points.map((point, i) => (i === index ? to : point));
}

/** The points with one more, and where it is among them; null where there is no room. */
export function added(
  points: readonly Point[],
  [x, y]: Point,
  range: Range,
): { readonly points: readonly Point[]; readonly index: number } | null {
  const end = range.isCyclic ? range.across - 0.1 : 4;
  const at = rounded(held(x, 0, end), range.isCyclic ? 1 : 3);
  const away = (one: number) =>
    range.isCyclic ? Math.abs(((one - at + 1.5 * range.across) % range.across) - range.across / 2) : Math.abs(one - at);
  if (points.length >= MOST_POINTS || points.some((point) => away(point[0]) < range.gap)) return null;
  const to: Point = [at, rounded(held(y, range.low, range.high), range.digits + 1)];
  const reach = range.isCyclic ? SURROUNDINGS.hue : SURROUNDINGS.lightness;
  const round = [at - reach, at + reach].map((one) => (range.isCyclic ? (one + range.across) % range.across : one));
  const neighbours =
    points.length > 0 ? [] : round.filter((one) => one >= 0).map((one): Point => [rounded(one, 3), range.neutral]);
  const all = [...points, to, ...neighbours].sort((a, b) => a[0] - b[0]);
  return { points: all, index: all.indexOf(to) };
}

export const isNeutral = (step: ColourCurves, curve: Curve) =>
  pointsOf(step, curve).every(([, y]) => y === curves[curve].neutral);
