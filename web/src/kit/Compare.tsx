import { useEffect, useLayoutEffect, useRef, useState, type PointerEvent, type ReactNode } from "react";
import styled from "styled-components";

const Root = styled.div`
  position: relative; display: grid; place-items: center; min-width: 0; min-height: 0; overflow: hidden;
`;
const Frame = styled.div`
  position: relative; touch-action: none;
  canvas { position: absolute; inset: 0; width: 100%; height: 100%; display: block; }
`;
const Line = styled.div`
  position: absolute; width: 0; border-left: 1.5px solid #fcfcfc; box-shadow: 0 0 0 0.5px rgb(0 0 0 / 35%); pointer-events: none; transform-origin: 0 50%;
`;
const Grip = styled.div`
  position: absolute; width: 18px; height: 18px; margin: -9px; border-radius: 50%; background: #fcfcfc; box-shadow: 0 0 0 1px rgb(0 0 0 / 35%); cursor: grab; touch-action: none;
`;
const Turn = styled(Grip)`
  width: 12px; height: 12px; margin: -6px; cursor: crosshair; background: #1c1c1c; border: 2px solid #fcfcfc;
`;

export interface Wipe {
  /** Middle of the line, 0..1 across and down the picture. */
  readonly x: number;
  readonly y: number;
  /** Degrees from upright, clockwise. */
  readonly angle: number;
}

interface Props {
  readonly before: ImageBitmap | null;
  readonly after: ImageBitmap | null;
  /** Changes when a new frame came, so that it is drawn. */
  readonly drawn: number;
  readonly wipe: Wipe | null;
  readonly onWipe?: (wipe: Wipe) => void;
  readonly showBefore?: boolean;
  readonly label: string;
  readonly onPoint?: (at: { x: number; y: number } | null) => void;
  /** Told the width of the picture on screen, in device pixels, whenever it changes. */
  readonly onWidth?: (width: number) => void;
  readonly inset?: number;
  readonly children?: ReactNode;
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

function useDrawn(bitmap: ImageBitmap | null, drawn: number) {
  const canvas = useRef<HTMLCanvasElement>(null);
  useLayoutEffect(() => {
    const target = canvas.current;
    if (!target || !bitmap || bitmap.width === 0) return;
    if (target.width !== bitmap.width) target.width = bitmap.width;
    if (target.height !== bitmap.height) target.height = bitmap.height;
    target.getContext("2d", { alpha: false })?.drawImage(bitmap, 0, 0);
  }, [bitmap, drawn]);
  return canvas;
}

/** A picture before and after, one over the other: a line between them that can be moved and turned, or the one before alone. */
export function Compare({ before, after, drawn, wipe, onWipe, showBefore = false, label, onPoint, onWidth, inset = 20, children }: Props) {
  const root = useRef<HTMLDivElement>(null);
  const frame = useRef<HTMLDivElement>(null);
  const [room, setRoom] = useState({ width: 0, height: 0 });
  const afterCanvas = useDrawn(after, drawn);
  const beforeCanvas = useDrawn(before, drawn);

  useEffect(() => {
    const element = root.current;
    if (!element) return undefined;
    const watch = new ResizeObserver(([entry]) => entry && setRoom({ width: entry.contentRect.width, height: entry.contentRect.height }));
    watch.observe(element);
    return () => watch.disconnect();
  }, []);

  const shape = before ?? after;
  const ratio = shape && shape.height ? shape.width / shape.height : 16 / 9;
  const width = Math.max(0, Math.min(room.width - 2 * inset, (room.height - 2 * inset) * ratio));
  const height = width / ratio;
  useEffect(() => onWidth?.(Math.ceil(width * window.devicePixelRatio)), [onWidth, width]);

  function place(event: PointerEvent) {
    const box = frame.current?.getBoundingClientRect();
    if (!box) return null;
    return { x: (event.clientX - box.left) / box.width, y: (event.clientY - box.top) / box.height };
  }

  function drag(kind: "move" | "turn", event: PointerEvent<HTMLDivElement>) {
    if (!(event.buttons & 1) || !wipe) return;
    const at = place(event);
    if (!at) return;
    if (kind === "move") onWipe?.({ ...wipe, x: Math.min(1, Math.max(0, at.x)), y: Math.min(1, Math.max(0, at.y)) });
    else onWipe?.({ ...wipe, angle: (Math.atan2((at.x - wipe.x) * width, -(at.y - wipe.y) * height) * 180) / Math.PI });
  }

  const turn = ((wipe?.angle ?? 0) * Math.PI) / 180;
  const reach = Math.min(70, height / 3);
  const hold = (event: PointerEvent<HTMLDivElement>) => event.currentTarget.setPointerCapture(event.pointerId);
  return (
    <Root ref={root}>
      <Frame
        ref={frame}
        role="img"
        aria-label={label}
        data-testid="compare"
        style={{ width, height }}
        onPointerMove={(event) => onPoint?.(place(event))}
        onPointerLeave={() => onPoint?.(null)}
      >
        <canvas ref={afterCanvas} data-testid="after" />
        <canvas ref={beforeCanvas} data-testid="before" style={showBefore ? undefined : wipe ? { clipPath: leftOf(wipe, width, height) } : { display: "none" }} />
        {wipe && !showBefore && (
          <>
            <Line style={{ left: wipe.x * width, top: wipe.y * height - (width + height) / 2, height: width + height, transform: `rotate(${wipe.angle}deg)`, clipPath: `inset(${Math.max(0, (width + height) / 2 - height / 2 - 10)}px -2px)` }} />
            <Grip
              role="slider"
              tabIndex={0}
              aria-label="Wipe"
              aria-valuenow={Math.round(wipe.x * 100)}
              aria-valuemin={0}
              aria-valuemax={100}
              style={{ left: wipe.x * width, top: wipe.y * height }}
              onPointerDown={hold}
              onPointerMove={(event) => drag("move", event)}
              onKeyDown={(event) => {
                const by = { ArrowLeft: -0.02, ArrowRight: 0.02 }[event.key];
                if (by === undefined) return;
                event.preventDefault();
                onWipe?.({ ...wipe, x: Math.min(1, Math.max(0, wipe.x + by)) });
              }}
            />
            <Turn
              aria-hidden
              style={{ left: wipe.x * width + Math.sin(turn) * reach, top: wipe.y * height - Math.cos(turn) * reach }}
              onPointerDown={hold}
              onPointerMove={(event) => drag("turn", event)}
              onDoubleClick={() => onWipe?.({ ...wipe, angle: 0 })}
            />
          </>
        )}
      </Frame>
      {children}
    </Root>
  );
}
