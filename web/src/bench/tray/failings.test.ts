import { describe, expect, it } from "vitest";
import type { Failing } from "../../api/types";
import { byFailings, byStep } from "./failings";

const failing = (id: string, times: number, words: string): Failing => ({
  what: "clipped",
  words,
  times,
  id,
  title: id,
});
const failings = new Map([
  [1, [failing("tone", 2, "4 % clipped"), failing("curves", 1.2, "5 % crushed")]],
  [2, []],
  [3, [failing("tone", 6, "12 % clipped"), failing("tone", 1.1, "45 % merged")]],
]);

describe("where a look fails", () => {
  it("the worst stands first, what holds stays in its order", () => {
    expect(byFailings([{ id: 1 }, { id: 2 }, { id: 4 }, { id: 3 }], failings).map((one) => one.id)).toEqual([
      3, 1, 2, 4,
    ]);
  });

  it("is counted once a picture for each step, with the worst of it", () => {
    expect([...byStep(failings)].map(([id, one]) => [id, one.count, one.worst])).toEqual([
      ["tone", 2, "12 % clipped"],
      ["curves", 1, "5 % crushed"],
    ]);
  });
});
