/** What a look can begin with: where its pictures come from, and a few recipes that are only a start. */
import type { Encoding, Look, Step } from "../../api/types";
import { fresh } from "../../look/arrange";
import { withAdded } from "../../look/placing";

export type Source = "photographs" | "log" | "linear" | "hdr";
export const sources: readonly (readonly [Source, string])[] = [
  ["photographs", "Photographs"],
  ["log", "Log video"],
  ["linear", "Linear renders"],
  ["hdr", "HDR"],
];
export const sourceNotes: Readonly<Record<Source, string>> = {
  photographs: "Worked at as they are seen, from sRGB to sRGB.",
  log: "From the camera’s log to Rec.709: the first step converts, softly, and the rest is worked at as it is seen.",
  linear: "From light as it was rendered to sRGB: the first step converts, softly.",
  hdr: "Worked at in PQ, from HDR to HDR.",
};

const isLog = (one: Encoding | undefined): boolean => one !== undefined && one.referred === "scene" && !one.linear;

/** The look's ends and first step for pictures of this kind. seen: the encoding of the picture in view, kept where it is of this kind */
export function begunFor(look: Look, source: Source, seen: Encoding | undefined): Look {
  const converted = (input: string, output: string): Look => ({
    ...look,
    input,
    output,
    view: "soft",
    steps: [fresh({ kind: "convert", to: output, rendering: "soft" })],
  });
  switch (source) {
    case "photographs":
      return { ...look, input: "srgb", output: "srgb", steps: [] };
    case "log":
      return converted(isLog(seen) ? (seen?.id ?? "acescct") : "acescct", "rec709");
    case "linear":
      return converted(seen?.linear ? seen.id : "linear-709", "srgb");
    case "hdr":
      return { ...look, input: "pq", output: "pq", steps: [] };
  }
}

/** Of which kind the look's pictures are, as its ends say it. */
export function sourceOf(look: Look, encodings: readonly Encoding[]): Source | null {
  const input = encodings.find((one) => one.id === look.input);
  if (!input) return null;
  if (input.hdr) return "hdr";
  if (input.linear) return "linear";
  return isLog(input) ? "log" : "photographs";
}

export interface Beginning {
  readonly name: string;
  readonly note: string;
  readonly steps: readonly Step[];
}
export const recipes: readonly Beginning[] = [
  {
    name: "Firm and plain",
    note: "contrast, soft whites",
    steps: [
      { kind: "tone", contrast: 1.14, toe: 0.1, shoulder: -0.3 },
      { kind: "saturation", factor: 1.06, muted: 0.15 },
    ],
  },
  {
    name: "Warm light, cool shade",
    note: "two tints apart",
    steps: [
      { kind: "split-tone", shadows: { hue: 245, amount: 0.03 }, highlights: { hue: 75, amount: 0.035 } },
      { kind: "tone", contrast: 1.06, shoulder: -0.2 },
    ],
  },
  {
    name: "Left in the sun",
    note: "lifted blacks, quiet colour",
    steps: [
      { kind: "levels", master: { output_black: 0.06, output_white: 0.95 } },
      { kind: "saturation", factor: 0.8 },
      { kind: "white-balance", warm: 8 },
    ],
  },
];

/** Nothing is done yet but that the picture is brought to where it is worked at. neutral: steps that change nothing, by their ids */
export const isJustBegun = (steps: readonly Step[], neutral: ReadonlySet<string>): boolean =>
  steps.every((one) => one.kind === "convert" || neutral.has(one.id ?? ""));

/** The recipe after what there is; steps that change nothing make room. */
export function begunWith(
  look: Look,
  steps: readonly Step[],
  neutral: ReadonlySet<string>,
  isSpatial: (kind: string) => boolean,
): Look {
  const kept = (look.steps ?? []).filter((one) => !neutral.has(one.id ?? ""));
  return withAdded({ ...look, steps: kept }, steps, kept.at(-1)?.id ?? null, isSpatial).look;
}
