/** What hooks are called about, and how a call stands, in words. */
import type { HookCall, HookEvent } from "../../api/types";

export const eventNames: Readonly<Record<HookEvent, string>> = {
  proposed: "Proposed",
  published: "Published",
  retired: "Retired",
  delivered: "Delivered",
};
export const EVENTS = Object.keys(eventNames) as HookEvent[];

/** now: milliseconds since 1970 */
export function howItStands(call: HookCall, now: number): string {
  if (call.state === "done") return call.attempts > 1 ? `Came through on try ${String(call.attempts)}` : "Came through";
  if (call.state === "given up") return `Given up after ${String(call.attempts)} tries: ${call.problem}`;
  if (call.attempts === 0) return "Waits for a worker";
  const seconds = call.due ? Math.max(0, Math.round((Date.parse(call.due) - now) / 1000)) : 0;
  const until =
    seconds < 90
      ? `${String(seconds)} s`
      : seconds < 5400
        ? `${String(Math.round(seconds / 60))} min`
        : `${String(Math.round(seconds / 3600))} h`;
  return `${call.problem || "Being sent"}; again in ${until}`;
}
