import { expect, test } from "vitest";
import type { Entry } from "../api/types";
import { firstOf } from "./words";

const entry = (more: Partial<Entry>) =>
  ({ state: "draft", proposed: true, seen_by: "studio", own: true, holds: "", ...more }) as Entry;

test("what is said of an entry before its detail", () => {
  expect(firstOf(entry({}))).toBe("");
  expect(firstOf(entry({}), "Draft")).toBe("Draft");
  expect(firstOf(entry({ state: "published", holds: "breaks" }))).toBe("Published · Breaks");
  expect(firstOf(entry({ holds: "holds" }))).toBe("");
  expect(firstOf(entry({ proposed: false, seen_by: "owner", holds: "breaks" }), "Draft")).toBe("Only you · Breaks");
});
