/** How far a strength may go. */
import type { Step } from "../../api/types";
import { listed } from "../arrange";

/** Half as much again. */
export const BEYOND = 1.5;
/** Kinds that go no further than full: a limit would be passed, colour that was taken away turn round. */
const ENDS_AT_FULL: ReadonlySet<string> = new Set(["limit", "isolate-hue", "soft-focus"]);

/** The most strength that these steps allow what holds them, or one of them itself. */
export const mostStrength = (steps: readonly Step[]): number =>
  listed(steps).some((step) => ENDS_AT_FULL.has(step.kind)) ? 1 : BEYOND;

/** Words about a strength, where it lies beyond full. */
export const beyondFull = (strength: number): string => (strength > 1 ? "beyond full" : "");
