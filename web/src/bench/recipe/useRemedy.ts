/** Carrying out what an advice proposes. */
import { useCallback } from "react";
import type { Advice } from "../../api/types";
import { findStep, mapped, movedTo, without } from "../../look/arrange";
import { useBench } from "../../look/useBench";
import { titleOf } from "../../look/titles";

export function useRemedy(): (advice: Advice) => void {
  const { store, view } = useBench();
  return useCallback(
    (advice: Advice) => {
      const { look } = store.get();
      const [step, remedy] = [findStep(look, advice.id), advice.remedy];
      if (!step || !remedy) return;
      const ids = new Set([advice.id]);
      const arrange = (
        name: string,
        change: (steps: NonNullable<typeof look.steps>) => NonNullable<typeof look.steps>,
      ) => store.edit(`${name} ${titleOf(step)}`, (before) => ({ ...before, steps: change(before.steps ?? []) }));
      switch (remedy.kind) {
        case "delete":
          arrange("Delete", (steps) => without(steps, ids));
          return;
        case "to-finish":
          arrange("Move", (steps) => movedTo(steps, ids, { into: null, before: null }));
          return;
        case "move-before":
          arrange("Move", (steps) => movedTo(steps, ids, { into: remedy.into, before: remedy.target }));
          return;
        case "expects":
          arrange("Encoding of", (steps) =>
            mapped(
              steps,
              advice.id,
              (before) => ({ ...before, expects: remedy.target, gives: remedy.gives }) as typeof before,
            ),
          );
          return;
        case "show":
          view.set({ marks: remedy.target === "skin" ? "skin" : "clipping" });
          return;
      }
    },
    [store, view],
  );
}
