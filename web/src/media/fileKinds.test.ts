import { describe, expect, it } from "vitest";
import { kindOf, mayBeLut } from "./fileKinds";

describe("a file that is dropped", () => {
  it.each([
    ["Warm Night.CUBE", "lut"],
    ["a.b.clf", "lut"],
    ["look.json", "look"],
    ["House.zip", "pack"],
    ["A001.MOV", "clip"],
    ["ferry.edl", "timeline"],
    ["quay.png", "picture"],
    ["quay.DNG", "picture"],
    ["readme.txt", "unknown"],
    ["cube", "unknown"],
    ["folder.cube/readme", "unknown"],
  ])("%s is a %s by its name", (name, kind) => expect(kindOf(name)).toBe(kind));

  it("may be a LUT where its pixels are a cube of nodes in a strip, a column or a square", () => {
    for (const [width, height] of [
      [1089, 33],
      [33, 1089],
      [512, 512],
      [4, 2],
    ] as const)
      expect(mayBeLut(width, height), `${String(width)}x${String(height)}`).toBe(true);
    for (const [width, height] of [
      [1920, 1080],
      [1024, 256],
      [1200, 800],
      [1, 1],
      [17161, 131],
    ] as const)
      expect(mayBeLut(width, height), `${String(width)}x${String(height)}`).toBe(false);
  });
});
