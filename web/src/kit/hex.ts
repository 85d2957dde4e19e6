/** Colours as people hold them: `#E8C9A0` or `#fc0`, with or without the sign; 8 bits of code value a channel (CSS Color Level 4, 5.2). */
export type Rgb = readonly [number, number, number];

/** Code values 0..1, or null where the text is no colour. */
export function colourIn(text: string): [number, number, number] | null {
  const digits = /^\s*#?([0-9a-f]{3}|[0-9a-f]{6})\s*;?\s*$/i.exec(text)?.[1];
  if (digits === undefined) return null;
  const size = digits.length / 3;
  const channel = (index: number) =>
    parseInt(digits.slice(index * size, (index + 1) * size).repeat(3 - size), 16) / 255;
  return [channel(0), channel(1), channel(2)];
}

/** The nearest colour of 8 bits. */
export function asHex(colour: Rgb): string {
  const two = (value: number) =>
    Math.round(Math.min(1, Math.max(0, value)) * 255)
      .toString(16)
      .padStart(2, "0");
  return `#${colour.map(two).join("")}`.toUpperCase();
}
