/** Carrying out what an advice proposes. */
import { useCallback } from "react";
import type { Advice } from "../../api/types";
import { findStep, mapped, movedTo, without } from "../arrange";
import { useBench } from "../useBench";
import { titleOf } from "./titles";

export function useRemedy(): (advice: Advice) => void {
  const { store, view } = useBench();
  return useCallback((advice: Advice) => {
    const { look } = store.get();
    const [step, remedy] = [findStep(look, advice.id), advice.remedy];
    if (!step || !remedy) return;
    const ids = new Set([advice.id]);
    const arrange = (name: string, change: (steps: NonNullable<typeof look.steps>) => NonNullable<typeof look.steps>) =>
      store.edit(`${name} ${titleOf(step)}`, (before) => ({ ...before, steps: change(before.steps ?? []) }));
    switch (remedy.kind) {
      case "delete":
        return arrange("Delete", (steps) => without(steps, ids));
      case "to-finish":
        return arrange("Move", (steps) => movedTo(steps, ids, { into: null, before: null }));
      case "move-before":
        return arrange("Move", (steps) => movedTo(steps, ids, { into: remedy.into, before: remedy.target }));
      case "expects":
        return arrange("Encoding of", (steps) => mapped(steps, advice.id, (before) => ({ ...before, expects: remedy.target, gives: remedy.gives }) as typeof before));
      case "show":
        return view.set({ marks: remedy.target === "skin" ? "skin" : "clipping" });
    }
  }, [store, view]);
}
