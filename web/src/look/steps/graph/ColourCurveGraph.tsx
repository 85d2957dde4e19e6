import { useId, useRef, type PointerEvent } from "react";
import styled, { useTheme } from "styled-components";
import { curves, type Curve } from "./colourPoints";
import { Handle } from "./Handle";
import type { Point } from "./points";

const [WIDTH, HEIGHT] = [312, 150];
/** What is drawn up and down; points beyond it, typed in, stand at the edge. */
const drawn: Readonly<Record<Curve, readonly [number, number]>> = {
  turn: [-90, 90],
  saturation: [0, 2.5],
  lightness: [-0.25, 0.25],
  saturation_by_lightness: [0, 2.5],
};
const ends: Readonly<Record<Curve, readonly [string, string]>> = {
  turn: ["turned on", "turned back"],
  saturation: ["more", "grey"],
  lightness: ["lighter", "darker"],
  saturation_by_lightness: ["more", "grey"],
};
/** A hue of the fingerprint's lightness. */
const inkOf = (hue: number) => `oklch(0.72 0.125 ${hue})`;

const Svg = styled.svg`
  display: block;
  width: calc(100% - 16px);
  margin: 4px 8px;
  height: auto;
  overflow: visible;
  cursor: crosshair;
  touch-action: none;
`;

/** How much of the curve is drawn up and down: what a drag over the height of a picture goes by. */
export const heightOf = (curve: Curve) => drawn[curve][1] - drawn[curve][0];

interface Props {
  readonly curve: Curve;
  readonly label: string;
  readonly points: readonly Point[];
  /** Where the curve runs, evenly over its range, as the engine has it. */
  readonly line: readonly number[] | undefined;
  readonly chosen: number;
  readonly onChoose: (index: number) => void;
  /** Its place among the points; null where there is no room for one more. */
  readonly onAdd: (to: Point) => number | null;
  readonly onMove: (index: number, to: Point) => void;
  readonly onRemove: (index: number) => void;
  readonly onDone: () => void;
}

/** One curve over hue or over tone: drawn, its points dragged and nudged, a new one where it is pressed. */
export function ColourCurveGraph({
  curve,
  label,
  points,
  line,
  chosen,
  onChoose,
  onAdd,
  onMove,
  onRemove,
  onDone,
}: Props) {
  const { tokens } = useTheme();
  const fill = useId();
  const svg = useRef<SVGSVGElement>(null);
  const begun = useRef<number | null>(null);
  const range = curves[curve];
  const [least, most] = drawn[curve];

  const xOf = (x: number) => (Math.min(x, range.across) / range.across) * WIDTH;
  const yOf = (y: number) => HEIGHT - ((Math.min(most, Math.max(least, y)) - least) / (most - least)) * HEIGHT;
  const back = (x: number, y: number): Point => [
    (x / WIDTH) * range.across,
    least + ((HEIGHT - y) / HEIGHT) * (most - least),
  ];
  const say = ([x, y]: Point) =>
    `at ${range.isCyclic ? `${x.toFixed(0)} degrees` : `lightness ${x.toFixed(2)}`}, ${y.toFixed(range.digits)} ${range.unit}`;

  /** Where a pointer is, as a point of the curve. */
  function placeOf(event: PointerEvent<SVGSVGElement>): Point | null {
    const matrix = svg.current?.getScreenCTM();
    if (!matrix) return null;
    const place = new DOMPoint(event.clientX, event.clientY).matrixTransform(matrix.inverse());
    return back(place.x, place.y);
  }
  function onPointerDown(event: PointerEvent<SVGSVGElement>) {
    const place = placeOf(event);
    if (event.button !== 0 || !place) return;
    begun.current = onAdd(place);
    if (begun.current !== null) svg.current?.setPointerCapture(event.pointerId);
  }
  function onPointerMove(event: PointerEvent<SVGSVGElement>) {
    const place = placeOf(event);
    if (begun.current !== null && place) onMove(begun.current, place);
  }
  function release() {
    if (begun.current !== null) onDone();
    begun.current = null;
  }

  const path = line
    ?.map((y, i) => `${i ? "L" : "M"}${((i / (line.length - 1)) * WIDTH).toFixed(1)} ${yOf(y).toFixed(1)}`)
    .join("");
  const level = yOf(range.neutral);
  return (
    <Svg
      ref={svg}
      viewBox={`0 0 ${WIDTH} ${HEIGHT}`}
      role="group"
      aria-label={`Curve of ${label}${range.isCyclic ? " over hue" : ""}; click to add a point`}
      data-testid="colour-curve"
      onPointerDown={onPointerDown}
      onPointerMove={onPointerMove}
      onPointerUp={release}
      onPointerCancel={release}
    >
      <rect width={WIDTH} height={HEIGHT} rx={4} fill={tokens.graph.field} />
      <linearGradient id={fill}>
        {Array.from({ length: 25 }, (_, index) => index / 24).map((share) => (
          <stop
            key={share}
            offset={share}
            stopColor={range.isCyclic ? inkOf(360 * share) : `oklch(${share} 0.06 40)`}
          />
        ))}
      </linearGradient>
      {path && <path d={`${path}L${WIDTH} ${level}L0 ${level}Z`} fill={`url(#${fill})`} fillOpacity={0.45} />}
      <path d={`M0 ${level}H${WIDTH}`} stroke={tokens.graph.diagonal} strokeDasharray="3 4" />
      {!range.isCyclic && <path d={`M${xOf(1)} 0V${HEIGHT}`} stroke={tokens.graph.grid} />}
      <text x={4} y={12} fontSize={10.5} fill={tokens.soft}>
        {ends[curve][0]}
      </text>
      <text x={4} y={HEIGHT - 5} fontSize={10.5} fill={tokens.soft}>
        {ends[curve][1]}
      </text>
      {!range.isCyclic && (
        <text x={xOf(1) - 4} y={HEIGHT - 5} fontSize={10.5} textAnchor="end" fill={tokens.soft}>
          white
        </text>
      )}
      {path && <path d={path} fill="none" stroke={tokens.graph.master} strokeWidth={2} data-testid="colour-line" />}
      {points.map((one, index) => (
        <g key={index}>
          <path d={`M${xOf(one[0])} ${level}V${yOf(one[1])}`} stroke={tokens.graph.master} strokeOpacity={0.5} />
          <Handle
            x={xOf(one[0])}
            y={yOf(one[1])}
            label={`Point ${index + 1} of ${points.length}`}
            value={one[1]}
            low={range.low}
            high={range.high}
            text={say(one)}
            isChosen={index === chosen}
            fill={range.isCyclic && index !== chosen ? inkOf(one[0]) : undefined}
            onChoose={() => onChoose(index)}
            onDone={onDone}
            onRemove={() => onRemove(index)}
            onMove={(x, y) => onMove(index, back(x, y))}
            onNudge={(right, up) =>
              onMove(index, [one[0] + right * (range.isCyclic ? 1 : 0.01), one[1] + up * range.step])
            }
          />
        </g>
      ))}
    </Svg>
  );
}
