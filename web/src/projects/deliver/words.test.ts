import { describe, expect, it } from "vitest";
import { sizeOf, timeOf } from "./words";

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
