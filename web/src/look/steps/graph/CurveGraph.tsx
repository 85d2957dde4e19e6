import { useRef, useState, type KeyboardEvent, type PointerEvent } from "react";
import styled, { useTheme } from "styled-components";
import { areaOf, channels, pathOf, type Channel, type Point } from "./points";

const SIZE = 312;
const EDGE = 8;
const NEAR = 14;

const Svg = styled.svg`
  display: block;
  width: 100%;
  height: auto;
  cursor: crosshair;
  touch-action: none;
  overflow: visible;
  circle {
    cursor: grab;
  }
  circle:focus {
    outline: none;
  }
  circle:focus-visible {
    stroke-width: 4;
  }
`;

interface Props {
  readonly channel: Channel;
  readonly points: readonly Point[];
  readonly lines: Readonly<Record<string, readonly number[]>>;
  readonly reaching: readonly (readonly number[])[] | undefined;
  /** Code values at the ends of the graph. */
  readonly range: readonly [number, number];
  readonly chosen: number;
  readonly onChoose: (index: number) => void;
  readonly onMove: (index: number, point: Point) => void;
  readonly onAdd: (point: Point) => void;
  readonly onRemove: (index: number) => void;
  readonly onDone: () => void;
}

const arrows: Readonly<Record<string, Point>> = {
  ArrowLeft: [-1, 0],
  ArrowRight: [1, 0],
  ArrowUp: [0, 1],
  ArrowDown: [0, -1],
};

/** The four curves over the histogram of what reaches the step; the points of one of them can be moved by mouse and by keys. */
export function CurveGraph({
  channel,
  points,
  lines,
  reaching,
  range: [from, to],
  chosen,
  onChoose,
  onMove,
  onAdd,
  onRemove,
  onDone,
}: Props) {
  const { tokens } = useTheme();
  const svg = useRef<SVGSVGElement>(null);
  const [dragging, setDragging] = useState<number | null>(null);
  const colour = tokens.graph[channel];
  const counts = reaching?.[channel === "master" ? 3 : channels.indexOf(channel) - 1];

  function place(event: PointerEvent): Point {
    const box = svg.current?.getBoundingClientRect();
    if (!box) return [0, 0];
    const scale = (SIZE + 2 * EDGE) / box.width;
    return [((event.clientX - box.left) * scale - EDGE) / SIZE, 1 - ((event.clientY - box.top) * scale - EDGE) / SIZE];
  }

  function onPointerDown(event: PointerEvent<SVGSVGElement>) {
    if (event.button !== 0) return;
    const at = place(event);
    const nearest = points.reduce(
      (best, point, index) => (far(point, at) < far(points[best] ?? point, at) ? index : best),
      0,
    );
    const hit = far(points[nearest] ?? [9, 9], at) < NEAR / SIZE;
    svg.current?.setPointerCapture(event.pointerId);
    if (hit) {
      onChoose(nearest);
      setDragging(nearest);
      return;
    }
    const held: Point = [Math.min(1, Math.max(0, at[0])), Math.min(1, Math.max(0, at[1]))];
    onAdd(held);
    setDragging(points.filter(([x]) => x < held[0]).length);
  }

  function onPointerMove(event: PointerEvent<SVGSVGElement>) {
    if (dragging !== null) onMove(dragging, place(event));
  }

  function release() {
    if (dragging === null) return;
    setDragging(null);
    onDone();
  }

  function onKeyDown(event: KeyboardEvent, index: number) {
    const point = points[index];
    const way = arrows[event.key];
    if (way && point) {
      const size = (event.shiftKey ? 10 : event.altKey ? 0.25 : 1) / 255;
      onMove(index, [point[0] + way[0] * size, point[1] + way[1] * size]);
    } else if (event.key === "Delete" || event.key === "Backspace") onRemove(index);
    else return;
    event.preventDefault();
    event.stopPropagation();
  }

  const xOf = (code: number) => ((code - from) / (to - from)) * SIZE;
  const grid = [0.25, 0.5, 0.75].map((share) => `M${share * SIZE} 0V${SIZE}M0 ${share * SIZE}H${SIZE}`).join("");
  const others = channels.filter((other) => other !== channel && lines[other]);
  return (
    <Svg
      ref={svg}
      viewBox={`${-EDGE} ${-EDGE} ${SIZE + 2 * EDGE} ${SIZE + 2 * EDGE}`}
      role="group"
      aria-label={`${channel} curve`}
      data-testid="curve-graph"
      onPointerDown={onPointerDown}
      onPointerMove={onPointerMove}
      onPointerUp={release}
      onPointerCancel={release}
    >
      <rect width={SIZE} height={SIZE} rx={4} fill={tokens.graph.field} />
      <path d={grid} stroke={tokens.graph.grid} fill="none" />
      {counts && (
        <path
          d={areaOf(counts, SIZE, SIZE * 0.55)}
          transform={`translate(${xOf(0)} ${SIZE * 0.45}) scale(${1 / (to - from)} 1)`}
          fill={colour}
          fillOpacity={0.14}
        />
      )}
      <path d={`M0 ${SIZE}L${SIZE} 0`} stroke={tokens.graph.diagonal} strokeDasharray="3 4" />
      {(from < 0 || to > 1) && (
        <path
          d={[0, 1].map((code) => `M${xOf(code)} 0V${SIZE}M0 ${SIZE - xOf(code)}H${SIZE}`).join("")}
          stroke={tokens.graph.diagonal}
          data-testid="zero-and-one"
        />
      )}
      {others.map((other) => (
        <path
          key={other}
          d={pathOf(lines[other], SIZE)}
          fill="none"
          stroke={tokens.graph[other]}
          strokeOpacity={0.45}
          strokeWidth={1.4}
        />
      ))}
      <path
        d={pathOf(lines[channel], SIZE)}
        fill="none"
        stroke={colour}
        strokeWidth={2.2}
        strokeLinejoin="round"
        data-testid="curve-line"
      />
      {points.map(([x, y], index) => (
        <circle
          key={index}
          cx={x * SIZE}
          cy={SIZE - y * SIZE}
          r={5.5}
          fill={index === chosen ? colour : tokens.glaze}
          stroke={colour}
          strokeWidth={2}
          tabIndex={0}
          role="slider"
          aria-label={`Point ${index + 1} of ${points.length}`}
          aria-valuenow={Math.round(y * 1000) / 10}
          aria-valuemin={0}
          aria-valuemax={100}
          aria-valuetext={`in ${(x * 100).toFixed(1)} %, out ${(y * 100).toFixed(1)} %`}
          onFocus={() => onChoose(index)}
          onKeyDown={(event) => onKeyDown(event, index)}
          onKeyUp={(event) => arrows[event.key] && onDone()}
          onDoubleClick={(event) => {
            event.stopPropagation();
            onRemove(index);
          }}
        />
      ))}
    </Svg>
  );
}

function far(a: Point, b: Point): number {
  return Math.hypot(a[0] - b[0], a[1] - b[1]);
}
