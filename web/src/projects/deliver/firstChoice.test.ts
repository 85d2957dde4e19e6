import { describe, expect, it } from "vitest";
import type { Project, Shot } from "../../api/types";
import { firstChoice, isSame } from "./firstChoice";

const shots = (...moves: boolean[]): Pick<Project, "shots"> => ({
  shots: moves.map((one) => ({ moving: one ? {} : null }) as Shot),
});

describe("what the sheet of a delivery begins with", () => {
  it.each([
    [[true, true], "", "h264"],
    [[true, false], "png", "h264"],
    [[false], "png", ""],
    [[], "png", ""],
  ] as const)("is what the project holds: %j", (moves, stills, clips) => {
    const choice = firstChoice(shots(...moves), undefined);
    expect([choice.stills, choice.clips, choice.sheet]).toEqual([stills, clips, true]);
  });

  it("is what was asked for last, of whatever shots are meant now", () => {
    const last = { stills: "tiff", template: "{shot}", shots: [4, 5] } as const;
    expect(firstChoice(shots(true), { ...last, shots: [4, 5] })).toEqual({
      stills: "tiff",
      template: "{shot}",
      shots: [],
    });
  });
});

describe("a kept choice", () => {
  it("is told by what it asks for, not by what it leaves out or of which shots", () => {
    expect(isSame({ stills: "png", burn: false, shots: [1] }, { sheet: false, stills: "png", clips: "" })).toBe(true);
    expect(isSame({ stills: "png" }, { stills: "png", sheet: true })).toBe(false);
    expect(isSame({ lines: 720, clips: "h264" }, { lines: 1080, clips: "h264" })).toBe(false);
  });
});
