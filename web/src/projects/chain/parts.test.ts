import { describe, expect, it } from "vitest";
import type { LayerGiven } from "../../api/projects";
import type { Project, Shot } from "../../api/types";
import { movedBy, movedTo, ownParts, placesOf, sharedGiven, swapped } from "./parts";

const layer = (role: "before" | "look" | "after", entry: number | null): LayerGiven => ({
  role,
  entry,
  version: entry === null ? null : 1,
  steps: entry === null ? [{ kind: "tone" }] : null,
  strength: 1,
  enabled: true,
});
const TRIMS = layer("before", null);
const [PALE, DIM] = [layer("before", 1), layer("before", 2)];
const [WARM, FADED] = [layer("look", 3), layer("look", 4)];
const GRAIN = layer("after", 5);
const order = (moved: { layers: readonly LayerGiven[] } | null) =>
  moved && moved.layers.map((one) => `${one.role ?? ""} ${String(one.entry)}`);

describe("moving what lies on a shot", () => {
  const all = [TRIMS, PALE, DIM, WARM, FADED, GRAIN];

  it("goes past a neighbour of its kind, and says where it came to stand", () => {
    expect(movedBy(all, 3, 1)).toEqual({ layers: [TRIMS, PALE, DIM, FADED, WARM, GRAIN], at: 4 });
    expect(movedBy(all, 2, -1)).toEqual({ layers: [TRIMS, DIM, PALE, WARM, FADED, GRAIN], at: 1 });
  });

  it("takes a preset past the looks to after them, and back", () => {
    const later = movedBy(all, 2, 1);
    expect(order(later)).toEqual(["before null", "before 1", "look 3", "look 4", "after 2", "after 5"]);
    expect(later?.at).toBe(4);
    expect(order(movedBy(later?.layers ?? [], 4, -1))).toEqual(order({ layers: all }));
  });

  it("keeps trims in their place, looks between what is before and after", () => {
    expect(movedBy(all, 0, 1)).toBeNull();
    expect(movedBy(all, 1, -1)).toBeNull();
    expect(movedBy(all, 4, 1)).toBeNull();
    expect(movedBy(all, 3, -1)).toBeNull();
    expect(movedBy([TRIMS, WARM, layer("after", null)], 2, -1)).toBeNull();
    expect(movedBy(all, 9, 1)).toBeNull();
  });

  it("goes where it is dropped, over several others, or nowhere", () => {
    const three = [WARM, FADED, layer("look", 6)];
    expect(order(movedTo(three, 0, 2))).toEqual(["look 4", "look 6", "look 3"]);
    expect(order(movedTo(three, 2, 0))).toEqual(["look 6", "look 3", "look 4"]);
    expect(order(movedTo(all, 1, 5))).toEqual(["before null", "before 2", "look 3", "look 4", "after 5", "after 1"]);
    expect(movedTo(all, 3, 1)).toBeNull();
    expect(movedTo(all, 3, 3)).toBeNull();
    expect(movedTo(all, 3, 9)).toBeNull();
  });

  it("swaps two, where there are two", () => {
    expect(swapped(["a", "b", "c"], 0, 2)).toEqual(["c", "b", "a"]);
    expect(swapped(["a"], 0, 1)).toBeNull();
  });
});

describe("parts of a chain", () => {
  const told = (id: number, entry: number | null, role = "look") => ({ id, entry, role, name: `n${String(entry)}` });
  const shot = {
    id: 7,
    scene: 1,
    roll: "B",
    layers: [told(1, null, "before"), told(2, 3), told(3, 3)],
  } as unknown as Shot;

  it("know what is told of each, the same look twice too", () => {
    const parts = ownParts([TRIMS, WARM, WARM, FADED], shot.layers);
    expect(parts.map((one) => one.told?.id)).toEqual([1, 2, 3, undefined]);
    expect(new Set(parts.map((one) => one.key)).size).toBe(4);
  });

  const project = {
    name: "Ferry",
    scenes: [
      { id: 1, name: "Quay" },
      { id: 2, name: "Deck" },
    ],
    shots: [
      { scene: 1, roll: "B" },
      { scene: 1, roll: "" },
      { scene: 2, roll: "B" },
    ],
    shared: [
      { reach: "roll", role: "before", scene: null, roll: "B", layers: [{ id: 1 }] },
      { reach: "scene", role: "before", scene: 2, roll: "", layers: [{ id: 2 }] },
      { reach: "project", role: "after", scene: null, roll: "", layers: [{ id: 3 }] },
    ],
  } as unknown as Project;

  it("are those of its roll, its scene and its project, with how many shots they are for", () => {
    const places = placesOf(project, shot);
    const seen = Object.entries(places).map(([name, one]) => [name, one?.reached, one?.layers.map(({ id }) => id)]);
    expect(seen).toEqual([
      ["under", 3, []],
      ["roll", 2, [1]],
      ["scene", 2, []],
      ["over", 3, [3]],
    ]);
    expect(placesOf(project, { ...shot, roll: "" }).roll).toBeNull();
  });

  it("are sent back as what they are: a version by its number, or steps", () => {
    const lying = [
      {
        role: "before",
        entry: null,
        version: null,
        steps: [{ kind: "tone" }],
        strength: 1,
        enabled: true,
        off_on: [7],
      },
      { role: "before", entry: 3, version: 2, member: "Night", steps: null, strength: 0.5, enabled: false, off_on: [] },
    ] as never;
    expect(sharedGiven(lying)).toEqual([
      {
        role: "before",
        entry: null,
        version: null,
        steps: [{ kind: "tone" }],
        strength: 1,
        enabled: true,
        off_on: [7],
      },
      { role: "before", entry: 3, version: 2, member: "Night", steps: null, strength: 0.5, enabled: false, off_on: [] },
    ]);
  });
});
