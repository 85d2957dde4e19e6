import { describe, expect, it } from "vitest";
import { howOf, movedBy, partToggled, pressed, stretched, toggled } from "./choosing";

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
  it("takes one alone by a plain press, more of them with Ctrl or Cmd, a run with Shift", () => {
    const held = (shiftKey: boolean, ctrlKey: boolean, metaKey = false) => howOf({ shiftKey, ctrlKey, metaKey });
    const order = [10, 20, 30, 40];
    expect(pressed(set(10, 30), order, 30, 20, held(false, false))).toEqual(set(20));
    expect(pressed(set(10), order, 10, 20, held(false, true))).toEqual(set(10, 20));
    expect(pressed(set(10, 20), order, 20, 20, held(false, false, true))).toEqual(set(10));
    expect(pressed(set(10), order, 20, 40, held(true, false))).toEqual(set(20, 30, 40));
    expect(pressed(set(10), order, 20, 30, held(true, true))).toEqual(set(10, 20, 30));
  });
  it("lets the only one go by a second press", () => {
    expect(pressed(set(20), [10, 20], 20, 20, "only")).toEqual(set());
    expect(pressed(set(10, 20), [10, 20], 20, 20, "only")).toEqual(set(20));
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
