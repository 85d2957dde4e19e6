import { describe, expect, it } from "vitest";
import type { Found } from "../api/types";
import { groupOfButtons, groupsFound, groupsHere } from "./found";

const names = (groups: ReturnType<typeof groupsHere>) =>
  Object.fromEntries(groups.map((one) => [one.name, one.items.map((item) => item.name)]));
const actions = [
  { name: "Save version", run: () => undefined },
  { name: "Bake", keys: "B", run: () => undefined },
];

describe("what the search over everything lists", () => {
  it("begins with what can be done here and where one can go", () => {
    const groups = groupsHere("", actions, ["design", "curate"]);
    expect(groups.map((one) => one.name)).toEqual(["Do here", "Go to"]);
    expect(groups[0]?.items.map((one) => [one.name, one.detail])).toEqual([
      ["Save version", ""],
      ["Bake", "B"],
    ]);
    expect(names(groups)["Go to"]).toContain("Duplicates");
  });

  it("ends with the buttons of the page, but for what stands there by its name already", () => {
    const buttons = ["Save version", "Save as a set", "Star Hearth"].map((name) => ({ name, run: () => undefined }));
    expect(names(groupOfButtons("sa", buttons, actions))).toEqual({ "Press on this page": ["Save as a set"] });
    expect(groupOfButtons("", buttons, actions)).toEqual([]);
  });

  it("takes every word, in any order and in any case", () => {
    expect(names(groupsHere("VERS sa", actions, []))).toEqual({ "Do here": ["Save version"] });
    expect(groupsHere("save bake", actions, [])).toEqual([]);
  });

  it("finds a place by other words for it, and none that the person may not go to", () => {
    expect(names(groupsHere("restore", [], ["design"]))).toEqual({ "Go to": ["Bin"] });
    expect(groupsHere("restore", [], [])).toEqual([]);
    expect(groupsHere("duplicates", [], ["design"])).toEqual([]);
  });

  it("says of each thing what it is, where it leads and what it looks like", () => {
    const found: Found = {
      entries: [],
      boards: [],
      projects: [{ id: 3, name: "Salt" }],
      shots: [{ id: 7, code: "SF_010", scene: "Quay", project: "Salt", project_id: 3, picture: 9 }],
      pictures: [{ id: 9, name: "Quay" }],
    };
    const groups = groupsFound(found, undefined);
    expect(groups.flatMap((one) => one.items.map((item) => [one.id, item.detail, item.to, item.image]))).toEqual([
      ["projects", "", "/projects/3", null],
      ["shots", "Salt, Quay", "/projects/3/shots/7", "/api/pictures/9/disc.jpg"],
      ["pictures", "", "/bench?picture=9", "/api/pictures/9/disc.jpg"],
    ]);
  });
});
