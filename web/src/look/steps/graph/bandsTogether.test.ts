import { describe, expect, it } from "vitest";
import { movedTogether, type HueBand } from "./bandsTogether";

const bands: HueBand[] = [
  { centre: 29, hue: 0, saturation: 1 },
  { centre: 66, hue: 10, saturation: 1.5 },
  { centre: 110, hue: 55, saturation: 2.9, lightness: 0.1 },
];

describe("hue bands together", () => {
  it("go by as much as the one in hand, and no further than they can", () => {
    const moved = movedTogether(bands, 0, new Set([0, 1, 2]), { hue: 12, saturation: 1.2 });
    expect(moved.map((one) => one.hue)).toEqual([12, 22, 60]);
    expect(moved.map((one) => one.saturation)).toEqual([1.2, 1.7, 3]);
    expect(moved[2]?.lightness).toBe(0.1);
  });

  it("stay where they are round the circle", () => {
    const moved = movedTogether(bands, 0, new Set([0, 1]), { centre: 35, saturation: 1.1 });
    expect(moved.map((one) => one.centre)).toEqual([35, 66, 110]);
    expect(moved[2]).toBe(bands[2]);
  });

  it("one by one where none goes along", () => {
    expect(movedTogether(bands, 1, new Set(), { hue: -5 })).toEqual([bands[0], { ...bands[1], hue: -5 }, bands[2]]);
  });
});
