/** Grouping, moving, copying and taking away the chosen steps. */
import { useMemo } from "react";
import type { Step } from "../../api/types";
import { duplicated, findStep, grouped, listed, movedBy, outermost, ungrouped, without } from "../../look/arrange";
import { useBench, type Bench } from "../../look/useBench";
import { titleOf } from "../../look/titles";
import { asText } from "./clipboard";

function arrangeOn({ store }: Bench) {
  const chosen = () => new Set(store.get().marked);
  const steps = () => store.get().look.steps ?? [];
  const words = (verb: string) => {
    const marked = outermost(steps(), chosen());
    const [first] = marked;
    return first && marked.length === 1 ? `${verb} ${titleOf(first)}` : `${verb} ${marked.length} steps`;
  };
  const put = (name: string, next: Step[]) => store.edit(name, (before) => ({ ...before, steps: next }));
  return {
    move: (by: -1 | 1) => {
      const { selected } = store.get();
      const step = findStep(store.get().look, selected);
      const moved = step && movedBy(steps(), step.id ?? "", by);
      if (step && moved) put(`Move ${titleOf(step)}`, moved);
    },
    group: () => {
      const ids = chosen();
      if (outermost(steps(), ids).length === 0) return;
      const names = new Set(
        listed(steps())
          .filter((step) => step.kind === "group")
          .map((step) => step.name),
      );
      let number = 1;
      while (names.has(`Group ${number}`)) number += 1;
      const made = grouped(steps(), ids, `Group ${number}`);
      put(words("Group"), made.steps);
      store.dispatch({ type: "select", id: made.group.id ?? null });
    },
    ungroup: () => {
      const { selected, look } = store.get();
      const step = findStep(look, selected);
      if (step?.kind !== "group") return;
      put(words("Ungroup"), ungrouped(steps(), step.id ?? ""));
      store.dispatch({ type: "markAll", ids: (step.steps ?? []).map((one) => one.id ?? "") });
    },
    duplicate: () => {
      if (store.get().marked.length === 0) return;
      const made = duplicated(steps(), chosen());
      put(words("Duplicate"), made.steps);
      store.dispatch({ type: "markAll", ids: made.added.map((step) => step.id ?? "") });
    },
    remove: () => {
      const ids = chosen();
      if (ids.size === 0) return;
      const order = listed(steps());
      const at = order.findIndex((step) => ids.has(step.id ?? ""));
      const next = order.slice(at).find((step) => !ids.has(step.id ?? "")) ?? order[at - 1];
      put(words("Delete"), without(steps(), ids));
      store.dispatch({ type: "select", id: findStep(store.get().look, next?.id ?? null) ? (next?.id ?? null) : null });
    },
    /** Through the browser's own copying, which works without asking for leave. */
    copy: () => {
      // oxlint-disable-next-line @typescript-eslint/no-deprecated -- the newer way must ask for leave first
      document.execCommand("copy");
    },
    text: () => asText(outermost(steps(), chosen())),
    toggle: () => {
      const marked = outermost(steps(), chosen());
      const on = marked.some((step) => step.enabled === false);
      const ids = new Set(marked.map((step) => step.id));
      const set = (list: readonly Step[]): Step[] =>
        list.map((step) => ({
          ...(step.kind === "group" ? { ...step, steps: set(step.steps ?? []) } : step),
          ...(ids.has(step.id) ? { enabled: on } : {}),
        }));
      if (marked.length > 0) put(words(on ? "Switch on" : "Switch off"), set(steps()));
    },
  };
}

export type Arrange = ReturnType<typeof arrangeOn>;

export function useArrange(): Arrange {
  const bench = useBench();
  return useMemo(() => arrangeOn(bench), [bench]);
}
