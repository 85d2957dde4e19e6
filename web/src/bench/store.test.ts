import { describe, expect, it } from "vitest";
import type { Look } from "../api/types";
import { BenchStore, findStep, movedStep, opened, stageOf, withoutStep } from "./store";

const look: Look = { name: "a", steps: [{ kind: "curves", id: "one" }, { kind: "group", id: "g", steps: [{ kind: "curves", id: "two" }] }, { kind: "curves", id: "three" }] };

describe("the look being edited", () => {
  it("counts a gesture as one change and names it", () => {
    const store = new BenchStore(opened(look));
    for (const strength of [0.9, 0.8, 0.7]) store.editStep("Strength", "two", (step) => ({ ...step, strength }), "drag");
    expect(store.get().past.map((change) => change.name)).toEqual(["Strength"]);
    store.dispatch({ type: "endGesture" });
    store.editStep("Strength", "two", (step) => ({ ...step, strength: 0.1 }), "drag");
    expect(store.get().past).toHaveLength(2);
    store.dispatch({ type: "undo" });
    expect(findStep(store.get().look, "two")?.strength).toBe(0.7);
    store.dispatch({ type: "undo" });
    expect(findStep(store.get().look, "two")?.strength).toBeUndefined();
    store.dispatch({ type: "redo" });
    expect(findStep(store.get().look, "two")?.strength).toBe(0.7);
  });

  it("forgets what was undone once something else is changed", () => {
    const store = new BenchStore(opened(look));
    store.edit("Rename", (before) => ({ ...before, name: "b" }));
    store.dispatch({ type: "undo" });
    store.edit("Rename", (before) => ({ ...before, name: "c" }));
    store.dispatch({ type: "redo" });
    expect(store.get().look.name).toBe("c");
  });

  it("keeps a selection that exists", () => {
    const store = new BenchStore(opened(look));
    store.dispatch({ type: "select", id: "three" });
    store.edit("Delete", (before) => ({ ...before, steps: withoutStep(before.steps ?? [], "three") }));
    expect(store.get().selected).toBe("one");
    store.dispatch({ type: "undo" });
    expect(findStep(store.get().look, "three")).toBeDefined();
  });

  it("gives every step an id and knows its stage", () => {
    const state = opened({ steps: [{ kind: "curves" }, { kind: "group", steps: [{ kind: "curves" }] }] });
    const group = state.look.steps?.[1];
    const inner = group?.kind === "group" ? group.steps?.[0] : undefined;
    expect(inner?.id).toBeTruthy();
    expect(stageOf(state.look, inner?.id ?? null)).toBe(1);
  });

  it("moves a step among its neighbours and no further", () => {
    const ids = (steps: readonly { id?: string }[]) => steps.map((step) => step.id);
    expect(ids(movedStep(look.steps ?? [], "three", -1))).toEqual(["one", "three", "g"]);
    expect(ids(movedStep(look.steps ?? [], "one", -1))).toEqual(["one", "g", "three"]);
  });
});
