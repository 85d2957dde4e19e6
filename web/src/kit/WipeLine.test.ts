import { describe, expect, it } from "vitest";
import { leftOf, rightOf } from "./WipeLine";

const points = (path: string) =>
  [...path.matchAll(/(-?[\d.]+)(px|%) (-?[\d.]+)(px|%)/g)].map(
    (match) => [Number(match[1]), Number(match[3])] as const,
  );

/** Is the place inside the polygon? By the crossing rule. */
function inside(corners: readonly (readonly [number, number])[], x: number, y: number): boolean {
  let within = false;
  corners.forEach(([ax, ay], index) => {
    const [bx, by] = corners[(index + 1) % corners.length] ?? [0, 0];
    if (ay > y !== by > y && x < ((bx - ax) * (y - ay)) / (by - ay) + ax) within = !within;
  });
  return within;
}

describe("the halves of a wipe", () => {
  it.each([0, 6, 45, 90, 135, -30, 179])("part the frame between them at %i degrees", (angle) => {
    const wipe = { x: 0.4, y: 0.6, angle };
    const [left, right] = [points(leftOf(wipe, 1600, 900)), points(rightOf(wipe, 16 / 9))];
    for (let x = 0.05; x < 1; x += 0.1) {
      for (let y = 0.05; y < 1; y += 0.1)
        expect(inside(left, x * 1600, y * 900), `${x} ${y}`).toBe(!inside(right, x * 100, y * 100));
    }
  });

  it("cover what lies left of an upright line", () => {
    const left = points(leftOf({ x: 0.5, y: 0.5, angle: 0 }, 100, 50));
    expect(inside(left, 20, 25)).toBe(true);
    expect(inside(left, 80, 25)).toBe(false);
  });
});
