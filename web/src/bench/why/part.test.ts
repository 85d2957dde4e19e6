import { describe, expect, it } from "vitest";
import { partBetween } from "./part";

describe("the part that is asked about", () => {
  it("is the same whichever way it is drawn, and no larger than the picture", () => {
    const part = { left: 0.2, top: 0, right: 0.6, bottom: 0.5 };
    expect(partBetween({ x: 0.6, y: -0.3 }, { x: 0.2, y: 0.5 })).toEqual(part);
    expect(partBetween({ x: 0.2, y: 0.5 }, { x: 0.6, y: -0.3 })).toEqual(part);
  });

  it("is a place where the mouse hardly moved", () => {
    expect(partBetween({ x: 0.5, y: 0.5 }, { x: 0.503, y: 0.498 })).toEqual({
      left: 0.5,
      top: 0.5,
      right: 0.5,
      bottom: 0.5,
    });
  });
});
