import { describe, expect, it } from "vitest";
import type { Look, Step } from "../api/types";
import { findStep, fresh } from "./arrange";
import { BenchStore, opened } from "./store";
import { ghostsOf, keptGhost, onlyVariant, otherVariant, variantsOf, withGhost, withVariant } from "./variants";

const look: Look = {
  steps: [
    { kind: "tone", id: "t", exposure: 0 },
    { kind: "group", id: "g", steps: [{ kind: "saturation", id: "s", factor: 1 }] },
  ],
};
const exposed = (exposure: number) => (step: Step) => ({ ...step, exposure }) as Step;
const factors = (now: Look) => variantsOf(now, "s").map((one) => ["factor" in one && one.factor, one.enabled ?? true]);

describe("ghosts", () => {
  it("are the two settings that the step had last, drags and renames counted once", () => {
    const store = new BenchStore(opened(look));
    for (const exposure of [0.2, 0.4]) store.editStep("Tone", "t", exposed(exposure), "drag");
    store.dispatch({ type: "endGesture" });
    store.editStep("Rename step", "t", (step) => ({ ...step, name: "Lift" }));
    store.editStep("Saturation", "s", (step) => ({ ...step, factor: 2 }) as Step);
    for (const exposure of [1, 2]) store.editStep("Tone", "t", exposed(exposure));
    const { look: now, past } = store.get();
    const ghosts = ghostsOf(now, past, "t");
    expect(ghosts.map((one) => "exposure" in one && one.exposure)).toEqual([1, 0.4]);
    const [before] = ghosts as [Step];
    expect(findStep(withGhost(now, before), "t")).toMatchObject({ exposure: 1 });
    expect(findStep(withGhost(now, before), "s")).toMatchObject({ factor: 2 });
    expect(ghostsOf(now, past, "s").map((one) => "factor" in one && one.factor)).toEqual([1]);
    expect(ghostsOf(now, past, "g")).toEqual([]);
    expect(ghostsOf(now, past, null)).toEqual([]);
  });

  it("end where another step stood in its place", () => {
    const store = new BenchStore(opened({ steps: [{ kind: "levels", id: "t" }] }));
    store.editStep("Swap", "t", () => ({ kind: "tone", id: "t" }));
    expect(ghostsOf(store.get().look, store.get().past, "t")).toEqual([]);
  });
});

describe("variants", () => {
  const both = keptGhost(look, { kind: "saturation", id: "s", factor: 0.5 });
  const [first, second] = variantsOf(both, "s").map((one) => one.id ?? "") as [string, string];

  it("stand side by side, the one in hand on", () => {
    expect(factors(both)).toEqual([
      [1, true],
      [0.5, false],
    ]);
    expect(variantsOf(both, "t")).toEqual([]);
    expect(factors(keptGhost(both, { kind: "saturation", id: "s", factor: 3 }))).toHaveLength(3);
  });

  it("take turns: one of them is on", () => {
    const other = withVariant(both, second);
    expect(factors(other).map(([, on]) => on)).toEqual([false, true]);
    expect(otherVariant(both, "s")).toEqual(other);
    expect(variantsOf(otherVariant(other, second) as Look, first).map((one) => one.enabled)).toEqual([true, false]);
    expect(otherVariant(look, "s")).toBeNull();
  });

  it("come down to the one that is kept", () => {
    const kept = onlyVariant(both, second);
    expect(findStep(kept, first)).toBeUndefined();
    expect(findStep(kept, second)).toMatchObject({ factor: 0.5, enabled: true });
    expect(findStep(kept, second)).not.toHaveProperty("variant");
  });

  it("do not go along with a copy", () => {
    expect(fresh(variantsOf(both, "s")[0] as Step)).not.toHaveProperty("variant");
  });
});
