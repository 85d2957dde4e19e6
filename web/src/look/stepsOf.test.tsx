import { describe, expect, it } from "vitest";
import type { Look } from "../api/types";
import { groupOfLook, stepOfLut } from "./stepsOf";

const tone = { kind: "tone" } as const;

describe("an entry as steps", () => {
  it("is, of a LUT, one that names its first file and what it is for", () => {
    const files = [{ sha256: "aa" }, { sha256: "bb" }] as never;
    expect(stepOfLut({ name: "n".repeat(130), expects: "s-log3", gives: "rec709", files })).toEqual({
      kind: "lut",
      sha256: "aa",
      title: "n".repeat(120),
      expects: "s-log3",
      gives: "rec709",
    });
  });

  it("is, of a look, a group at its strength, brought into its encoding and back where it is another", () => {
    const look: Look = { name: "Salt", input: "s-log3", output: "rec709", strength: 0.5, steps: [tone] };
    expect(groupOfLook(look, "rec709")).toMatchObject({
      kind: "group",
      name: "Salt",
      strength: 0.5,
      steps: [{ kind: "convert", to: "s-log3" }, tone],
    });
    expect(groupOfLook(look, "s-log3").steps).toEqual([tone, { kind: "convert", to: "s-log3", rendering: "soft" }]);
    expect(groupOfLook({ name: "a", steps: [tone] }, "srgb").steps).toEqual([tone]);
  });
});
