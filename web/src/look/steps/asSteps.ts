/** A LUT step as the steps that it was taken apart into. */
import type { Apart, Look, Step, StepOf } from "../../api/types";
import { fresh } from "../arrange";

const error = (value: number) => value.toFixed(2);

/** How close the steps come, for whoever reads the look. */
export const closeness = ({ name, explained, whole }: Apart): string =>
  `Taken apart from ${name}: CIEDE2000 ${error(explained.mean)} from it on average, ${error(explained.p95)} for the worst twentieth; with the last step ${error(whole.mean)}.`;

/**
 * The group that stands in the LUT step's place, at its strength and between the same conversions.
 * before: encoding that reaches the step
 */
export function asSteps(step: StepOf<"lut">, apart: Apart, before: string, view: Look["view"]): Step {
  const [first, ...others] = apart.steps as unknown as Step[];
  const own = first?.kind === "convert" && apart.expects !== apart.gives ? others : (apart.steps as unknown as Step[]);
  const isElsewhere = before !== apart.gives;
  const rendering = view ?? "plain";
  const into: Step[] = isElsewhere ? [{ kind: "convert", to: apart.gives, rendering }] : [];
  const back: Step[] =
    isElsewhere && (step.ends_in ?? "back") === "back" ? [{ kind: "convert", to: before, rendering }] : [];
  return {
    ...fresh({ kind: "group", steps: [...into, ...own, ...back] }),
    id: step.id ?? "",
    name: step.name || apart.name.slice(0, 80),
    note: closeness(apart).slice(0, 400),
    strength: step.strength ?? 1,
    enabled: step.enabled ?? true,
  };
}
