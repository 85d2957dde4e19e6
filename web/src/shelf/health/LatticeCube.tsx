import { useEffect, useRef, useState, type KeyboardEvent, type PointerEvent } from "react";
import styled, { useTheme } from "styled-components";
import type { Graphs } from "../../api/types";

const Canvas = styled.canvas`
  display: block;
  width: 100%;
  aspect-ratio: 1;
  touch-action: none;
  cursor: grab;
  border-radius: 4px;
  background: ${(p) => p.theme.tokens.graph.field};
  &:active {
    cursor: grabbing;
  }
`;

interface Turn {
  readonly around: number;
  readonly tilt: number;
}

function drawn(canvas: HTMLCanvasElement, graphs: Graphs, turn: Turn, ink: string, grid: string) {
  const context = canvas.getContext("2d");
  if (!context) return;
  const side = canvas.clientWidth * window.devicePixelRatio;
  if (canvas.width !== side) canvas.width = canvas.height = side;
  const n = graphs.edge_size;
  const [sa, ca, st, ct] = [Math.sin(turn.around), Math.cos(turn.around), Math.sin(turn.tilt), Math.cos(turn.tilt)];
  const placed = (rgb: readonly number[]): [number, number, number] => {
    const [x, y, z] = [(rgb[0] ?? 0) - 0.5, (rgb[1] ?? 0) - 0.5, (rgb[2] ?? 0) - 0.5];
    const [u, w] = [x * ca - z * sa, x * sa + z * ca];
    return [side * (0.5 + 0.54 * u), side * (0.5 - 0.54 * (y * ct - w * st)), y * st + w * ct];
  };
  context.clearRect(0, 0, side, side);
  context.lineWidth = window.devicePixelRatio;
  const corners = [0, 1, 2, 3, 4, 5, 6, 7].map((bits) => placed([bits & 1, (bits >> 1) & 1, (bits >> 2) & 1]));
  context.strokeStyle = grid;
  context.beginPath();
  for (let a = 0; a < 8; a += 1) {
    for (const bit of [1, 2, 4]) {
      const [from, to] = [corners[a], corners[a | bit]];
      if (a & bit || !from || !to) continue;
      context.moveTo(from[0], from[1]);
      context.lineTo(to[0], to[1]);
    }
  }
  context.stroke();
  const points = graphs.edge.map(placed);
  const lines: { depth: number; a: number; b: number }[] = [];
  for (let at = 0; at < points.length; at += 1) {
    for (const [step, place] of [
      [1, at % n],
      [n, Math.floor(at / n) % n],
      [n * n, Math.floor(at / (n * n))],
    ] as const) {
      const [p, q] = [points[at], points[at + step]];
      if (place < n - 1 && p && q) lines.push({ depth: p[2] + q[2], a: at, b: at + step });
    }
  }
  lines.sort((one, other) => one.depth - other.depth);
  for (const { a, b } of lines) {
    const [p, q, shown] = [points[a], points[b], graphs.edge_shown[a]];
    if (!p || !q || !shown) continue;
    context.strokeStyle = `rgb(${shown.map((value) => Math.round(value * 255)).join(" ")})`;
    context.beginPath();
    context.moveTo(p[0], p[1]);
    context.lineTo(q[0], q[1]);
    context.stroke();
  }
  context.fillStyle = ink;
  context.font = `${11 * window.devicePixelRatio}px sans-serif`;
  for (const [name, at] of [
    ["R", [1.08, 0, 0]],
    ["G", [0, 1.08, 0]],
    ["B", [0, 0, 1.08]],
  ] as const) {
    const [x, y] = placed(at);
    context.fillText(name, x - 4, y + 4);
  }
}

/** Where the colours of a coarse lattice end up in the cube of red, green and blue. Dragged, or turned with the arrow keys. */
export function LatticeCube({ graphs }: { graphs: Graphs }) {
  const { tokens } = useTheme();
  const canvas = useRef<HTMLCanvasElement>(null);
  const held = useRef<{ x: number; y: number; turn: Turn } | null>(null);
  const [turn, setTurn] = useState<Turn>({ around: -0.6, tilt: 0.45 });
  useEffect(() => {
    const target = canvas.current;
    if (!target) return undefined;
    const draw = () => drawn(target, graphs, turn, tokens.ink, tokens.graph.diagonal);
    draw();
    const watch = new ResizeObserver(draw);
    watch.observe(target);
    return () => watch.disconnect();
  }, [graphs, turn, tokens]);
  const tilted = (value: number) => Math.min(1.5, Math.max(-1.5, value));

  function onPointerMove(event: PointerEvent) {
    const from = held.current;
    if (from)
      setTurn({
        around: from.turn.around - (event.clientX - from.x) * 0.01,
        tilt: tilted(from.turn.tilt + (event.clientY - from.y) * 0.01),
      });
  }

  function onKeyDown(event: KeyboardEvent) {
    const way = { ArrowLeft: [0.15, 0], ArrowRight: [-0.15, 0], ArrowUp: [0, -0.15], ArrowDown: [0, 0.15] }[event.key];
    if (!way) return;
    event.preventDefault();
    setTurn({ around: turn.around + (way[0] ?? 0), tilt: tilted(turn.tilt + (way[1] ?? 0)) });
  }

  return (
    <Canvas
      ref={canvas}
      role="img"
      aria-label="The lattice in the cube of red, green and blue; turn it with the arrow keys"
      tabIndex={0}
      onPointerDown={(event) => {
        event.currentTarget.setPointerCapture(event.pointerId);
        held.current = { x: event.clientX, y: event.clientY, turn };
      }}
      onPointerMove={onPointerMove}
      onPointerUp={() => {
        held.current = null;
      }}
      onPointerCancel={() => {
        held.current = null;
      }}
      onKeyDown={onKeyDown}
    />
  );
}
