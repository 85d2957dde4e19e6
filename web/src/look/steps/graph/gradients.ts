type Lines = Readonly<Record<string, readonly number[]>>;

const COUNT = 48;
/** Lightness and chroma of a fingerprint. */
const [LIGHT, CHROMA] = [0.72, 0.125];

function at(lines: Lines, name: string, share: number, none: number): number {
  const line = lines[name];
  return line?.[Math.round(share * (line.length - 1))] ?? none;
}

const gradient = (stopOf: (share: number) => string) =>
  `linear-gradient(90deg in oklab, ${Array.from({ length: COUNT + 1 }, (_, index) => stopOf(index / COUNT)).join(",")})`;

/** The hue circle unrolled, changed by the engine's lines over hues where they are given. */
export function hueRibbon(lines: Lines): string {
  return gradient(
    (share) =>
      `oklch(${LIGHT + at(lines, "lightness", share, 0)} ${CHROMA * at(lines, "saturation", share, 1)} ${360 * share + at(lines, "hue", share, 0)})`,
  );
}

/** Black to white in one hue, changed by the engine's factor of saturation over lightness. across: the lightness at its right end */
export function toneRibbon(lines: Lines, across: number): string {
  return gradient((share) => {
    const light = share * across;
    return `oklch(${Math.min(1, light)} ${0.09 * at(lines, "saturation_by_lightness", share, 1)} 40)`;
  });
}
