import { describe, expect, it } from "vitest";
import { grouped, proposedPattern, sceneOfFolder } from "./grouped";

const picture = (id: number, name: string, folder: string, at: string) => ({
  id,
  name,
  folder,
  at,
  file_name: `${name}.mov`,
});
const all = [
  picture(1, "deck_010", "rushes/day 1", "2026-11-02T09:00:00Z"),
  picture(2, "deck_020", "rushes/day 2", "2026-11-03T09:00:00Z"),
  picture(3, "Pier", "", "2026-11-03T12:00:00Z"),
];
const told = (groups: ReturnType<typeof grouped>) => groups.map((one) => [one.name, one.pictures.map(({ id }) => id)]);

describe("pictures to be brought in", () => {
  it("are one group, or by folder with what lies in none at the end, or by day with the last one first", () => {
    expect(told(grouped(all, "", "all"))).toEqual([["", [1, 2, 3]]]);
    expect(told(grouped(all, "", "folder"))).toEqual([
      ["rushes/day 1", [1]],
      ["rushes/day 2", [2]],
      ["In no media folder", [3]],
    ]);
    expect(told(grouped(all, "", "date"))).toEqual([
      ["2026-11-03", [2, 3]],
      ["2026-11-02", [1]],
    ]);
  });

  it("are found by every word of their names and folders", () => {
    expect(told(grouped(all, "DECK 2", "all"))).toEqual([["", [2]]]);
    expect(told(grouped(all, "pier.mov", "date"))).toEqual([["2026-11-03", [3]]]);
    expect(grouped(all, "mast", "folder")).toEqual([]);
  });
});

describe("a pattern that is proposed", () => {
  it.each([
    [["deck_010", "deck_020", "mast_010"], "{scene}_{shot}"],
    [["A-1", "A-2", "A-3", "A-4", "odd"], "{scene}-{shot}"],
    [["deck.night_01", "deck.night_02"], "{scene}_{shot}"],
  ])("%j: %s", (names, wanted) => expect(proposedPattern(names)).toBe(wanted));

  it.each([
    [["deck_010"]],
    [["deck_010", "mast_010"]],
    [["Quay, dusk", "Quay, film log"]],
    [["deck_wide", "deck_close"]],
    [[]],
  ])("is none where it would put nothing together: %j", (names) => expect(proposedPattern(names)).toBeNull());
});

it("a scene is named after the innermost folder", () => {
  expect(["rushes/day 2", "rushes", "a/b/", ""].map(sceneOfFolder)).toEqual(["day 2", "rushes", "b", ""]);
});
