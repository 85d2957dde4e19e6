/** Variants: settings of a step that stand side by side in the recipe, one of them on, until one is chosen. And the settings a step had before. */
import type { Look, Step } from "../api/types";
import { omit } from "../kit/omit";
import { findStep, insertedAfter, listed, mapped, newStepId, without } from "./arrange";
import { asMember } from "./family";
import type { Change } from "./store";

/** Those of the step, itself among them, in their order; none where it has no others. */
export function variantsOf(look: Look, id: string | null): readonly Step[] {
  const own = findStep(look, id);
  if (!own?.variant) return [];
  const found = listed(look.steps ?? []).filter((one) => one.variant === own.variant);
  return found.length > 1 ? found : [];
}

/** The look with this variant on and its others off. */
export function withVariant(look: Look, id: string): Look {
  const all = variantsOf(look, id);
  return all.reduce<Look>(
    (now, one) => ({
      ...now,
      steps: mapped(now.steps ?? [], one.id ?? "", (step) => ({ ...step, enabled: step.id === id })),
    }),
    look,
  );
}

/** The look with the next of the step's variants in its place; null where it has none. */
export function otherVariant(look: Look, id: string | null): Look | null {
  const all = variantsOf(look, id);
  const on = all.findIndex((one) => one.enabled !== false);
  const next = all[(on + 1) % all.length];
  return next ? withVariant(look, next.id ?? "") : null;
}

/** The look with this variant alone. */
export function onlyVariant(look: Look, id: string): Look {
  const others = new Set(variantsOf(look, id).flatMap((one) => (one.id === id ? [] : [one.id ?? ""])));
  const steps = mapped(without(look.steps ?? [], others), id, (step) => ({ ...omit(step, "variant"), enabled: true }));
  return { ...look, steps };
}

/** What of a step is set, as text: names and switches are no settings. */
function settingsOf(step: Step): string {
  return JSON.stringify(omit(step, "id", "name", "note", "enabled", "variant", "per_shot"));
}

/** The settings that the step had before those it has, the last ones first; two at most. member: of the family, in hand */
export function ghostsOf(look: Look, past: readonly Change[], id: string | null, member = ""): readonly Step[] {
  const now = findStep(look, id);
  if (!now || id === null || now.kind === "group") return [];
  const seen = new Set([settingsOf(now)]);
  const found: Step[] = [];
  for (const change of [...past].reverse()) {
    const then = findStep(asMember(change.look, member), id);
    if (then?.kind !== now.kind || found.length === 2) break;
    const settings = settingsOf(then);
    if (seen.has(settings)) continue;
    seen.add(settings);
    found.push(then);
  }
  return found;
}

/** The look as it would be with a ghost in its step's place. */
export const withGhost = (look: Look, ghost: Step): Look => ({
  ...look,
  steps: mapped(look.steps ?? [], ghost.id ?? "", (step) => ({
    ...ghost,
    ...(step.variant ? { variant: step.variant } : {}),
  })),
});

/** The look with a ghost kept as a variant behind its step, off. */
export function keptGhost(look: Look, ghost: Step): Look {
  const id = ghost.id ?? "";
  const variant = findStep(look, id)?.variant || newStepId();
  const marked = mapped(look.steps ?? [], id, (step) => ({ ...step, variant }));
  return { ...look, steps: insertedAfter(marked, id, [{ ...ghost, id: newStepId(), enabled: false, variant }]) };
}
