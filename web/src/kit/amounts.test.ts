import { describe, expect, it } from "vitest";
import { sizeOf, timeLeft, timeOf } from "./amounts";

describe("sizes and times", () => {
  it("are told in what people count in", () => {
    expect([sizeOf(10), sizeOf(345_000), sizeOf(2_340_000), sizeOf(45e6), sizeOf(3.21e9)]).toEqual([
      "1 kB",
      "345 kB",
      "2.3 MB",
      "45 MB",
      "3.2 GB",
    ]);
    expect([timeOf(0.4), timeOf(12.4), timeOf(600), timeOf(7300)]).toEqual([
      "a second",
      "12 seconds",
      "10 minutes",
      "2.0 hours",
    ]);
  });
});

it("what is left is told by what has been done, once that says anything", () => {
  expect([timeLeft(60, 0.25), timeLeft(60, 0.5)]).toEqual([180, 60]);
  expect([timeLeft(60, 0), timeLeft(60, 0.01), timeLeft(1, 0.5), timeLeft(60, 1)]).toEqual([null, null, null, null]);
});
