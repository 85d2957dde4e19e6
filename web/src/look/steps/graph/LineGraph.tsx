import styled, { useTheme } from "styled-components";
import { areaOf, pathOf } from "./points";

const WIDTH = 312;

const Svg = styled.svg`
  display: block;
  width: calc(100% - 16px);
  height: auto;
  overflow: visible;
  margin: 8px 8px 0;
`;

interface Props {
  readonly label: string;
  /** Sampled at even positions, 0..1. */
  readonly line: readonly number[] | undefined;
  /** Counts of what reaches the step, drawn behind the line. */
  readonly counts?: readonly number[] | undefined;
  readonly height: number;
  /** What lies at the left and the right end. */
  readonly ends: readonly [string, string];
  /** The line of no change: from corner to corner, or level at this height 0..1. */
  readonly neutral: "diagonal" | number;
}

/** What a step does, as the engine computed it; not to be dragged. */
export function LineGraph({ label, line, counts, height, ends, neutral }: Props) {
  const { tokens } = useTheme();
  const level = neutral === "diagonal" ? null : height - neutral * height;
  const still = level === null ? `M0 ${height}L${WIDTH} 0` : `M0 ${level}H${WIDTH}`;
  return (
    <Svg viewBox={`0 0 ${WIDTH} ${height + 14}`} role="img" aria-label={label}>
      <rect width={WIDTH} height={height} rx={4} fill={tokens.graph.field} />
      {counts && (
        <path
          d={areaOf(counts, WIDTH, height * 0.6)}
          transform={`translate(0 ${height * 0.4})`}
          fill={tokens.graph.master}
          fillOpacity={0.12}
        />
      )}
      <path d={still} stroke={tokens.graph.diagonal} strokeDasharray="3 4" fill="none" />
      <svg width={WIDTH} height={height} viewBox={`0 0 ${WIDTH} ${height}`}>
        <g transform={`scale(1 ${height / WIDTH})`}>
          <path
            d={line ? pathOf(line, WIDTH) : ""}
            fill="none"
            stroke={tokens.graph.master}
            strokeWidth={2}
            vectorEffect="non-scaling-stroke"
          />
        </g>
      </svg>
      <text x={0} y={height + 12} fontSize={10.5} fill={tokens.soft}>
        {ends[0]}
      </text>
      <text x={WIDTH} y={height + 12} fontSize={10.5} fill={tokens.soft} textAnchor="end">
        {ends[1]}
      </text>
    </Svg>
  );
}
