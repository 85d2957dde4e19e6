import { describe, expect, it } from "vitest";
import { corners, curveWords, definitionOf, fresh, idFor, pointsIn, withCurve, type CurveKind } from "./draft";

const placed = {
  ...fresh,
  name: "House Log 2",
  fields: {
    ...fresh.fields,
    ...Object.fromEntries(
      corners.flatMap((one) => [
        [`${one}.x`, "0,3"],
        [`${one}.y`, "0.33"],
      ]),
    ),
  },
};

describe("an encoding that is typed", () => {
  it("becomes a definition of one curve, with an id from its name", () => {
    const { definition, problem } = definitionOf({ ...placed, kind: "gamma" });
    expect(problem).toBeNull();
    expect(definition).toMatchObject({ id: "house-log-2", gamma: { exponent: 2.4, offset: 0 }, red: [0.3, 0.33] });
    expect(definition).not.toHaveProperty("log");
  });

  it("of PQ is a display's, with its peak", () => {
    const { definition } = definitionOf({ ...placed, kind: "pq", referred: "scene" });
    expect(definition).toMatchObject({ pq: { peak: 1000 }, referred: "display" });
  });

  it("is told by its curve", () => {
    const words = (kind: CurveKind) => curveWords(definitionOf({ ...placed, kind }).definition);
    expect((["log", "logc3", "gamma", "pq", "points"] as const).map(words)).toEqual([
      "Logarithm",
      "LogC3 at EI 800",
      "Power 2.4",
      "PQ, 1000 cd/m²",
      "3 points",
    ]);
  });

  it("takes the primaries its curve usually has where none are typed", () => {
    const known = [
      { id: "pq", red: [0.7, 0.29], green: [0.17, 0.8], blue: [0.13, 0.05], white: [0.31, 0.33] },
    ] as never;
    const fields = withCurve(fresh, "pq", known).fields;
    expect([fields["red.x"], fields["white.y"]]).toEqual(["0.7", "0.33"]);
    expect(withCurve(placed, "pq", known).fields["red.x"]).toBe("0,3");
    expect(withCurve(fresh, "gamma", known)).toEqual({ ...fresh, kind: "gamma" });
  });

  it("says which number is missing", () => {
    expect(definitionOf(fresh).problem).toBe("red, x: a number is needed");
    expect(definitionOf({ ...placed, fields: { ...placed.fields, base: "ten" } }).problem).toContain(
      "Base of the logarithm",
    );
  });

  it("reads points by lines, and tells the line that is none", () => {
    expect(pointsIn("0, 0\n\n0.5; 0.18\n1 1").points).toEqual([
      [0, 0],
      [0.5, 0.18],
      [1, 1],
    ]);
    expect(pointsIn("0, 0\nhalf, 1").problem).toContain("Line 2");
  });

  it("makes ids of small letters, digits and hyphens", () => {
    expect(idFor("  Café Log (v2)! ")).toBe("caf-log-v2");
  });
});
