/** Graphs of a LUT's health that people can read. */
import styled, { useTheme } from "styled-components";
import type { Graphs } from "../../api/types";

const Svg = styled.svg`
  display: block;
  width: 100%;
  height: auto;
  overflow: visible;
  text {
    font-size: 10.5px;
    fill: ${(p) => p.theme.tokens.soft};
  }
`;
const WIDTH = 320;
const HEIGHT = 200;
const TINT = 70;

const line = (ys: readonly number[], low: number, high: number, top: number, height: number) =>
  ys
    .map(
      (y, index) =>
        `${index ? "L" : "M"}${((index / (ys.length - 1)) * WIDTH).toFixed(1)} ${(top + height - ((y - low) / (high - low)) * height).toFixed(1)}`,
    )
    .join("");

/** What grey becomes, the three channels apart; below it how far each leans from their mean, enlarged. */
export function GreyRamp({ ramp }: { ramp: Graphs["ramp"] }) {
  const { graph } = useTheme().tokens;
  const channels = [0, 1, 2].map((channel) => ramp.map((row) => row[channel] ?? 0));
  const low = Math.min(0, ...channels.flat());
  const high = Math.max(1, ...channels.flat());
  const means = ramp.map((row) => row.reduce((sum, value) => sum + value, 0) / 3);
  const tints = channels.map((channel) => channel.map((value, index) => value - (means[index] ?? 0)));
  const most = Math.max(0.01, ...tints.flat().map(Math.abs));
  const colours = [graph.red, graph.green, graph.blue];
  const top = HEIGHT + 22;
  return (
    <Svg
      viewBox={`0 0 ${WIDTH} ${top + TINT + 14}`}
      role="img"
      aria-label={`What grey becomes, and its tint: at most ${(most * 1023).toFixed(0)} of 1023 codes`}
    >
      <rect width={WIDTH} height={HEIGHT} rx={4} fill={graph.field} />
      <path d={`M0 ${HEIGHT}L${WIDTH} 0`} stroke={graph.diagonal} strokeDasharray="3 4" />
      {channels.map((channel, index) => (
        <path
          key={index}
          d={line(channel, low, high, 0, HEIGHT)}
          fill="none"
          stroke={colours[index]}
          strokeWidth={1.75}
        />
      ))}
      <text x={0} y={HEIGHT + 13}>
        Tint on grey, ±{(most * 1023).toFixed(0)} of 1023 codes
      </text>
      <rect y={top} width={WIDTH} height={TINT} rx={4} fill={graph.field} />
      <path d={`M0 ${top + TINT / 2}H${WIDTH}`} stroke={graph.diagonal} strokeDasharray="3 4" />
      {tints.map((tint, index) => (
        <path
          key={index}
          d={line(tint, -most, most, top, TINT)}
          fill="none"
          stroke={colours[index]}
          strokeWidth={1.5}
        />
      ))}
      <text x={0} y={top + TINT + 12}>
        black
      </text>
      <text x={WIDTH} y={top + TINT + 12} textAnchor="end">
        white
      </text>
    </Svg>
  );
}

/** How uneven the lattice is, by red downwards and green across, the largest over blue; dark is uneven. */
export function RoughMap({ rough }: { rough: Graphs["rough"] }) {
  const { graph } = useTheme().tokens;
  const size = rough.length;
  if (size === 0) return <p>A 1D LUT has no lattice.</p>;
  const most = Math.max(...rough.flat());
  const scale = Math.max(1, most);
  const cell = 200 / size;
  return (
    <Svg
      viewBox="0 0 244 216"
      role="img"
      aria-label={`Unevenness of the lattice: at most ${most.toFixed(1)} of 1023 codes`}
    >
      <rect width={200} height={200} fill={graph.field} />
      {rough.map((row, r) =>
        row.map((value, g) => (
          <rect
            key={`${r} ${g}`}
            x={g * cell}
            y={r * cell}
            width={cell + 0.3}
            height={cell + 0.3}
            fill={graph.fill}
            fillOpacity={Math.min(1, value / scale)}
          />
        )),
      )}
      {[0, 0.25, 0.5, 0.75, 1].map((share) => (
        <rect key={share} x={212} y={160 - share * 160} width={14} height={40} fill={graph.fill} fillOpacity={share} />
      ))}
      <rect x={212} y={0} width={14} height={200} fill="none" stroke={graph.grid} />
      <text x={230} y={9}>
        {scale.toFixed(scale < 10 ? 1 : 0)}
      </text>
      <text x={230} y={200}>
        0
      </text>
      <text x={0} y={213}>
        green across, red down; in codes of 1023
      </text>
    </Svg>
  );
}
