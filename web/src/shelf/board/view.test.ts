import { describe, expect, it } from "vitest";
import { WHOLE, held, moved, panned, placed, zoomed } from "./view";

/** Which place of the picture lies at (x, y) of the cell. */
const under = (view: typeof WHOLE, x: number, y: number) => [
  view.x + (x - 0.5) / view.zoom,
  view.y + (y - 0.5) / view.zoom,
];

describe("the one view of all cells", () => {
  it("goes nearer around the pointer", () => {
    const before = zoomed(WHOLE, 2, { x: 0.4, y: 0.55 });
    const after = zoomed(before, 1.5, { x: 0.3, y: 0.7 });
    const [x0, y0] = under(before, 0.3, 0.7);
    const [x1, y1] = under(after, 0.3, 0.7);
    expect(x1).toBeCloseTo(x0 ?? NaN, 10);
    expect(y1).toBeCloseTo(y0 ?? NaN, 10);
  });
  it("never shows anything beyond the picture's edge", () => {
    const corner = panned(zoomed(WHOLE, 4), 50, 50);
    expect(under(corner, 0, 0)).toEqual([0, 0]);
    expect(held({ zoom: 0.2, x: 3, y: -1 })).toEqual(WHOLE);
    expect(zoomed(WHOLE, 1000).zoom).toBe(8);
  });
  it("follows the hand by what the hand has moved", () => {
    const near = zoomed(WHOLE, 4);
    expect(panned(near, 0.1, 0).x).toBeCloseTo(near.x - 0.025, 10);
  });
  it("is the whole picture where nothing was done", () => {
    expect(placed(WHOLE)).toBe("translate(0.000%, 0.000%) scale(1)");
  });
});

describe("an order by hand", () => {
  it("takes one out and puts it in", () => {
    expect(moved(["a", "b", "c", "d"], 0, 2)).toEqual(["b", "c", "a", "d"]);
    expect(moved(["a", "b", "c"], 2, 0)).toEqual(["c", "a", "b"]);
    expect(moved(["a", "b"], 1, 9)).toEqual(["a", "b"]);
    expect(moved(["a", "b"], 5, 0)).toEqual(["a", "b"]);
  });
});
