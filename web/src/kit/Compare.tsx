import {
  useCallback,
  useEffect,
  useLayoutEffect,
  useRef,
  useState,
  type KeyboardEvent,
  type PointerEvent,
  type ReactNode,
  type WheelEvent,
} from "react";
import styled from "styled-components";
import { canvasSettings } from "../browser/screen";
import { WipeLine, leftOf, type Wipe } from "./WipeLine";

export type { Wipe } from "./WipeLine";

const Root = styled.div`
  position: relative;
  display: grid;
  place-items: center;
  min-width: 0;
  min-height: 0;
  overflow: hidden;
`;
const Frame = styled.div`
  position: absolute;
  touch-action: none;
  > canvas {
    position: absolute;
    inset: 0;
    width: 100%;
    height: 100%;
    display: block;
    /* Another picture, of another shape, is cut to this one's and not stretched. */
    object-fit: cover;
  }
  &[data-cursor="pick"] {
    cursor: crosshair;
  }
  &[data-cursor="pan"] {
    cursor: grab;
  }
  &[data-cursor="panning"] {
    cursor: grabbing;
  }
`;

export interface Point {
  /** 0..1 across and down the picture. */
  readonly x: number;
  readonly y: number;
}

/** A part of the picture at its own size, in pixels of the picture. */
export interface Part {
  readonly bitmap: ImageBitmap;
  readonly left: number;
  readonly top: number;
  readonly width: number;
  readonly height: number;
}

/** What of the picture is in sight, in pixels of the picture; null where all of it is. */
export interface Sight {
  readonly left: number;
  readonly top: number;
  readonly width: number;
  readonly height: number;
}

interface Props {
  readonly before: ImageBitmap | null;
  readonly after: ImageBitmap | null;
  /** Changes when a new frame came, so that it is drawn. */
  readonly drawn: number;
  readonly wipe: Wipe | null;
  readonly onWipe?: ((wipe: Wipe) => void) | undefined;
  readonly showBefore?: boolean;
  readonly label: string;
  readonly onPoint?: ((at: Point | null) => void) | undefined;
  /** Told the width of the picture on screen, in device pixels, whenever it changes. */
  readonly onWidth?: ((width: number) => void) | undefined;
  readonly inset?: number;
  /** The picture's own size; needed for a zoom. */
  readonly size?: { readonly width: number; readonly height: number } | undefined;
  /** Device pixels for a pixel of the picture; null fits it in. */
  readonly zoom?: number | null | undefined;
  readonly middle?: Point | undefined;
  readonly onMiddle?: ((middle: Point) => void) | undefined;
  readonly onZoom?: ((way: 1 | -1, at: Point) => void) | undefined;
  readonly onSight?: ((sight: Sight | null) => void) | undefined;
  readonly parts?: { readonly before: Part | null; readonly after: Part | null } | undefined;
  /** While set, presses on the picture go here and do not pan. */
  readonly onPick?: ((phase: "down" | "move" | "up", at: Point) => void) | undefined;
  /** Drawn over the picture, at its size. */
  readonly over?: ReactNode;
  readonly children?: ReactNode;
}

/** How far the wheel turns for one step, in CSS pixels of scrolling. */
const WHEEL_STEP = 80;

function useDrawn(bitmap: ImageBitmap | null, drawn: number) {
  const canvas = useRef<HTMLCanvasElement>(null);
  useLayoutEffect(() => {
    const target = canvas.current;
    if (!target || !bitmap || bitmap.width === 0) return;
    if (target.width !== bitmap.width || target.height !== bitmap.height) {
      target.width = bitmap.width;
      target.height = bitmap.height;
    }
    target.getContext("2d", canvasSettings())?.drawImage(bitmap, 0, 0);
  }, [bitmap, drawn]);
  return canvas;
}

function PartCanvas({
  part,
  size,
  hidden,
  clip,
}: {
  part: Part;
  size: { width: number; height: number };
  hidden: boolean;
  clip: string | undefined;
}) {
  const canvas = useDrawn(part.bitmap, 0);
  const share = (value: number, whole: number) => `${(value / whole) * 100}%`;
  const inside = {
    position: "absolute",
    left: share(part.left, size.width),
    top: share(part.top, size.height),
    width: share(part.width, size.width),
    height: share(part.height, size.height),
    imageRendering: "pixelated",
  } as const;
  return (
    <div
      style={{
        position: "absolute",
        inset: 0,
        clipPath: clip,
        display: hidden ? "none" : undefined,
        pointerEvents: "none",
      }}
    >
      <canvas ref={canvas} style={inside} data-testid="part" />
    </div>
  );
}

/** One picture with what it is compared with: whole, wiped, fitted in or at a zoom that can be panned. */
export function Compare(props: Props) {
  const {
    before,
    after,
    drawn,
    wipe,
    onWipe,
    showBefore = false,
    label,
    onPoint,
    onWidth,
    inset = 14,
    size,
    zoom = null,
    middle,
    onMiddle,
    onZoom,
    onSight,
    parts,
    onPick,
    over,
    children,
  } = props;
  const root = useRef<HTMLDivElement>(null);
  const frame = useRef<HTMLDivElement>(null);
  const pan = useRef<{ x: number; y: number; middle: Point } | null>(null);
  const turned = useRef(0);
  const [panning, setPanning] = useState(false);
  const [room, setRoom] = useState({ width: 0, height: 0 });
  const afterCanvas = useDrawn(after, drawn);
  const beforeCanvas = useDrawn(before, drawn);

  useEffect(() => {
    const element = root.current;
    if (!element) return undefined;
    const watch = new ResizeObserver(
      ([entry]) => entry && setRoom({ width: entry.contentRect.width, height: entry.contentRect.height }),
    );
    watch.observe(element);
    return () => watch.disconnect();
  }, []);

  const shape = size ?? before ?? after;
  const ratio = shape && shape.height ? shape.width / shape.height : 16 / 9;
  const zoomed = zoom !== null && size !== undefined;
  const fitted = Math.max(0, Math.min(room.width - 2 * inset, (room.height - 2 * inset) * ratio));
  const width = zoomed ? (size.width * zoom) / window.devicePixelRatio : fitted;
  const height = width / ratio;
  const at = middle ?? { x: 0.5, y: 0.5 };
  const held = zoomed
    ? { x: within(at.x, room.width / width), y: within(at.y, room.height / height) }
    : { x: 0.5, y: 0.5 };
  const left = Math.round(room.width / 2 - held.x * width);
  const top = Math.round(room.height / 2 - held.y * height);
  useEffect(() => onWidth?.(Math.ceil(fitted * window.devicePixelRatio)), [onWidth, fitted]);

  const sight = zoomed && room.width > 0 ? inSight(size, { left, top, width, height }, room) : null;
  const told = sight ? `${sight.left} ${sight.top} ${sight.width} ${sight.height}` : "";
  useEffect(() => onSight?.(sight), [onSight, told]); // oxlint-disable-line react-hooks/exhaustive-deps

  const place = useCallback((event: { clientX: number; clientY: number }): Point | null => {
    const box = frame.current?.getBoundingClientRect();
    return box && box.width > 0
      ? { x: (event.clientX - box.left) / box.width, y: (event.clientY - box.top) / box.height }
      : null;
  }, []);

  function onPointerDown(event: PointerEvent<HTMLDivElement>) {
    if (event.button !== 0) return;
    const here = place(event);
    if (onPick && here) {
      event.currentTarget.setPointerCapture(event.pointerId);
      onPick("down", here);
    } else if (zoomed && onMiddle) {
      event.currentTarget.setPointerCapture(event.pointerId);
      pan.current = { x: event.clientX, y: event.clientY, middle: held };
      setPanning(true);
    }
  }

  function onPointerMove(event: PointerEvent<HTMLDivElement>) {
    const here = place(event);
    onPoint?.(here);
    if (pan.current)
      onMiddle?.({
        x: pan.current.middle.x - (event.clientX - pan.current.x) / width,
        y: pan.current.middle.y - (event.clientY - pan.current.y) / height,
      });
    else if (onPick && here && event.buttons & 1) onPick("move", here);
  }

  function onPointerUp(event: PointerEvent<HTMLDivElement>) {
    const here = place(event);
    if (pan.current) {
      pan.current = null;
      setPanning(false);
    } else if (onPick && here) onPick("up", here);
  }

  /** The wheel goes in and out by steps; with Ctrl it belongs to the browser. */
  function onWheel(event: WheelEvent) {
    const here = place(event);
    if (!onZoom || !here || event.ctrlKey || event.metaKey) return;
    turned.current += event.deltaY;
    if (Math.abs(turned.current) < WHEEL_STEP) return;
    onZoom(turned.current < 0 ? 1 : -1, here);
    turned.current = 0;
  }

  function onKeyDown(event: KeyboardEvent) {
    const way = zoomed
      ? { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, -1], ArrowDown: [0, 1] }[event.key]
      : undefined;
    if (!way || event.target !== event.currentTarget) return;
    event.preventDefault();
    onMiddle?.({
      x: held.x + ((way[0] ?? 0) * room.width * 0.2) / width,
      y: held.y + ((way[1] ?? 0) * room.height * 0.2) / height,
    });
  }

  const clip = wipe && !showBefore ? leftOf(wipe, width, height) : undefined;
  const hidden = !showBefore && !wipe;
  return (
    <Root ref={root} onWheel={onWheel}>
      <Frame
        ref={frame}
        role="img"
        aria-label={label}
        data-testid="compare"
        data-cursor={onPick ? "pick" : zoomed ? (panning ? "panning" : "pan") : undefined}
        style={{ width, height, left, top }}
        tabIndex={zoomed ? 0 : undefined}
        onPointerDown={onPointerDown}
        onPointerMove={onPointerMove}
        onPointerUp={onPointerUp}
        onPointerCancel={onPointerUp}
        onPointerLeave={() => onPoint?.(null)}
        onKeyDown={onKeyDown}
      >
        <canvas ref={afterCanvas} data-testid="after" />
        {zoomed && parts?.after && <PartCanvas part={parts.after} size={size} hidden={false} clip={undefined} />}
        <canvas
          ref={beforeCanvas}
          data-testid="before"
          style={showBefore ? undefined : clip ? { clipPath: clip } : { display: "none" }}
        />
        {zoomed && parts?.before && <PartCanvas part={parts.before} size={size} hidden={hidden} clip={clip} />}
      </Frame>
      {(over || (wipe && !showBefore)) && (
        <div style={{ position: "absolute", left, top, width, height, pointerEvents: "none" }}>
          {over}
          {wipe && !showBefore && <WipeLine wipe={wipe} onWipe={onWipe} width={width} height={height} place={place} />}
        </div>
      )}
      {children}
    </Root>
  );
}

/** The middle so that the picture's edge is never further in than the room's, or the middle of a picture smaller than the room. */
function within(middle: number, seen: number): number {
  return seen >= 1 ? 0.5 : Math.min(1 - seen / 2, Math.max(seen / 2, middle));
}

function inSight(
  size: { width: number; height: number },
  box: { left: number; top: number; width: number; height: number },
  room: { width: number; height: number },
): Sight {
  const scale = size.width / box.width;
  const left = Math.max(0, Math.floor(-box.left * scale));
  const top = Math.max(0, Math.floor(-box.top * scale));
  const right = Math.min(size.width, Math.ceil((room.width - box.left) * scale));
  const bottom = Math.min(size.height, Math.ceil((room.height - box.top) * scale));
  return { left, top, width: Math.max(1, right - left), height: Math.max(1, bottom - top) };
}
