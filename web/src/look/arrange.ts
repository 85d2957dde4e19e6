/** Arranging steps: pure functions on the tree of a look's steps. */
import { omit } from "../kit/omit";
import type { Look, Step, StepOf } from "../api/types";

type Group = StepOf<"group">;

let made = 0;

/** An id that stays with a step through edits. */
export function newStepId(): string {
  made += 1;
  return `${Date.now().toString(36)}-${made.toString(36)}-${Math.floor(Math.random() * 1e6).toString(36)}`;
}

/** A copy that shares no id with what it was made from. */
export function fresh(step: Step): Step {
  const own = { ...omit(step, "variant"), id: newStepId() } as Step;
  return own.kind === "group" ? { ...own, steps: (own.steps ?? []).map(fresh) } : own;
}

/** The same look, every step with an id. One that has none is named after its place, so that two pages give it the same name. */
export function withIds(look: Look): Look {
  const taken = new Set(listed(look.steps ?? []).map((step) => step.id));
  const named = (steps: readonly Step[], place: string): Step[] =>
    steps.map((step, index) => {
      const here = `${place}${index + 1}`;
      const own = step.id ? step : { ...step, id: taken.has(here) ? newStepId() : here };
      return own.kind === "group" ? { ...own, steps: named(own.steps ?? [], `${here}.`) } : own;
    });
  return { ...look, steps: named(look.steps ?? [], "step ") };
}

const inside = (step: Step): readonly Step[] => (step.kind === "group" ? (step.steps ?? []) : []);

/** Every step that is no group, in the order the light goes through. */
export function flat(steps: readonly Step[]): Step[] {
  return steps.flatMap((step) => (step.kind === "group" ? flat(inside(step)) : [step]));
}

/** Every step and group as the recipe lists them. */
export function listed(steps: readonly Step[]): Step[] {
  return steps.flatMap((step) => [step, ...listed(inside(step))]);
}

export function findStep(look: Look, id: string | null): Step | undefined {
  return id === null ? undefined : listed(look.steps ?? []).find((step) => step.id === id);
}

/** The top-level index of the step, or of the group that holds it. */
export function stageOf(look: Look, id: string | null): number {
  return Math.max(
    0,
    (look.steps ?? []).findIndex((step) => listed([step]).some((one) => one.id === id)),
  );
}

/** How the steps stand to each other, to tell whether anything moved. */
export function outline(steps: readonly Step[]): string {
  return steps.map((step) => `${step.id}(${outline(inside(step))})`).join();
}

/** The steps with every list of siblings, the outermost last, given through `change`. */
function rebuilt(steps: readonly Step[], change: (siblings: readonly Step[]) => Step[]): Step[] {
  return change(
    steps.map((step) => (step.kind === "group" ? { ...step, steps: rebuilt(inside(step), change) } : step)),
  );
}

export function mapped(steps: readonly Step[], id: string, change: (step: Step) => Step): Step[] {
  return rebuilt(steps, (siblings) => siblings.map((step) => (step.id === id ? change(step) : step)));
}

export function without(steps: readonly Step[], ids: ReadonlySet<string>): Step[] {
  return rebuilt(steps, (siblings) => siblings.filter((step) => !ids.has(step.id ?? "")));
}

/** Of the marked steps those that no marked group holds, in order. */
export function outermost(steps: readonly Step[], ids: ReadonlySet<string>): Step[] {
  return steps.flatMap((step) => (ids.has(step.id ?? "") ? [step] : outermost(inside(step), ids)));
}

/** Steps put in after the one with this id, or at the very beginning. */
export function insertedAfter(steps: readonly Step[], id: string | null, added: readonly Step[]): Step[] {
  if (id === null) return [...added, ...steps];
  return rebuilt(steps, (siblings) => siblings.flatMap((step) => (step.id === id ? [step, ...added] : [step])));
}

/** Copies of the marked steps, after the last of them. */
export function duplicated(steps: readonly Step[], ids: ReadonlySet<string>): { steps: Step[]; added: Step[] } {
  const originals = outermost(steps, ids);
  const added = originals.map(fresh);
  return { steps: insertedAfter(steps, originals.at(-1)?.id ?? null, added), added };
}

/** The marked steps as one group, where the first of them stood. */
export function grouped(
  steps: readonly Step[],
  ids: ReadonlySet<string>,
  name: string,
): { steps: Step[]; group: Group } {
  const members = outermost(steps, ids);
  const group: Group = { kind: "group", id: newStepId(), name, steps: members };
  const first = members[0]?.id;
  const taken = new Set(members.slice(1).map((step) => step.id ?? ""));
  return {
    steps: rebuilt(without(steps, taken), (siblings) => siblings.map((step) => (step.id === first ? group : step))),
    group,
  };
}

/** What the group holds, in its place. Its own strength and blending are given up. */
export function ungrouped(steps: readonly Step[], id: string): Step[] {
  return rebuilt(steps, (siblings) => siblings.flatMap((step) => (step.id === id ? inside(step) : [step])));
}

/** Where something can be put: before the step `before` of the group `into`, at its end where that is null; the look itself is null. */
export interface Place {
  readonly into: string | null;
  readonly before: string | null;
}

/** The steps moved together to a place; as they were when the place lies within them. */
export function movedTo(steps: readonly Step[], ids: ReadonlySet<string>, place: Place): Step[] {
  const moving = outermost(steps, ids);
  const gone = new Set(listed(moving).map((step) => step.id ?? ""));
  if (moving.length === 0 || (place.into !== null && gone.has(place.into))) return [...steps];
  // The first that stays, from the place on.
  const siblings =
    place.into === null ? steps : inside(listed(steps).find((step) => step.id === place.into) ?? { kind: "group" });
  const from = place.before === null ? siblings.length : siblings.findIndex((step) => step.id === place.before);
  const before = siblings.slice(from).find((step) => !gone.has(step.id ?? ""))?.id;
  const put = (list: readonly Step[]): Step[] => {
    const at = before === undefined ? list.length : list.findIndex((step) => step.id === before);
    return [...list.slice(0, at), ...moving, ...list.slice(at)];
  };
  const rest = without(steps, gone);
  return place.into === null
    ? put(rest)
    : mapped(rest, place.into, (group) => ({ ...group, steps: put(inside(group)) }) as Step);
}

/** One place earlier (-1) or later (+1); past the edge of a group it leaves it, and where a group comes it goes in. */
export function movedBy(steps: readonly Step[], id: string, by: -1 | 1, into: string | null = null): Step[] | null {
  const at = steps.findIndex((step) => step.id === id);
  if (at < 0) {
    for (const step of steps) {
      if (step.kind !== "group") continue;
      const own = movedBy(inside(step), id, by, step.id ?? null);
      if (own) return steps.map((one) => (one === step ? { ...step, steps: own } : one));
      const leaving = inside(step).find((one) => one.id === id);
      if (leaving) {
        const left = { ...step, steps: inside(step).filter((one) => one.id !== id) };
        return steps.flatMap((one) => (one === step ? (by < 0 ? [leaving, left] : [left, leaving]) : [one]));
      }
    }
    return null;
  }
  const [own, other] = [steps[at], steps[at + by]];
  if (!own) return null;
  if (!other) return into === null ? [...steps] : null;
  const rest = steps.filter((step) => step !== own);
  if (other.kind === "group" && own.kind !== "group") {
    const held = by > 0 ? [own, ...inside(other)] : [...inside(other), own];
    return rest.map((step) => (step === other ? { ...other, steps: held } : step));
  }
  const next = [...steps];
  next[at + by] = own;
  next[at] = other;
  return next;
}

/** The steps at the end of the look that no LUT can hold: where the finish begins. */
export function finishFrom(steps: readonly Step[], isSpatial: (kind: string) => boolean): number {
  let from = steps.length;
  while (from > 0 && isSpatial(steps[from - 1]?.kind ?? "")) from -= 1;
  return from;
}

/** Where a new step of this kind goes: a spatial one to the end, any other after the selected one, but before the finish. */
export function placeFor(
  look: Look,
  kind: string,
  selected: string | null,
  isSpatial: (kind: string) => boolean,
): string | null {
  const steps = look.steps ?? [];
  if (isSpatial(kind)) return steps.at(-1)?.id ?? null;
  const from = finishFrom(steps, isSpatial);
  const chosen = selected === null ? -1 : steps.findIndex((step) => listed([step]).some((one) => one.id === selected));
  return chosen >= 0 && chosen < from ? selected : (steps[from - 1]?.id ?? null);
}
