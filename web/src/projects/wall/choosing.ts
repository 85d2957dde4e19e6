/** Choosing among things in an order: one, a run of them, all of a part. */

/** How a press chooses: this one alone, this one too, or everything from the last one to it (and what was chosen stays, or not). */
export type How = "only" | "add" | "stretch" | "stretch more";

/** What a press with these keys held means. */
export const howOf = (keys: { shiftKey: boolean; ctrlKey: boolean; metaKey: boolean }): How => {
  const more = keys.ctrlKey || keys.metaKey;
  if (keys.shiftKey) return more ? "stretch more" : "stretch";
  return more ? "add" : "only";
};

/** What is chosen after a press on one. last: the one that was pressed before; the only one that is chosen is let go by a second press */
export function pressed(
  chosen: ReadonlySet<number>,
  order: readonly number[],
  last: number | null,
  id: number,
  how: How,
): ReadonlySet<number> {
  if (how === "add") return toggled(chosen, id);
  if (how === "only") return chosen.size === 1 && chosen.has(id) ? new Set() : new Set([id]);
  return stretched(how === "stretch" ? new Set() : chosen, order, last, id);
}

/** With one more, or without it. */
export function toggled(chosen: ReadonlySet<number>, id: number): ReadonlySet<number> {
  const next = new Set(chosen);
  if (!next.delete(id)) next.add(id);
  return next;
}

/** With everything from the one chosen last to this one, both included. */
export function stretched(
  chosen: ReadonlySet<number>,
  order: readonly number[],
  from: number | null,
  to: number,
): ReadonlySet<number> {
  const [first, last] = [order.indexOf(from ?? to), order.indexOf(to)];
  if (first < 0 || last < 0) return toggled(chosen, to);
  return new Set([...chosen, ...order.slice(Math.min(first, last), Math.max(first, last) + 1)]);
}

/** One of an order so many places further, as far as there are places. */
export function movedBy(order: readonly number[], at: number, by: number): number[] {
  const rest = order.filter((_, index) => index !== at);
  const to = Math.min(Math.max(at + by, 0), rest.length);
  return [...rest.slice(0, to), ...order.slice(at, at + 1), ...rest.slice(to)];
}

/** All of a part; none of it where all of it was chosen. */
export function partToggled(chosen: ReadonlySet<number>, part: readonly number[]): ReadonlySet<number> {
  const whole = part.every((id) => chosen.has(id));
  return new Set(whole ? [...chosen].filter((id) => !part.includes(id)) : [...chosen, ...part]);
}
