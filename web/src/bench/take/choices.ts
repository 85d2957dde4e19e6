import { pictureFormats } from "../../media/pictureFormats";

/** How graded pictures were taken last. */
export interface TakeChoices {
  readonly format: "" | "png" | "jpeg" | "tiff" | "openexr" | "dpx";
  readonly depth: "" | "u8" | "u16" | "f16" | "f32";
  readonly encoding: string;
}

const depths = [
  { id: "u8", name: "8 bits" },
  { id: "u16", name: "16 bits" },
  { id: "f16", name: "16-bit floats" },
  { id: "f32", name: "32-bit floats" },
] as const;
const holds: Readonly<Record<TakeChoices["format"], readonly TakeChoices["depth"][]>> = {
  "": ["u8", "u16", "f16", "f32"],
  png: ["u8", "u16"],
  jpeg: ["u8"],
  tiff: ["u8", "u16", "f32"],
  openexr: ["f16", "f32"],
  dpx: ["u8", "u16"],
};

export const depthsOf = (format: TakeChoices["format"]) => [
  { id: "", name: "As it came" },
  ...depths.filter((one) => holds[format].includes(one.id)),
];

/** What was chosen last, as this browser remembers it; whatever no longer is a choice is left out. */
export function readChoices(found: unknown): TakeChoices {
  const { format, depth, encoding } = (found ?? {}) as Partial<Record<keyof TakeChoices, unknown>>;
  const known = pictureFormats.find((one) => one.id === format)?.id ?? "";
  return {
    format: known,
    depth: holds[known].find((one) => one === depth) ?? "",
    encoding: typeof encoding === "string" ? encoding : "",
  };
}
