const COUNT = 16;

/** Hues as they come in, above, and as they leave, below, small. Lines are the engine's, over hues 0..360. */
export function HueSpark({ lines }: { lines: Readonly<Record<string, readonly number[]>> }) {
  const at = (name: string, index: number, none: number) =>
    lines[name]?.[Math.round((index / COUNT) * (lines[name].length - 1))] ?? none;
  const width = 34 / COUNT;
  return (
    <>
      {Array.from({ length: COUNT }, (_, index) => {
        const hue = (360 * (index + 0.5)) / COUNT;
        return (
          <g key={index}>
            <rect x={index * width} y={4} width={width + 0.3} height={8} fill={`oklch(0.72 0.125 ${hue})`} />
            <rect
              x={index * width}
              y={14}
              width={width + 0.3}
              height={8}
              fill={`oklch(${0.72 + at("lightness", index, 0)} ${0.125 * at("saturation", index, 1)} ${hue + at("hue", index, 0)})`}
            />
          </g>
        );
      })}
    </>
  );
}
