import { describe, expect, it } from "vitest";
import type { Look } from "../api/types";
import { findStep, stageOf, without } from "./arrange";
import { BenchStore, opened, shownLook } from "./store";

const look: Look = {
  name: "a",
  steps: [
    { kind: "curves", id: "one" },
    { kind: "group", id: "g", steps: [{ kind: "curves", id: "two" }] },
    { kind: "curves", id: "three" },
  ],
};

describe("the look being edited", () => {
  it("counts a gesture as one change and names it", () => {
    const store = new BenchStore(opened(look));
    for (const strength of [0.9, 0.8, 0.7])
      store.editStep("Strength", "two", (step) => ({ ...step, strength }), "drag");
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
    store.edit("Delete", (before) => ({ ...before, steps: without(before.steps ?? [], new Set(["three"])) }));
    expect(store.get()).toMatchObject({ selected: "one", marked: ["one"] });
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

  it("chooses several, and goes back and forth by many changes at once", () => {
    const store = new BenchStore(opened(look));
    store.dispatch({ type: "markTo", id: "two" });
    expect(store.get().marked).toEqual(["one", "g", "two"]);
    store.dispatch({ type: "mark", id: "g" });
    expect(store.get().marked).toEqual(["one", "two"]);
    store.dispatch({ type: "select", id: "three" });
    store.dispatch({ type: "markTo", id: "g" });
    expect(store.get()).toMatchObject({ marked: ["g", "two", "three"], selected: "three" });
    store.dispatch({ type: "select", id: null });
    store.dispatch({ type: "markTo", id: "g" });
    expect(store.get()).toMatchObject({ marked: ["one", "g"], selected: "g" });
    for (const name of ["b", "c", "d"]) store.edit(`Rename ${name}`, (before) => ({ ...before, name }));
    store.dispatch({ type: "rewind", by: 2 });
    expect(store.get().look.name).toBe("b");
    store.dispatch({ type: "rewind", by: -9 });
    expect(store.get().look.name).toBe("d");
  });

  it("leaves no trace of what was only tried", () => {
    const store = new BenchStore(opened(look));
    const before = store.get().look;
    store.dispatch({ type: "try", look: { ...before, name: "tried" } });
    expect(store.get().look).toBe(before);
    expect(store.get().past).toHaveLength(0);
    store.edit("Rename", (now) => ({ ...now, name: "b" }));
    expect(store.get().trial).toBeNull();
  });

  it("ends a gesture that is undone, so that going on is another change", () => {
    const store = new BenchStore(opened(look));
    const drag = (strength: number) => store.editStep("Strength", "two", (step) => ({ ...step, strength }), "drag");
    drag(0.9);
    drag(0.8);
    for (const type of ["undo", "redo"] as const) {
      store.dispatch({ type });
      expect(store.get().gesture, type).toBeNull();
    }
    drag(0.7);
    expect(store.get().past.map((change) => findStep(change.look, "two")?.strength)).toEqual([undefined, 0.8]);
  });

  it("does not take a gesture of another step, or after another change, for the same one", () => {
    const store = new BenchStore(opened(look));
    store.editStep("Strength", "two", (step) => ({ ...step, strength: 0.9 }), "drag");
    store.editStep("Strength", "three", (step) => ({ ...step, strength: 0.9 }), "drag");
    store.edit("Rename", (before) => ({ ...before, name: "b" }));
    store.edit("Rename", (before) => ({ ...before, name: "c" }));
    expect(store.get().past).toHaveLength(4);
  });

  it("shows what there is, and not what was being tried, after going back or forth", () => {
    const store = new BenchStore(opened(look));
    store.edit("Rename", (before) => ({ ...before, name: "b" }));
    for (const type of ["undo", "redo"] as const) {
      store.dispatch({ type: "try", look: { ...store.get().look, name: "tried" } });
      store.dispatch({ type });
      expect(store.get().trial, type).toBeNull();
    }
    expect(store.get().look.name).toBe("b");
    expect(shownLook(store.get()).name).toBe("b");
  });

  it("tells those who follow it of every change, and of none where there is none", () => {
    const store = new BenchStore(opened(look));
    const told: (string | undefined)[] = [];
    const stop = store.subscribe(() => told.push(store.get().look.name));
    store.edit("Rename", (before) => before);
    store.dispatch({ type: "endGesture" });
    store.dispatch({ type: "undo" });
    store.dispatch({ type: "redo" });
    store.dispatch({ type: "try", look: null });
    expect(told).toEqual([]);
    store.edit("Rename", (before) => ({ ...before, name: "b" }));
    stop();
    store.edit("Rename", (before) => ({ ...before, name: "c" }));
    expect(told).toEqual(["b"]);
  });

  it("keeps the last hundred changes", () => {
    const store = new BenchStore(opened(look));
    for (let number = 0; number < 105; number += 1)
      store.edit(`${number}`, (before) => ({ ...before, name: `${number}` }));
    expect(store.get().past).toHaveLength(100);
    expect(store.get().past[0]?.name).toBe("5");
  });
});
