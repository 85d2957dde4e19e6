import { beforeEach, expect, test } from "vitest";
import type { Encoding } from "../api/types";
import { encodingOptions, groupOf, usedEncoding } from "./encodingOptions";

const encoding = (id: string, more: Partial<Encoding> = {}): Encoding =>
  ({
    id,
    name: id.toUpperCase(),
    referred: "scene",
    linear: false,
    hdr: false,
    own: null,
    primaries: "AP1",
    ...more,
  }) as Encoding;

const all = [
  encoding("s-log3"),
  encoding("srgb", { referred: "display" }),
  encoding("pq", { referred: "display", hdr: true }),
  encoding("aces", { linear: true }),
  encoding("house", { own: {} as never, linear: true }),
];

beforeEach(() => localStorage.clear());

test("an encoding stands under what it is for", () =>
  expect(all.map(groupOf)).toEqual([
    "Camera logs",
    "Photographs and displays",
    "HDR",
    "Light of a scene",
    "The team's own",
  ]));

test("they are in groups, and found by their ids and primaries too", () => {
  const options = encodingOptions(all);
  expect(options.map((one) => one.id)).toEqual(["house", "srgb", "pq", "aces", "s-log3"]);
  expect(options.at(-1)?.also).toBe("s-log3 AP1");
});

test("those of the project at hand come before all others, and stand once", () => {
  usedEncoding("aces");
  const options = encodingOptions(all, ["pq", "aces"]);
  expect(options.map((one) => [one.id, one.group])).toEqual([
    ["pq", "In this project"],
    ["aces", "In this project"],
    ["house", "The team's own"],
    ["srgb", "Photographs and displays"],
    ["s-log3", "Camera logs"],
  ]);
});

test("the ones used last come first, the latest before the others, and stand once", () => {
  for (const id of ["aces", "", "s-log3", "aces"]) usedEncoding(id);
  const options = encodingOptions(all);
  expect(options.map((one) => one.id)).toEqual(["aces", "s-log3", "house", "srgb", "pq"]);
  expect(options.slice(0, 2).map((one) => one.group)).toEqual(["Used lately", "Used lately"]);
});
