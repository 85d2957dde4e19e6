import { expect, it } from "vitest";
import { inLoads } from "./footage";

it("what may belong together is sent together, a large clip by itself", () => {
  const file = (name: string, size = 1000) => ({ name, size });
  const files = [
    file("a.mov", 900e6),
    file("deck.0001.png"),
    file("b.mp4"),
    file("c.MXF", 30e6),
    file("deck.0002.png", 90e6),
    file("d.mov"),
  ];
  expect(inLoads(files).map((load) => load.map(({ name }) => name))).toEqual([
    ["deck.0001.png", "deck.0002.png"],
    ["b.mp4", "d.mov"],
    ["a.mov"],
    ["c.MXF"],
  ]);
  expect(inLoads([])).toEqual([]);
});
