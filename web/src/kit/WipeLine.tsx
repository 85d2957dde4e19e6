import { type KeyboardEvent, type PointerEvent } from "react";
import styled from "styled-components";

const Line = styled.div`
  position: absolute;
  width: 0;
  border-left: 1.5px solid ${(p) => p.theme.tokens.onPicture};
  box-shadow: 0 0 0 0.5px ${(p) => p.theme.tokens.pictureEdge};
  pointer-events: none;
  transform-origin: 0 50%;
`;
const Grip = styled.div`
  position: absolute;
  width: 18px;
  height: 18px;
  margin: -9px;
  border-radius: 50%;
  background: ${(p) => p.theme.tokens.onPicture};
  box-shadow: 0 0 0 1px ${(p) => p.theme.tokens.pictureEdge};
  cursor: grab;
  touch-action: none;
  pointer-events: auto;
`;
const Turn = styled(Grip)`
  width: 12px;
  height: 12px;
  margin: -6px;
  cursor: crosshair;
  background: ${(p) => p.theme.tokens.ink};
  border: 2px solid ${(p) => p.theme.tokens.onPicture};
`;

export interface Wipe {
  /** Middle of the line, 0..1 across and down the picture. */
  readonly x: number;
  readonly y: number;
  /** Degrees from upright, clockwise. */
  readonly angle: number;
}

type Corner = readonly [number, number];

/** Corners of the half plane left of the line, far beyond a frame of this size. */
function halfPlane(wipe: Wipe, width: number, height: number): readonly Corner[] {
  const turn = (wipe.angle * Math.PI) / 180;
  const [along, away] = [
    [-Math.sin(turn), Math.cos(turn)],
    [-Math.cos(turn), -Math.sin(turn)],
  ] as const;
  const far = width + height;
  const corner = (a: number, b: number): Corner => [
    wipe.x * width + along[0] * a + away[0] * b,
    wipe.y * height + along[1] * a + away[1] * b,
  ];
  return [corner(-far, 0), corner(far, 0), corner(far, far), corner(-far, far)];
}

/** Where the half plane left of the line covers the frame, as a clip path in pixels. */
export function leftOf(wipe: Wipe, width: number, height: number): string {
  return `polygon(${halfPlane(wipe, width, height)
    .map(([x, y]) => `${x.toFixed(2)}px ${y.toFixed(2)}px`)
    .join(", ")})`;
}

/** The other half, as a clip path in shares of a frame of this width by its height. */
export function rightOf(wipe: Wipe, ratio: number): string {
  const corners = halfPlane({ ...wipe, angle: wipe.angle + 180 }, ratio, 1);
  return `polygon(${corners.map(([x, y]) => `${((x / ratio) * 100).toFixed(2)}% ${(y * 100).toFixed(2)}%`).join(", ")})`;
}

interface Props {
  readonly wipe: Wipe;
  readonly onWipe: ((wipe: Wipe) => void) | undefined;
  readonly width: number;
  readonly height: number;
  readonly place: (event: PointerEvent) => { x: number; y: number } | null;
}

const held = (value: number) => Math.min(1, Math.max(0, value));

/** The line of a wipe: dragged and turned by mouse, moved by arrow keys, turned by them with Shift. */
export function WipeLine({ wipe, onWipe, width, height, place }: Props) {
  function drag(kind: "move" | "turn", event: PointerEvent<HTMLDivElement>) {
    const at = event.buttons & 1 ? place(event) : null;
    if (!at) return;
    if (kind === "move") onWipe?.({ ...wipe, x: held(at.x), y: held(at.y) });
    else onWipe?.({ ...wipe, angle: (Math.atan2((at.x - wipe.x) * width, -(at.y - wipe.y) * height) * 180) / Math.PI });
  }

  function onKeyDown(event: KeyboardEvent) {
    const by = { ArrowLeft: -1, ArrowRight: 1 }[event.key];
    if (by === undefined) return;
    event.preventDefault();
    onWipe?.(event.shiftKey ? { ...wipe, angle: wipe.angle + by * 5 } : { ...wipe, x: held(wipe.x + by * 0.02) });
  }

  const turn = (wipe.angle * Math.PI) / 180;
  const reach = Math.min(70, height / 3);
  const capture = (event: PointerEvent<HTMLDivElement>) => event.currentTarget.setPointerCapture(event.pointerId);
  const cut = Math.max(0, (width + height) / 2 - height / 2 - 10);
  return (
    <>
      <Line
        style={{
          left: wipe.x * width,
          top: wipe.y * height - (width + height) / 2,
          height: width + height,
          transform: `rotate(${wipe.angle}deg)`,
          clipPath: `inset(${cut}px -2px)`,
        }}
      />
      <Grip
        role="slider"
        tabIndex={0}
        aria-label="Wipe"
        aria-valuenow={Math.round(wipe.x * 100)}
        aria-valuemin={0}
        aria-valuemax={100}
        aria-valuetext={`${Math.round(wipe.x * 100)} %, ${Math.round(wipe.angle)} degrees`}
        style={{ left: wipe.x * width, top: wipe.y * height }}
        onPointerDown={capture}
        onPointerMove={(event) => drag("move", event)}
        onKeyDown={onKeyDown}
      />
      <Turn
        aria-hidden
        style={{ left: wipe.x * width + Math.sin(turn) * reach, top: wipe.y * height - Math.cos(turn) * reach }}
        onPointerDown={capture}
        onPointerMove={(event) => drag("turn", event)}
        onDoubleClick={() => onWipe?.({ ...wipe, angle: 0 })}
      />
    </>
  );
}
