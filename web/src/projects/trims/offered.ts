/** Kinds of steps that shots are trimmed by. */
export const OFFERED = [
  "tone",
  "white-balance",
  "saturation",
  "curves",
  "levels",
  "cdl",
  "hue-bands",
  "colour-curves",
  "split-tone",
] as const;

export const isTrim = (kind: string): boolean => OFFERED.some((one) => one === kind);
