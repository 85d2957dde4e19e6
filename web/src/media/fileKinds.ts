/** What a file that is dropped somewhere is most likely to be, by its name and, of a picture, by its size. */
import { CLIPS } from "../kit/endings";
import { PICTURES } from "./accepted";

/** Endings of LUT files and gradings that hold numbers only: docs/formats.md. */
export const LUTS = [
  ".cube",
  ".3dl",
  ".clf",
  ".ctf",
  ".csp",
  ".spi1d",
  ".spi3d",
  ".cc",
  ".ccc",
  ".cdl",
  ".icc",
  ".icm",
] as const;

export type FileKind = "lut" | "picture" | "look" | "pack" | "clip" | "timeline" | "unknown";

const ENDINGS: readonly (readonly [FileKind, readonly string[]])[] = [
  ["lut", LUTS],
  ["look", [".json"]],
  ["pack", [".zip"]],
  ["clip", CLIPS],
  ["timeline", [".edl", ".otio"]],
  ["picture", PICTURES],
];

export function kindOf(name: string): FileKind {
  const ending = /\.[^./]+$/.exec(name.toLowerCase())?.[0] ?? "";
  return ENDINGS.find(([, endings]) => endings.includes(ending))?.[0] ?? "unknown";
}

const LARGEST = 129;

/** Does a picture of this size hold as many pixels as a cube of nodes, laid out as LUTs in pictures are: a strip, a column, or a square? */
export function mayBeLut(width: number, height: number): boolean {
  const nodes = Math.round(Math.cbrt(width * height));
  if (nodes < 2 || nodes > LARGEST || nodes ** 3 !== width * height) return false;
  return height === nodes || width === nodes || width === height;
}

/** Is it a picture that may be a LUT as well? Only formats of which a browser knows the size are looked into. */
export async function isEither(file: File): Promise<boolean> {
  if (!/\.png$/i.test(file.name)) return false;
  const image = await createImageBitmap(file).catch(() => null);
  if (!image) return false;
  const { width, height } = image;
  image.close();
  return mayBeLut(width, height);
}
