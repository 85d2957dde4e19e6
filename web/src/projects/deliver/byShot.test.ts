import { expect, it } from "vitest";
import type { DeliveredFile } from "../../api/projects";
import { byShot } from "./byShot";

const file = (id: number, place: number | null, shot: string): DeliveredFile => ({
  id,
  place,
  shot,
  file_name: `${String(id)}.png`,
  kind: place === null ? "list" : "still",
  sha256: "",
  bytes: 0,
});

it("files stand by their shots in the order of the story, those of no shot at the end", () => {
  const items = [file(1, null, ""), file(2, 10, "J"), file(3, 2, "B"), file(4, 10, "J"), file(5, null, "Old")];
  expect(byShot(items).map((one) => [one.place, one.name, one.files.map(({ id }) => id)])).toEqual([
    [2, "B", [3]],
    [10, "J", [2, 4]],
    [null, "", [1]],
    [null, "Old", [5]],
  ]);
});
