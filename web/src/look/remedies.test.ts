import { describe, expect, it } from "vitest";
import type { Look } from "../api/types";
import { withRemedy, type CarriedRemedy } from "./remedies";

const look = {
  name: "Punch",
  steps: [
    { kind: "tone", id: "a" },
    { kind: "group", id: "b", steps: [{ kind: "split-tone", id: "step 2.1", leave_skin: { width: 30 } }] },
  ],
} as unknown as Look;
const remedy = (more: Partial<CarriedRemedy>): CarriedRemedy => ({
  kind: "strength",
  path: "steps[0]",
  value: 0.5,
  words: "",
  id: "a",
  ...more,
});

describe("what would help where a look breaks", () => {
  it("turns one step down and leaves the others", () => {
    expect(withRemedy(look, remedy({}))?.steps).toEqual([{ kind: "tone", id: "a", strength: 0.5 }, look.steps?.[1]]);
  });
  it("finds a step that is named by its place, and keeps what it left of skin", () => {
    const inside = withRemedy(look, remedy({ kind: "leave-skin", id: "", path: "steps[1].steps[0]", value: 1 }));
    expect(inside?.steps?.[1]).toMatchObject({ steps: [{ leave_skin: { width: 30, amount: 1 } }] });
  });
  it("adds a limit at the end", () => {
    const limited = withRemedy(look, remedy({ kind: "limit", value: 0.1, path: "steps[2]" }));
    expect(limited?.steps?.[2]).toMatchObject({ kind: "limit", low: 0, high: 1, knee: 0.1, keep: "hue" });
  });
  it("is nothing where the step is gone", () => {
    expect(withRemedy(look, remedy({ id: "z" }))).toBeNull();
  });
});
