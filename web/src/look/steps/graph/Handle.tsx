import { useRef, type KeyboardEvent, type PointerEvent } from "react";
import styled, { useTheme } from "styled-components";

const Circle = styled.circle`
  cursor: grab;
  touch-action: none;
  pointer-events: auto;
  &:focus {
    outline: none;
  }
  &:focus-visible {
    stroke-width: 4;
  }
`;
const arrows: Readonly<Record<string, readonly [number, number]>> = {
  ArrowLeft: [-1, 0],
  ArrowRight: [1, 0],
  ArrowUp: [0, 1],
  ArrowDown: [0, -1],
};

interface Props {
  readonly x: number;
  readonly y: number;
  readonly label: string;
  readonly value: number;
  readonly low: number;
  readonly high: number;
  /** The value in words and units. */
  readonly text: string;
  /** Where the pointer is, in the drawing's own units. */
  readonly onMove: (x: number, y: number) => void;
  /** So many presses to the right and up; with Shift ten, with Alt a tenth. */
  readonly onNudge: (right: number, up: number) => void;
  readonly onDone: () => void;
  readonly onNeutral?: () => void;
  /** It can go: with Delete, and with a double click where there is no neutral place. */
  readonly onRemove?: () => void;
  /** also: beside those that are chosen */
  readonly onChoose?: (also: boolean) => void;
  readonly isChosen?: boolean;
  readonly fill?: string;
  readonly stroke?: string;
  readonly r?: number;
}

/** A point of a drawing that can be dragged, moved with the arrow keys, and put back by a double click. */
export function Handle({
  x,
  y,
  label,
  value,
  low,
  high,
  text,
  onMove,
  onNudge,
  onDone,
  onNeutral,
  onRemove,
  onChoose,
  isChosen = false,
  fill,
  stroke,
  r = 6,
}: Props) {
  const { tokens } = useTheme();
  const off = useRef<{ x: number; y: number } | null>(null);
  const isPressed = useRef(false);

  function inDrawing(event: PointerEvent<SVGCircleElement>): DOMPoint {
    const matrix = event.currentTarget.ownerSVGElement?.getScreenCTM();
    return new DOMPoint(event.clientX, event.clientY).matrixTransform(matrix?.inverse());
  }

  function onKeyDown(event: KeyboardEvent) {
    if (onRemove && (event.key === "Delete" || event.key === "Backspace")) {
      event.preventDefault();
      event.stopPropagation();
      onRemove();
      return;
    }
    const way = arrows[event.key];
    if (!way) return;
    const size = event.shiftKey ? 10 : event.altKey ? 0.1 : 1;
    event.preventDefault();
    event.stopPropagation();
    onNudge(way[0] * size, way[1] * size);
  }

  function release() {
    if (off.current) onDone();
    off.current = null;
  }

  const own = stroke ?? tokens.graph.master;
  return (
    <Circle
      cx={x}
      cy={y}
      r={r}
      fill={fill ?? (isChosen ? own : tokens.glaze)}
      stroke={own}
      strokeWidth={2}
      tabIndex={0}
      role="slider"
      aria-label={label}
      aria-valuenow={value}
      aria-valuemin={low}
      aria-valuemax={high}
      aria-valuetext={text}
      onPointerDown={(event) => {
        if (event.button !== 0) return;
        const at = inDrawing(event);
        event.currentTarget.setPointerCapture(event.pointerId);
        isPressed.current = true;
        event.currentTarget.focus({ preventScroll: true });
        isPressed.current = false;
        event.stopPropagation();
        off.current = { x: at.x - x, y: at.y - y };
        onChoose?.(event.shiftKey);
      }}
      onPointerMove={(event) => {
        if (!off.current) return;
        const at = inDrawing(event);
        onMove(at.x - off.current.x, at.y - off.current.y);
      }}
      onPointerUp={release}
      onPointerCancel={release}
      onFocus={() => isPressed.current || onChoose?.(false)}
      onKeyDown={onKeyDown}
      onKeyUp={(event) => arrows[event.key] && onDone()}
      onDoubleClick={(event) => {
        event.stopPropagation();
        (onNeutral ?? onRemove)?.();
        onDone();
      }}
    />
  );
}
