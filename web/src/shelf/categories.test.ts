import { describe, expect, it } from "vitest";
import type { Entry } from "../api/types";
import { categoriesOf, isIn, NONE } from "./categories";

const entry = (category: string): Entry => ({ kind: "lut", id: 1, name: "", detail: "", state: "", by: "", at: "", size: 33, category });

describe("categories of the Shelf", () => {
  it("count what is in a folder and below it, as a tree", () => {
    const entries = ["Harbour/Night", "Harbour", "Camera 10", "Camera 9/Log", "", "Harbour/Night", "Harbour dawn"].map(entry);
    expect(categoriesOf(entries).map((one) => [one.path, one.name, one.depth, one.count])).toEqual([
      ["Camera 9", "Camera 9", 0, 1],
      ["Camera 9/Log", "Log", 1, 1],
      ["Camera 10", "Camera 10", 0, 1],
      ["Harbour", "Harbour", 0, 3],
      ["Harbour/Night", "Night", 1, 2],
      ["Harbour dawn", "Harbour dawn", 0, 1],
    ]);
  });

  it("hold what is below them, and not what only begins alike", () => {
    expect(isIn(entry("Harbour/Night"), "Harbour")).toBe(true);
    expect(isIn(entry("Harbour dawn"), "Harbour")).toBe(false);
    expect(isIn(entry(""), "Harbour")).toBe(false);
    expect(isIn(entry(""), NONE)).toBe(true);
    expect(isIn(entry("Harbour"), NONE)).toBe(false);
    expect(isIn(entry("Harbour"), "")).toBe(true);
  });
});
