/** Curve points as the editor handles them. What a curve does is computed by the engine; nothing here bends anything. */
import type { StepOf } from "../../../api/types";

type Curves = StepOf<"curves">;

export type Point = readonly [number, number];
export type Channel = "master" | "red" | "green" | "blue";
export const channels: readonly Channel[] = ["master", "red", "green", "blue"];
export const SMALLEST_STEP = 1 / 1023;
export const IDENTITY: readonly Point[] = [
  [0, 0],
  [1, 1],
];

export function pointsOf(step: Curves, channel: Channel): readonly Point[] {
  return step[channel] ?? IDENTITY;
}

export function isIdentity(points: readonly Point[]): boolean {
  return points.length === 2 && points.every(([x, y]) => x === y) && points[0]?.[0] === 0 && points[1]?.[0] === 1;
}

/** An SVG path through values sampled at even positions 0..1, in a square of `size`. */
export function pathOf(values: readonly number[] | undefined, size: number): string {
  if (!values) return `M0 ${size}L${size} 0`;
  return values
    .map((y, i) => `${i ? "L" : "M"}${((i / (values.length - 1)) * size).toFixed(2)} ${(size - y * size).toFixed(2)}`)
    .join("");
}

/** Counts as a line, the highest inner one at the top; square roots, so that small counts show. */
export function lineOf(counts: readonly number[], width: number, height: number): string {
  const top = Math.sqrt(Math.max(1, ...counts.slice(1, -1)));
  return counts
    .map(
      (count, i) =>
        `${i ? "L" : "M"}${((i / (counts.length - 1)) * width).toFixed(1)} ${(height - Math.min(1, Math.sqrt(count) / top) * height).toFixed(1)}`,
    )
    .join("");
}

/** The same with what lies under it, to be filled. */
export function areaOf(counts: readonly number[], width: number, height: number): string {
  return `${lineOf(counts, width, height)}L${width} ${height}L0 ${height}Z`;
}
