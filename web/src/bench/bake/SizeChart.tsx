import styled, { useTheme } from "styled-components";
import type { Fidelity } from "../../api/types";

const WIDTH = 392;
const HEIGHT = 116;
const LEFT = 34;
const TOP = 10;
const BOTTOM = 40;

const Svg = styled.svg`
  display: block;
  width: 100%;
  height: auto;
  overflow: visible;
  text {
    font-size: 11px;
    fill: ${(p) => p.theme.tokens.soft};
  }
  g[role="radio"] {
    cursor: pointer;
    outline: none;
  }
  g[role="radio"]:focus-visible rect {
    stroke: ${(p) => p.theme.tokens.accent};
    stroke-width: 2;
  }
`;

interface Props {
  readonly found: Fidelity | undefined;
  readonly sizes: readonly number[];
  readonly size: number;
  readonly tolerance: number;
  readonly onChange: (size: number) => void;
}

/** Height of an error on a scale of equal ratios, 0.01 to 10. */
function heightOf(error: number): number {
  const share = (Math.log10(Math.max(error, 0.01)) + 2) / 3;
  return Math.min(1, Math.max(0, share)) * (HEIGHT - TOP - BOTTOM);
}

/** The measured error of each size: a stem from the mean to the 99th percentile, the tolerance as a line, the proposed size named. */
export function SizeChart({ found, sizes, size, tolerance, onChange }: Props) {
  const { tokens } = useTheme();
  const shown = found ? found.sizes.map((one) => one.size) : sizes;
  const at = (index: number) => LEFT + ((index + 0.5) * (WIDTH - LEFT)) / shown.length;
  const floor = HEIGHT - BOTTOM;
  const line = floor - heightOf(tolerance);

  function move(step: number) {
    const next = shown[Math.min(shown.length - 1, Math.max(0, shown.indexOf(size) + step))];
    if (next) onChange(next);
  }

  return (
    <Svg
      viewBox={`0 0 ${WIDTH} ${HEIGHT}`}
      role="radiogroup"
      aria-label="Size, with its measured error"
      onKeyDown={(event) => {
        const step = { ArrowRight: 1, ArrowUp: 1, ArrowLeft: -1, ArrowDown: -1 }[event.key];
        if (!step) return;
        event.preventDefault();
        move(step);
      }}
    >
      {[0.1, 1, 10].map((error) => (
        <g key={error}>
          <path d={`M${LEFT} ${floor - heightOf(error)}H${WIDTH}`} stroke={tokens.graph.grid} />
          <text x={LEFT - 6} y={floor - heightOf(error) + 4} textAnchor="end">
            {error}
          </text>
        </g>
      ))}
      <path d={`M${LEFT} ${line}H${WIDTH}`} stroke={tokens.ink} strokeDasharray="2 3" />
      {shown.map((one, index) => {
        const measured = found?.sizes[index];
        const chosen = one === size;
        const good = measured !== undefined && measured.p99 < tolerance;
        const x = at(index);
        return (
          <g
            key={one}
            role="radio"
            aria-checked={chosen}
            tabIndex={chosen || (index === 0 && !shown.includes(size)) ? 0 : -1}
            aria-label={
              measured
                ? `${one}, error ${measured.p99.toFixed(2)} at the 99th percentile${found.proposed === one ? ", proposed" : ""}`
                : `${one}, not measured yet`
            }
            onClick={() => one > 0 && onChange(one)}
            onKeyDown={(event) => {
              if (one > 0 && (event.key === " " || event.key === "Enter")) onChange(one);
            }}
          >
            <rect
              x={x - 33}
              y={TOP - 8}
              width={66}
              height={HEIGHT - TOP + 6}
              rx={8}
              fill={chosen ? tokens.accentWash : "transparent"}
            />
            {measured && (
              <>
                <path
                  d={`M${x} ${floor - heightOf(measured.colours.uniform.mean)}V${floor - heightOf(measured.p99)}`}
                  stroke={good ? tokens.ink : tokens.faint}
                  strokeWidth={1.5}
                />
                <circle
                  cx={x}
                  cy={floor - heightOf(measured.p99)}
                  r={4.5}
                  fill={good ? tokens.ink : tokens.glaze}
                  stroke={tokens.ink}
                  strokeWidth={1.5}
                />
              </>
            )}
            <text
              x={x}
              y={floor + 15}
              textAnchor="middle"
              style={{ fill: chosen ? tokens.accent : tokens.ink, fontWeight: chosen ? 600 : 500, fontSize: 13 }}
            >
              {one || "no lattice"}
            </text>
            <text x={x} y={floor + 30} textAnchor="middle" style={{ fontFamily: tokens.numbers }}>
              {measured ? measured.p99.toFixed(measured.p99 < 10 ? 2 : 0) : "…"}
            </text>
          </g>
        );
      })}
      {found?.proposed != null && shown.includes(found.proposed) && (
        <text
          x={at(shown.indexOf(found.proposed))}
          y={TOP + 2}
          textAnchor="middle"
          style={{ fill: tokens.ink, fontWeight: 600 }}
        >
          proposed
        </text>
      )}
    </Svg>
  );
}
