import { memo } from "react";
import styled, { useTheme } from "styled-components";
import type { Scopes as Counts } from "../../api/types";
import { oneLine } from "../../kit/oneLine";
import { areaOf, lineOf } from "../steps/graph/points";

const Head = styled.div`
  display: flex;
  justify-content: space-between;
  align-items: baseline;
  margin-bottom: 6px;
  gap: 10px;
  small {
    ${oneLine}
    font-size: 11px;
    color: ${(p) => p.theme.tokens.soft};
  }
  span {
    flex: none;
    white-space: nowrap;
    font-family: ${(p) => p.theme.tokens.numbers};
    font-size: 11px;
    color: ${(p) => p.theme.tokens.soft};
  }
`;
const Svg = styled.svg`
  display: block;
  width: 100%;
  height: 92px;
  border-radius: 4px;
  background: ${(p) => p.theme.tokens.graph.field};
`;
const WIDTH = 312;
const HEIGHT = 92;

/** Neighbouring bins together: an 8-bit picture that was stretched leaves every few of 256 empty, which says nothing here. */
function halved(counts: readonly number[]): number[] {
  return Array.from({ length: counts.length / 2 }, (_, i) => (counts[2 * i] ?? 0) + (counts[2 * i + 1] ?? 0));
}

const share = (value: number) => (value === 0 ? "0" : value < 0.001 ? "< 0.1" : (value * 100).toFixed(1));

/** Histogram of the result, the original's luma behind it in grey. */
export const Histogram = memo(function Histogram({
  scopes,
  behind = "the original",
}: {
  scopes: Counts | null;
  behind?: string;
}) {
  const { tokens } = useTheme();
  const colours = [tokens.graph.red, tokens.graph.green, tokens.graph.blue];
  return (
    <>
      <Head>
        <small>grey: {behind}</small>
        {scopes && (
          <span title="Share of pixels with a channel at 0 or below, and at full or above">
            black {share(scopes.clipped_low)} % · white {share(scopes.clipped_high)} %
          </span>
        )}
      </Head>
      <Svg viewBox={`0 0 ${WIDTH} ${HEIGHT}`} preserveAspectRatio="none">
        {scopes && (
          <>
            <path
              d={areaOf(halved(scopes.source[3] ?? []), WIDTH, HEIGHT)}
              fill={tokens.graph.fill}
              fillOpacity={0.1}
            />
            {colours.map((colour, index) => (
              <path
                key={colour}
                d={lineOf(halved(scopes.result[index] ?? []), WIDTH, HEIGHT)}
                fill="none"
                stroke={colour}
                strokeWidth={1.2}
                vectorEffect="non-scaling-stroke"
              />
            ))}
          </>
        )}
      </Svg>
    </>
  );
});
