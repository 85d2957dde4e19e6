import { type KeyboardEvent, type PointerEvent } from "react";
import styled from "styled-components";

const Line = styled.div`
  position: absolute; width: 0; border-left: 1.5px solid ${(p) => p.theme.tokens.onPicture}; box-shadow: 0 0 0 0.5px ${(p) => p.theme.tokens.pictureEdge}; pointer-events: none; transform-origin: 0 50%;
`;
const Grip = styled.div`
  position: absolute; width: 18px; height: 18px; margin: -9px; border-radius: 50%; background: ${(p) => p.theme.tokens.onPicture}; box-shadow: 0 0 0 1px ${(p) => p.theme.tokens.pictureEdge}; cursor: grab; touch-action: none; pointer-events: auto;
`;
const Turn = styled(Grip)`
  width: 12px; height: 12px; margin: -6px; cursor: crosshair; background: ${(p) => p.theme.tokens.ink}; border: 2px solid ${(p) => p.theme.tokens.onPicture};
`;

export interface Wipe {
  /** Middle of the line, 0..1 across and down the picture. */
  readonly x: number;
  readonly y: number;
  /** Degrees from upright, clockwise. */
  readonly angle: number;
}

/** Where the half plane left of the line covers the frame, as a clip path in pixels. */
export function leftOf(wipe: Wipe, width: number, height: number): string {
  const turn = (wipe.angle * Math.PI) / 180;
  const along = { x: -Math.sin(turn), y: Math.cos(turn) };
  const away = { x: -Math.cos(turn), y: -Math.sin(turn) };
  const far = width + height;
  const middle = { x: wipe.x * width, y: wipe.y * height };
  const corner = (a: number, b: number) => `${(middle.x + along.x * a + away.x * b).toFixed(2)}px ${(middle.y + along.y * a + away.y * b).toFixed(2)}px`;
  return `polygon(${corner(-far, 0)}, ${corner(far, 0)}, ${corner(far, far)}, ${corner(-far, far)})`;
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
      <Line style={{ left: wipe.x * width, top: wipe.y * height - (width + height) / 2, height: width + height, transform: `rotate(${wipe.angle}deg)`, clipPath: `inset(${cut}px -2px)` }} />
      <Grip role="slider" tabIndex={0} aria-label="Wipe" aria-valuenow={Math.round(wipe.x * 100)} aria-valuemin={0} aria-valuemax={100} aria-valuetext={`${Math.round(wipe.x * 100)} %, ${Math.round(wipe.angle)} degrees`}
        style={{ left: wipe.x * width, top: wipe.y * height }} onPointerDown={capture} onPointerMove={(event) => drag("move", event)} onKeyDown={onKeyDown} />
      <Turn aria-hidden style={{ left: wipe.x * width + Math.sin(turn) * reach, top: wipe.y * height - Math.cos(turn) * reach }}
        onPointerDown={capture} onPointerMove={(event) => drag("turn", event)} onDoubleClick={() => onWipe?.({ ...wipe, angle: 0 })} />
    </>
  );
}
