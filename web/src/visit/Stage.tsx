import { useState, type MouseEvent } from "react";
import styled from "styled-components";
import type { GuestRemark } from "../api/types";
import { frameOf } from "../api/visit";
import type { Point } from "../kit/Compare";
import { PlacedDot } from "../kit/PinDot";
import { Frames } from "./Frames";
import { moves, type Seen } from "./seen";

const Root = styled.div`
  display: grid;
  place-items: center;
  min-width: 0;
  min-height: 0;
  padding: 18px;
`;
const Holds = styled.div<{ $sides: number; $beside: number }>`
  width: 100%;
  > div:first-child {
    position: relative;
  }
  max-width: calc((100vh - ${(p) => p.$beside}px) * ${(p) => p.$sides});
  @media (max-width: 800px) {
    max-width: calc((56vh - ${(p) => p.$beside}px) * ${(p) => p.$sides});
  }
  img ~ span {
    pointer-events: none;
  }
  img {
    display: block;
    width: 100%;
    cursor: crosshair;
    background: ${(p) => p.theme.surround.tray};
  }
`;

interface Props {
  readonly code: string;
  readonly seen: Seen;
  readonly title: string;
  readonly remarks: readonly GuestRemark[];
  readonly point: Point | null;
  readonly onPoint: (point: Point) => void;
  /** Of a shot that moves; null for others. */
  readonly frame: number | null;
  readonly onFrame: (frame: number) => void;
}

/** A picture as large as there is room, with what was said of its places; the frames of what moves, one after the other. */
export function Stage({ code, seen, title, remarks, point, onPoint, frame, onFrame }: Props) {
  const { thing, picture } = seen;
  // While a frame is on its way no other is asked for: the last one that was wanted comes next.
  const [asked, setAsked] = useState(frame);
  const [isLoading, setLoading] = useState(true);
  if (!isLoading && asked !== frame) {
    setAsked(frame);
    setLoading(true);
  }
  const mark = (event: MouseEvent<HTMLElement>) => {
    const box = event.currentTarget.getBoundingClientRect();
    onPoint({ x: (event.clientX - box.left) / box.width, y: (event.clientY - box.top) / box.height });
  };
  return (
    <Root>
      <Holds $sides={seen.sides} $beside={moves(thing) ? 76 : 36}>
        <div>
          <img
            src={frameOf(code, thing, picture?.id ?? null, true, asked)}
            alt={title}
            draggable={false}
            style={{ aspectRatio: String(seen.sides) }}
            onClick={mark}
            onLoad={() => setLoading(false)}
            onError={() => setLoading(false)}
          />
          {remarks.map(
            (one, index) =>
              one.x !== null &&
              one.y !== null &&
              one.picture === (picture?.id ?? null) &&
              (one.frame === null || one.frame === frame) && (
                <PlacedDot key={one.id} $quiet={false} style={{ left: `${one.x * 100}%`, top: `${one.y * 100}%` }}>
                  {index + 1}
                </PlacedDot>
              ),
          )}
          {point && <PlacedDot $quiet style={{ left: `${point.x * 100}%`, top: `${point.y * 100}%` }} />}
        </div>
        {moves(thing) && frame !== null && (
          <Frames first={thing.first} last={thing.last} frame={frame} onFrame={onFrame} />
        )}
      </Holds>
    </Root>
  );
}
