/** Putting new steps where they belong: pure functions on a look. */
import type { Look, Step } from "../api/types";
import { fresh, finishFrom, insertedAfter, listed, placeFor, without } from "./arrange";

export interface Placed {
  readonly look: Look;
  readonly added: readonly Step[];
}

const isFinish = (step: Step, isSpatial: (kind: string) => boolean): boolean => isSpatial(step.kind);

/** New steps after the chosen one; those that no LUT can hold join the finish. Copies with ids of their own are put in. */
export function withAdded(
  look: Look,
  steps: readonly Step[],
  selected: string | null,
  isSpatial: (kind: string) => boolean,
): Placed {
  const added = steps.map(fresh);
  const late = added.filter((step) => isFinish(step, isSpatial));
  const early = added.filter((step) => !isFinish(step, isSpatial));
  const own = look.steps ?? [];
  const place = placeFor(look, early[0]?.kind ?? "curves", selected, isSpatial);
  const put = early.length > 0 ? insertedAfter(own, place, early) : own;
  return { look: { ...look, steps: [...put, ...late] }, added };
}

/** The same with some steps taken out first, the new ones in their place. */
export function withReplaced(
  look: Look,
  ids: readonly string[],
  steps: readonly Step[],
  isSpatial: (kind: string) => boolean,
): Placed {
  const gone = new Set(ids);
  const order = listed(look.steps ?? []).map((step) => step.id ?? "");
  const before =
    order
      .slice(
        0,
        order.findIndex((id) => gone.has(id)),
      )
      .reverse()
      .find((id) => !gone.has(id)) ?? null;
  const rest = without(look.steps ?? [], gone);
  const added = steps.map(fresh);
  const late = added.filter((step) => isFinish(step, isSpatial));
  const early = added.filter((step) => !isFinish(step, isSpatial));
  const top = rest.slice(0, finishFrom(rest, isSpatial));
  // Where nothing came before it, at the very beginning; never behind the finish.
  const place = before !== null && top.some((step) => listed([step]).some((one) => one.id === before)) ? before : null;
  const put = early.length > 0 ? insertedAfter(rest, place, early) : rest;
  return { look: { ...look, steps: [...put, ...late] }, added };
}

/** Steps as they take the place of others: one in the place of one gets its strength; several become a group at the strength of the one. */
export function atStrengthOf(replaced: readonly Step[], steps: readonly Step[], name: string): readonly Step[] {
  const [only] = replaced;
  const strength = only && only.kind !== "convert" ? (only.strength ?? 1) : 1;
  if (replaced.length !== 1 || strength === 1) return steps;
  const [first] = steps;
  if (first && steps.length === 1 && first.kind !== "convert") return [{ ...first, strength }];
  return [{ kind: "group", name: name.slice(0, 80), strength, steps: [...steps] }];
}
