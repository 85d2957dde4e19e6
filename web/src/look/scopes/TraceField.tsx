import { useLayoutEffect, useRef } from "react";
import styled, { useTheme } from "styled-components";
import { paint, type Counts } from "./paint";

export type TraceKind = "waveform" | "parade" | "vectorscope";
export interface Traced {
  readonly original: Counts;
  readonly current: Counts;
}

const Field = styled.div<{ $square: boolean }>`
  position: relative;
  margin: 0 auto;
  border-radius: 4px;
  overflow: hidden;
  background: ${(p) => p.theme.tokens.scope.field};
  ${(p) => (p.$square ? "width: 188px; height: 188px;" : "width: 100%; height: 150px;")}
  canvas, svg {
    position: absolute;
    inset: 0;
    width: 100%;
    height: 100%;
    display: block;
  }
`;
const Key = styled.p`
  margin-top: 5px;
  font-size: 11px;
  color: ${(p) => p.theme.tokens.soft};
`;

/** Degrees of the skin line from Cb towards Cr: the +I axis of analogue colour television. Common practice, no source. */
const SKIN = 123;
/** Fully saturated primaries and their mixes, as angle and length in Cb, Cr. Source: BT.709-6, item 3.3, of codes 0 and 1. */
const corners: readonly (readonly [string, number, number, number])[] = [
  ["R", 1, 0, 0],
  ["Y", 1, 1, 0],
  ["G", 0, 1, 0],
  ["C", 0, 1, 1],
  ["B", 0, 0, 1],
  ["M", 1, 0, 1],
];

function place(red: number, green: number, blue: number): readonly [number, number] {
  const luma = 0.2126 * red + 0.7152 * green + 0.0722 * blue;
  return [(blue - luma) / 1.8556, (red - luma) / 1.5748];
}

/** A waveform, parade or vectorscope: the original grey behind, the current one over it. */
export function TraceField({
  counts,
  kind,
  behind = "the original",
}: {
  counts: Traced | null;
  kind: TraceKind;
  behind?: string;
}) {
  const { tokens } = useTheme();
  const canvas = useRef<HTMLCanvasElement>(null);
  useLayoutEffect(() => {
    if (canvas.current && counts)
      paint(
        canvas.current,
        counts.original,
        counts.current,
        kind === "parade" ? tokens.scope.channels : [tokens.scope.trace],
      );
  }, [counts, kind, tokens]);

  const square = kind === "vectorscope";
  const turn = (SKIN * Math.PI) / 180;
  return (
    <>
      <Field $square={square} role="img" aria-label={`${kind}, ${behind} behind`} data-testid={`scope-${kind}`}>
        <canvas ref={canvas} />
        {square ? (
          <svg viewBox="-0.5 -0.5 1 1">
            <path d="M-0.5 0H0.5M0 -0.5V0.5" stroke={tokens.scope.line} strokeWidth={0.003} />
            <circle r={0.495} fill="none" stroke={tokens.scope.line} strokeWidth={0.003} />
            <path
              d={`M0 0L${0.46 * Math.cos(turn)} ${-0.46 * Math.sin(turn)}`}
              stroke={tokens.scope.text}
              strokeWidth={0.006}
              strokeDasharray="0.02 0.014"
            />
            <text
              x={0.46 * Math.cos(turn) - 0.02}
              y={-0.46 * Math.sin(turn) + 0.01}
              fontSize={0.05}
              textAnchor="end"
              fill={tokens.scope.text}
            >
              skin
            </text>
            {corners.map(([name, ...rgb]) => {
              const [across, up] = place(...rgb);
              return (
                <text
                  key={name}
                  x={across * 0.92}
                  y={-up * 0.92 + 0.016}
                  fontSize={0.046}
                  textAnchor="middle"
                  fill={tokens.scope.text}
                >
                  {name}
                </text>
              );
            })}
          </svg>
        ) : (
          <svg viewBox="0 0 100 100" preserveAspectRatio="none">
            <path
              d="M0 25H100M0 50H100M0 75H100"
              stroke={tokens.scope.line}
              strokeWidth={1}
              vectorEffect="non-scaling-stroke"
            />
          </svg>
        )}
      </Field>
      <Key>
        {square ? "Cb to the right, Cr up" : "0 to 100 % of code"}; grey: {behind}
      </Key>
    </>
  );
}
