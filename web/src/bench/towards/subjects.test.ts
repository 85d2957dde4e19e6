import { expect, it } from "vitest";
import type { Picture, Project } from "../../api/types";
import { MOST, subjectsOf, subjectsOfScene } from "./subjects";

const shot = (scene: number, picture: number, encoding = "srgb", encoding_said = false) =>
  ({ scene, picture, encoding, encoding_said }) as Project["shots"][number];

it("takes each picture of a scene once, read as its shot says", () => {
  const shots = [shot(1, 5), shot(2, 6), shot(1, 7, "film-log", true), shot(1, 5, "rec709", true)];
  expect(subjectsOfScene({ shots }, 1)).toEqual([{ id: 5 }, { id: 7, readAs: "film-log" }]);
  expect(subjectsOfScene({ shots }, 9)).toEqual([]);
});

it("takes an even choice of many", () => {
  const shots = Array.from({ length: 100 }, (_, index) => shot(1, index));
  const ids = subjectsOfScene({ shots }, 1).map((one) => one.id);
  expect(ids).toEqual(Array.from({ length: 20 }, (_, index) => index * 5));
  expect(ids.length).toBeLessThanOrEqual(MOST);
});

it("takes the first of a tray, as they are read on the Bench", () => {
  const tray = Array.from({ length: 30 }, (_, id) => ({ id }) as Picture);
  const found = subjectsOf(tray, { 1: "film-log" });
  expect(found).toHaveLength(MOST);
  expect(found[1]).toEqual({ id: 1, readAs: "film-log" });
});
