import { describe, expect, it } from "vitest";
import { pages, surrounds } from "./tokens";

/** Relative luminance and contrast ratio as WCAG 2.2 defines them. */
function luminance(hex: string): number {
  const [red = 0, green = 0, blue = 0] = [1, 3, 5].map((at) => {
    const value = parseInt(hex.slice(at, at + 2), 16) / 255;
    return value <= 0.04045 ? value / 12.92 : ((value + 0.055) / 1.055) ** 2.4;
  });
  return 0.2126 * red + 0.7152 * green + 0.0722 * blue;
}
function contrast(one: string, other: string): number {
  const [low = 0, high = 0] = [luminance(one), luminance(other)].sort((a, b) => a - b);
  return (high + 0.05) / (low + 0.05);
}

describe.each(Object.entries(pages))("the %s page", (_, page) => {
  const grounds = [page.paper, page.glaze, page.hush, page.accentWash];
  it.each(["ink", "soft", "accent", "caution"] as const)("has %s words that are read on every ground", (word) => {
    for (const ground of grounds) expect(contrast(page[word], ground)).toBeGreaterThanOrEqual(4.5);
  });

  it("has words on what is pressed, and on what is turned round, that are read", () => {
    expect(contrast(page.onAccent, page.accent)).toBeGreaterThanOrEqual(4.5);
    expect(contrast(page.onAccent, page.accentPressed)).toBeGreaterThanOrEqual(4.5);
    expect(contrast(page.glaze, page.ink)).toBeGreaterThanOrEqual(4.5);
  });

  it("has lines of graphs that stand out from their field (3, WCAG 1.4.11)", () => {
    for (const line of ["master", "red", "green", "blue"] as const)
      expect(contrast(page.graph[line], page.graph.field)).toBeGreaterThanOrEqual(3);
  });

  it("has true greys where it has greys", () => {
    for (const grey of ["paper", "glaze", "ink", "soft", "faint", "line", "hush"] as const)
      expect(page[grey]).toMatch(/^#(..)\1\1$/);
  });
});

describe.each(Object.entries(surrounds))("the %s surround", (_, surround) => {
  it("has words that are read", () => {
    for (const word of [surround.ink, surround.soft])
      for (const ground of [surround.field, surround.tray]) expect(contrast(word, ground)).toBeGreaterThanOrEqual(4.5);
    expect(contrast(surround.pillInk, surround.pill)).toBeGreaterThanOrEqual(4.5);
  });
});

it("the ratio is that of the recommendation's own example: black on white is 21", () => {
  expect(contrast("#000000", "#ffffff")).toBeCloseTo(21, 6);
});
