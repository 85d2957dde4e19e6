import { describe, expect, it } from "vitest";
import type { Encoding, Look } from "../../api/types";
import { begunFor, begunWith, isJustBegun, recipes, sourceOf } from "./beginnings";

const one = (id: string, referred: string, more: Partial<Encoding> = {}) =>
  ({ id, referred, linear: false, hdr: false, ...more }) as Encoding;
const LOG = one("slog3", "scene");
const LINEAR = one("linear-ap1", "scene", { linear: true });
const PHOTO = one("srgb", "display");
const all = [
  LOG,
  LINEAR,
  PHOTO,
  one("pq", "display", { hdr: true }),
  one("acescct", "scene"),
  one("linear-709", "scene", { linear: true }),
];
const look: Look = { name: "New", input: "srgb", output: "srgb", view: "plain", steps: [] };
const kinds = (found: Look) => (found.steps ?? []).map((step) => step.kind);

describe("a look that begins", () => {
  it.each([
    ["photographs", PHOTO, "srgb", "srgb", []],
    ["log", LOG, "slog3", "rec709", ["convert"]],
    ["log", PHOTO, "acescct", "rec709", ["convert"]],
    ["log", LINEAR, "acescct", "rec709", ["convert"]],
    ["linear", LINEAR, "linear-ap1", "srgb", ["convert"]],
    ["linear", undefined, "linear-709", "srgb", ["convert"]],
    ["hdr", PHOTO, "pq", "pq", []],
  ] as const)("with %s, seen in %o, goes from %s to %s", (source, seen, input, output, steps) => {
    const found = begunFor(look, source, seen);
    expect([found.input, found.output]).toEqual([input, output]);
    expect(kinds(found)).toEqual(steps);
    expect(found.steps?.every((step) => step.id)).toBe(true);
    expect(sourceOf(found, all)).toBe(source);
  });

  it("can be of another kind after all, and nothing of the first is left", () => {
    const found = begunFor(begunFor(look, "log", LOG), "photographs", LOG);
    expect(kinds(found)).toEqual([]);
    expect(found.name).toBe("New");
  });

  it("has begun only once a step does more than to convert", () => {
    const none = new Set<string>();
    expect(isJustBegun([], none)).toBe(true);
    expect(isJustBegun(begunFor(look, "log", LOG).steps ?? [], none)).toBe(true);
    expect(isJustBegun([{ kind: "tone", id: "a" }], none)).toBe(false);
    expect(isJustBegun([{ kind: "curves", id: "a" }], new Set(["a"]))).toBe(true);
  });

  it("gives a recipe the place of what changes nothing, after the conversion", () => {
    const [convert] = begunFor(look, "log", LOG).steps ?? [];
    const began = { ...look, steps: convert ? [convert, { kind: "curves" as const, id: "a" }] : [] };
    const found = begunWith(began, recipes[0]?.steps ?? [], new Set(["a"]), () => false);
    expect(kinds(found)).toEqual(["convert", "tone", "saturation"]);
  });

  it("is offered recipes with names and steps of their own", () => {
    expect(new Set(recipes.map((recipe) => recipe.name)).size).toBe(recipes.length);
    expect(recipes.every((recipe) => recipe.steps.length > 1)).toBe(true);
  });

  it("says nothing of an encoding that is not there", () => {
    expect(sourceOf({ ...look, input: "gone" }, all)).toBeNull();
  });
});
