import { useRef, useState, type KeyboardEvent, type PointerEvent, type WheelEvent } from "react";
import styled from "styled-components";
import type { Entry, Picture } from "../../api/types";
import { panned, placed, zoomed, type View } from "./view";

const Root = styled.div`
  position: relative;
  overflow: hidden;
  min-width: 0;
  min-height: 0;
  background: ${(p) => p.theme.surround.tray};
  cursor: pointer;
  outline: none;
  touch-action: none;
  &[data-near] {
    cursor: grab;
  }
  &:focus-visible::after,
  &[aria-selected="true"]::after {
    content: "";
    position: absolute;
    inset: 0;
    border: 2px solid ${(p) => p.theme.tokens.accent};
    box-shadow: inset 0 0 0 1px ${(p) => p.theme.tokens.onPicture};
    pointer-events: none;
  }
  &:focus-visible::after {
    border-color: ${(p) => p.theme.tokens.onPicture};
    box-shadow: inset 0 0 0 2px ${(p) => p.theme.tokens.ink};
  }
  &[aria-selected="true"]::after {
    border-color: ${(p) => p.theme.tokens.accent};
  }
  > b {
    position: absolute;
    left: 6px;
    top: 6px;
    padding: 0 7px;
    line-height: 20px;
    border-radius: 10px;
    font-weight: 600;
    font-size: ${(p) => p.theme.tokens.size.small};
    background: ${(p) => p.theme.tokens.accent};
    color: ${(p) => p.theme.tokens.onAccent};
  }
  > i {
    position: absolute;
    top: 0;
    bottom: 0;
    border-left: 1.5px solid ${(p) => p.theme.tokens.onPicture};
    box-shadow: 0 0 0 0.5px ${(p) => p.theme.tokens.pictureEdge};
    pointer-events: none;
  }
`;
const Layer = styled.div`
  position: absolute;
  inset: 0;
  pointer-events: none;
  img {
    position: absolute;
    inset: 0;
    width: 100%;
    height: 100%;
    object-fit: contain;
    transform-origin: 0 0;
    display: block;
  }
`;
const MOVED = 4;
/** From here on a card's preview is not fine enough. */
const NEAR = 1.4;

export interface Place {
  readonly entry: Entry;
  readonly picture: Picture;
}
export const same = (one: Place | null, other: Place | null) =>
  one !== null && other !== null && one.entry.id === other.entry.id && one.picture.id === other.picture.id;

const sourceOf = ({ entry, picture }: Place, large: boolean) =>
  `/api/shelf/entries/${String(entry.id)}/preview.jpg?picture=${picture.id}&state=${entry.shows}-${picture.state}${large ? "&large=true" : ""}`;
const originalOf = (picture: Picture) =>
  `/api/pictures/${String(picture.id)}/frame.png?${picture.state}-${picture.encoding}`;

/** A picture through an entry, in the view of all; finer where the view is near. */
function Seen({ place, view, alt }: { place: Place; view: View; alt: string }) {
  const style = { transform: placed(view) };
  return (
    <>
      <img src={sourceOf(place, false)} alt={alt} draggable={false} style={style} />
      {view.zoom > NEAR && <img src={sourceOf(place, true)} alt="" draggable={false} style={style} />}
    </>
  );
}

interface Props {
  readonly place: Place;
  /** What its words call it; a letter where names are hidden. */
  readonly name: string;
  readonly view: View;
  readonly onView: (change: (view: View) => View) => void;
  /** What it is wiped to under the pointer: the first that was marked; the original otherwise. */
  readonly against: Place | null;
  /** 1 or 2 where it is marked. */
  readonly mark: number;
  readonly onMark: () => void;
  readonly tabStop: boolean;
  readonly onFocus: () => void;
  readonly onKey: (event: KeyboardEvent) => void;
}

/** One picture through one entry. A click marks it, moving across wipes it, dragging moves all of them when they are near. */
export function Cell(props: Props) {
  const { place, name, view, onView, against, mark, onMark, tabStop, onFocus, onKey } = props;
  const [wipe, setWipe] = useState<number | null>(null);
  const drag = useRef<{ x: number; y: number; moved: boolean } | null>(null);
  const shareOf = (event: { clientX: number; clientY: number; currentTarget: Element }) => {
    const box = event.currentTarget.getBoundingClientRect();
    return { x: (event.clientX - box.left) / box.width, y: (event.clientY - box.top) / box.height, box };
  };

  function onPointerMove(event: PointerEvent<HTMLDivElement>) {
    const { x, box } = shareOf(event);
    const { current } = drag;
    if (!current) {
      setWipe(x * 100);
      return;
    }
    const [dx, dy] = [event.clientX - current.x, event.clientY - current.y];
    if (!current.moved && Math.hypot(dx, dy) < MOVED) return;
    if (!current.moved) event.currentTarget.setPointerCapture(event.pointerId);
    drag.current = { x: event.clientX, y: event.clientY, moved: true };
    setWipe(null);
    onView((last) => panned(last, dx / box.width, dy / box.height));
  }

  /** With Ctrl the wheel belongs to the browser. */
  function onWheel(event: WheelEvent<HTMLDivElement>) {
    if (event.ctrlKey || event.metaKey) return;
    const at = shareOf(event);
    onView((last) => zoomed(last, Math.exp(-event.deltaY / 400), at));
  }

  const other = against && !same(against, place) ? against : null;
  const clip = wipe === null ? undefined : { clipPath: `inset(0 ${100 - wipe}% 0 0)` };
  return (
    <Root
      role="gridcell"
      aria-label={`${place.picture.name} through ${name}`}
      aria-selected={mark > 0}
      tabIndex={tabStop ? 0 : -1}
      data-cell={`${String(place.entry.id)}-${String(place.picture.id)}`}
      data-near={view.zoom > 1 || undefined}
      onFocus={onFocus}
      onKeyDown={onKey}
      onPointerDown={(event) => {
        if (event.button === 0) drag.current = { x: event.clientX, y: event.clientY, moved: false };
      }}
      onPointerMove={onPointerMove}
      onPointerUp={() => {
        const was = drag.current;
        drag.current = null;
        if (was && !was.moved) onMark();
      }}
      onPointerCancel={() => {
        drag.current = null;
      }}
      onPointerLeave={() => {
        setWipe(null);
        if (!drag.current?.moved) drag.current = null;
      }}
      onWheel={onWheel}
    >
      <Layer>
        <Seen place={place} view={view} alt={`${place.picture.name} through ${name}`} />
      </Layer>
      {wipe !== null && (
        <>
          <Layer style={clip}>
            {other ? (
              <Seen place={other} view={view} alt="" />
            ) : (
              <img src={originalOf(place.picture)} alt="" draggable={false} style={{ transform: placed(view) }} />
            )}
          </Layer>
          <i style={{ left: `${wipe}%` }} />
        </>
      )}
      {mark > 0 && <b aria-hidden>{mark}</b>}
    </Root>
  );
}
