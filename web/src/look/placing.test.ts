import { describe, expect, it } from "vitest";
import type { Step } from "../api/types";
import { atStrengthOf } from "./placing";

const lut = (strength?: number): Step => ({
  kind: "lut",
  sha256: "aa",
  ...(strength === undefined ? {} : { strength }),
});
const tone: Step = { kind: "tone" };

describe("what takes the place of a step", () => {
  it("gets its strength, where one stands for one", () =>
    expect(atStrengthOf([lut(0.4)], [lut()], "b")).toEqual([{ ...lut(), strength: 0.4 }]));

  it("is a group at its strength, where several stand for one", () =>
    expect(atStrengthOf([lut(0.4)], [tone, lut()], "Dusk")).toEqual([
      { kind: "group", name: "Dusk", strength: 0.4, steps: [tone, lut()] },
    ]));

  it("stays as it is where the other was whole, or there were several", () => {
    expect(atStrengthOf([lut()], [tone], "b")).toEqual([tone]);
    expect(atStrengthOf([lut(0.4), tone], [tone], "b")).toEqual([tone]);
  });
});
