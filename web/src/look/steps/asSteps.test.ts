import { describe, expect, it } from "vitest";
import type { Apart, StepOf } from "../../api/types";
import { asSteps } from "./asSteps";

const spread = { mean: 0.081, p95: 0.169, largest: 1.5 };
const apart: Apart = {
  name: "Print",
  expects: "s-log3",
  gives: "rec709",
  steps: [
    { kind: "convert", to: "rec709", rendering: "soft" },
    { kind: "curves" },
    { kind: "lut", sha256: "ab", title: "What the steps do not explain" },
  ],
  shares: [{ title: "Curves", share: 4 }],
  untouched: spread,
  explained: spread,
  whole: { ...spread, mean: 0.04 },
  page: "",
  entry: null,
  picture: null,
  file: "",
  file_name: "",
  left_out: [],
};
const step: StepOf<"lut"> = { kind: "lut", id: "l", strength: 0.6, title: "Print" };
const kinds = (made: ReturnType<typeof asSteps>) =>
  made.kind === "group" ? (made.steps ?? []).map((one) => (one.kind === "convert" ? `to ${one.to}` : one.kind)) : [];

describe("a LUT step as steps", () => {
  it("keeps its place, strength and name, and says how close they come", () => {
    const made = asSteps(step, { ...apart, expects: "rec709", steps: apart.steps.slice(1) }, "rec709", "soft");
    expect(made).toMatchObject({ kind: "group", id: "l", strength: 0.6, enabled: true, name: "Print" });
    expect(made.note).toContain("0.08 from it on average");
    expect(kinds(made)).toEqual(["curves", "lut"]);
  });

  it("stands between the same conversions as the LUT did", () => {
    expect(kinds(asSteps(step, apart, "acescct", "soft"))).toEqual(["to rec709", "curves", "lut", "to acescct"]);
    expect(kinds(asSteps({ ...step, ends_in: "gives" }, apart, "acescct", "soft"))).toEqual([
      "to rec709",
      "curves",
      "lut",
    ]);
    expect(kinds(asSteps(step, apart, "rec709", "plain"))).toEqual(["curves", "lut"]);
  });

  it("shares no id with anything", () => {
    const made = asSteps(step, apart, "rec709", "soft");
    const ids = made.kind === "group" ? (made.steps ?? []).map((one) => one.id) : [];
    expect(new Set([...ids, "l"]).size).toBe(ids.length + 1);
  });
});
