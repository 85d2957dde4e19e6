/** Points of a curve written as people note them, "0-20, 70-78, 160-150", in code values of the units that are chosen. */
import { SMALLEST_STEP, type Point } from "./points";

const MOST_POINTS = 16;
const NUMBER = String.raw`[-−]?\d*\.?\d+`;
const PAIR = new RegExp(String.raw`^(${NUMBER})\s*(?:->|[-–→:=/]|\s)\s*(${NUMBER})$`);
const numberOf = (text: string) => Number(text.replace("−", "-"));

export interface Scale {
  /** Code values of the curve's ends, 0..1 within full codes. */
  readonly from: number;
  readonly to: number;
  /** What 1 is written as. */
  readonly peak: number;
}

/** Up to so many places as are needed: 20, 20.5. */
const written = (value: number) => String(Math.round(value * 100) / 100);

export function listOf(points: readonly Point[], { from, to, peak }: Scale): string {
  const shown = (share: number) => written((from + share * (to - from)) * peak);
  return points.map(([x, y]) => `${shown(x)}-${shown(y)}`).join(", ");
}

/**
 * Pairs between commas, semicolons or lines, in any order; shares of the range, rising.
 * The problem says which pair it is of and what to write.
 */
export function readList(text: string, { from, to, peak }: Scale): { points: Point[] } | { problem: string } {
  const pairs = text
    .split(/[,;\n]/)
    .map((one) => one.trim())
    .filter(Boolean);
  const [low, high] = [from * peak, to * peak];
  const shareOf = (value: number) => (value - low) / (high - low);
  const found: Point[] = [];
  for (const [index, pair] of pairs.entries()) {
    const match = PAIR.exec(pair);
    const nth = `Point ${String(index + 1)}, “${pair}”`;
    if (!match?.[1] || !match[2]) return { problem: `${nth}: write what goes in and what comes out, as 70-78.` };
    const values = [numberOf(match[1]), numberOf(match[2])] as const;
    const outside = values.find((one) => one < low || one > high);
    if (outside !== undefined)
      return {
        problem: `${nth}: ${written(outside)} is outside; this curve goes from ${written(low)} to ${written(high)}.`,
      };
    found.push([shareOf(values[0]), shareOf(values[1])]);
  }
  if (found.length < 2) return { problem: "A curve takes two points or more, with a comma between them." };
  if (found.length > MOST_POINTS)
    return { problem: `That is ${String(found.length)} points; ${String(MOST_POINTS)} is the most.` };
  found.sort((one, other) => one[0] - other[0]);
  const near = found.findIndex(([x], index) => index > 0 && x - (found[index - 1]?.[0] ?? 0) < SMALLEST_STEP * 0.99);
  const [twice] = found[near] ?? [];
  if (twice !== undefined)
    return { problem: `Two points begin at ${written(low + twice * (high - low))}: each tone goes to one place.` };
  return { points: found };
}
