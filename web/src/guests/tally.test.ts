import { expect, test } from "vitest";
import { tallyOf } from "./tally";

test("verdicts are counted, the kindest first", () => {
  expect(tallyOf([])).toBe("");
  expect(tallyOf([{ choice: "no" }, { choice: "yes" }, { choice: "no" }])).toBe("1 yes, 2 no");
  expect(tallyOf([{ choice: "maybe" }, { choice: "" }])).toBe("1 maybe");
});
