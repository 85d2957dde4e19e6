/** Patterns drawn over the picture, from the codes of the engine: stripes and dots in black and white, so that no hue is needed to see them. */
import type { Marks } from "../../look/view/view";

export type Mark = Exclude<Marks, "none">;
/** Marks that are patterns over the picture; the others stand in its place. */
export type Patterned = Exclude<Mark, "vision">;

export interface Marked {
  readonly pattern: ImageBitmap;
  readonly figures: Readonly<Record<string, number>>;
}

/** 1 white, -1 black, 0 nothing. */
type Pattern = (x: number, y: number) => -1 | 0 | 1;
const rising: Pattern = (x, y) => stripe((x + y) % 8);
const falling: Pattern = (x, y) => stripe((((x - y) % 8) + 8) % 8);
const dots: Pattern = (x, y) => (x % 6 === 0 && y % 6 === 0 ? 1 : x % 6 === 1 && y % 6 === 1 ? -1 : 0);
const stripe = (at: number) => (at < 2 ? 1 : at < 4 ? -1 : 0);

/** What codes 1 and 2 look like. */
export const patternsOf: Readonly<Record<Patterned, readonly [Pattern, Pattern]>> = {
  clipping: [falling, rising],
  skin: [dots, rising],
  left: [dots, falling],
  gamut: [falling, dots],
  bake: [dots, rising],
};

export async function drawn(codes: ImageBitmap, kind: Mark): Promise<ImageBitmap> {
  if (kind === "vision") return codes;
  const { width, height } = codes;
  const canvas = new OffscreenCanvas(width, height);
  const context = canvas.getContext("2d", { willReadFrequently: true });
  if (!context) throw new Error("This browser cannot draw the marks.");
  context.drawImage(codes, 0, 0);
  codes.close();
  const image = context.getImageData(0, 0, width, height);
  const [first, second] = patternsOf[kind];
  for (let at = 0, y = 0; y < height; y += 1) {
    for (let x = 0; x < width; x += 1, at += 4) {
      const code = image.data[at];
      const ink = code === 1 ? first(x, y) : code === 2 ? second(x, y) : 0;
      image.data[at] = image.data[at + 1] = image.data[at + 2] = ink > 0 ? 255 : 0;
      image.data[at + 3] = ink === 0 ? 0 : 235;
    }
  }
  return createImageBitmap(image);
}

const percent = (share: number | undefined) =>
  `${((share ?? 0) * 100).toFixed((share ?? 0) > 0 && (share ?? 0) < 0.1 ? 1 : 0)} %`;

/** The figures in words; each with which pattern it is about. */
export function wordsOf(
  kind: Mark,
  figures: Readonly<Record<string, number>>,
  tolerance: number,
): readonly (readonly [0 | 1 | null, string])[] {
  if (kind === "clipping")
    return [
      [0, `at black ${percent(figures.low)}`],
      [1, `at full ${percent(figures.high)}`],
    ];
  if (kind === "gamut")
    return [
      [0, `outside it ${percent(figures.outside)}`],
      [1, `too bright for it ${percent(figures.above)}`],
    ];
  if (kind === "bake")
    return [
      [0, "ΔE over 1"],
      [1, "ΔE over 2"],
      [null, `95 % below ${(figures.p95 ?? 0).toFixed(2)}, worst ${(figures.worst ?? 0).toFixed(1)}`],
    ];
  if (kind === "vision") return [[null, `${percent(figures.lost)} of its edges are lost to such eyes`]];
  if (kind === "left")
    return figures.steps
      ? [
          [0, `partly left ${percent(figures.part)}`],
          [1, `left ${percent(figures.left)}`],
        ]
      : [[null, "no step of this look leaves skin"]];
  if (!figures.share) return [[null, "no skin colours in this picture"]];
  const shift = figures.shift ?? 0;
  return [
    [0, `skin ${percent(figures.share)}`],
    [1, `turned over ${tolerance}°: ${percent(figures.beyond)} of it`],
    [
      null,
      `middle ${shift > 0 ? "+" : ""}${shift.toFixed(1)}°${Math.abs(shift) < 0.5 ? "" : shift > 0 ? " to yellow" : " to red"}`,
    ],
  ];
}
