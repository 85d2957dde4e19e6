/** What would help where a look breaks, carried out on the look. */
import type { Look, Step, StressRemedy } from "../api/types";
import { findStep, mapped, newStepId } from "./arrange";

/** A remedy on its way to the Bench. id: of the step it is about; empty for one that is named by its place alone. */
export interface CarriedRemedy extends StressRemedy {
  readonly id: string;
}

/** As steps without an id are named when a look is opened: after their place. */
const idAt = (path: string): string =>
  `step ${[...path.matchAll(/\[(\d+)\]/g)].map((one) => Number(one[1]) + 1).join(".")}`;

/** The look with it, or null where its step is not there any more. */
export function withRemedy(look: Look, remedy: CarriedRemedy): Look | null {
  const steps = look.steps ?? [];
  if (remedy.kind === "limit") {
    const limit = { kind: "limit", low: 0, high: 1, knee: remedy.value, keep: "hue", id: newStepId() } as Step;
    return { ...look, steps: [...steps, limit] };
  }
  const id = remedy.id || idAt(remedy.path);
  if (!findStep(look, id)) return null;
  const change = (step: Step): Step =>
    remedy.kind === "strength"
      ? { ...step, strength: remedy.value }
      : ({ ...step, leave_skin: { ...("leave_skin" in step ? step.leave_skin : {}), amount: remedy.value } } as Step);
  return { ...look, steps: mapped(steps, id, change) };
}
