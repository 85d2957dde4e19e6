import { describe, expect, it } from "vitest";
import { listOf, readList } from "./listed";

const whole = { from: 0, to: 1, peak: 255 };
const points = (text: string, scale = whole) => {
  const found = readList(text, scale);
  return "points" in found
    ? found.points.map(([x, y]) => [x, y].map((one) => Math.round(one * 2550) / 10))
    : found.problem;
};

describe("points written as a list", () => {
  it("are read as people note them, in any order", () => {
    const four = [
      [0, 20],
      [70, 78],
      [160, 150],
      [255, 190],
    ];
    expect(points("0-20, 70-78, 160-150, 255-190")).toEqual(four);
    expect(points("255 → 190; 0 20\n160:150, 70/78,")).toEqual(four);
    expect(points("0 -> 20.5, 255=190")).toEqual([
      [0, 20.5],
      [255, 190],
    ]);
  });

  it("come back as they were written", () => {
    const text = "0-20, 70.5-78, 255-190";
    const found = readList(text, whole);
    expect("points" in found && listOf(found.points, whole)).toBe(text);
  });

  it("are of the range that the curve has, below black and above white", () => {
    const wide = { from: -0.2, to: 1.5, peak: 100 };
    const found = readList("-20--10, 150-120", wide);
    expect("points" in found && listOf(found.points, wide)).toBe("-20--10, 150-120");
  });

  it.each([
    ["0-20, 70", "Point 2, “70”: write what goes in and what comes out, as 70-78."],
    ["0-20, 70-300", "Point 2, “70-300”: 300 is outside; this curve goes from 0 to 255."],
    ["0-20", "A curve takes two points or more, with a comma between them."],
    ["", "A curve takes two points or more, with a comma between them."],
    ["0-20, 70-78, 70-90", "Two points begin at 70: each tone goes to one place."],
    [Array.from({ length: 17 }, (_, at) => `${String(at)}-0`).join(), "That is 17 points; 16 is the most."],
  ])("say what is wrong with %j", (text, problem) => {
    expect(points(text)).toBe(problem);
  });
});
