import type { Step } from "../api/types";
import { editors } from "./steps/editors";

/** What a step is called: its own name, or its kind's. */
export function titleOf(step: Step): string {
  return step.name || (editors[step.kind]?.title ?? step.kind);
}
