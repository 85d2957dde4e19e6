import { describe, expect, it } from "vitest";
import { movedBy, partToggled, stretched, toggled } from "./choosing";

const set = (...ids: number[]) => new Set(ids);

describe("choosing shots", () => {
  it("takes one and lets it go", () => {
    expect(toggled(set(1), 2)).toEqual(set(1, 2));
    expect(toggled(set(1, 2), 2)).toEqual(set(1));
  });
  it("stretches from the last one in either direction and keeps what was chosen", () => {
    const order = [10, 20, 30, 40, 50];
    expect(stretched(set(10), order, 20, 40)).toEqual(set(10, 20, 30, 40));
    expect(stretched(set(), order, 40, 20)).toEqual(set(20, 30, 40));
    expect(stretched(set(), order, null, 30)).toEqual(set(30));
    expect(stretched(set(10), order, 99, 30)).toEqual(set(10, 30));
  });
  it("moves one by places, not past the ends", () => {
    expect(movedBy([1, 2, 3], 0, 1)).toEqual([2, 1, 3]);
    expect(movedBy([1, 2, 3], 2, -1)).toEqual([1, 3, 2]);
    expect(movedBy([1, 2, 3], 0, -1)).toEqual([1, 2, 3]);
    expect(movedBy([1, 2, 3], 1, 9)).toEqual([1, 3, 2]);
  });
  it("takes all of a scene, or none where all of it was chosen", () => {
    expect(partToggled(set(1, 9), [1, 2])).toEqual(set(1, 2, 9));
    expect(partToggled(set(1, 2, 9), [1, 2])).toEqual(set(9));
  });
});
