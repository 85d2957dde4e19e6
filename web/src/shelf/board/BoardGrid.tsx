import { GripVertical, X } from "lucide-react";
import { useRef, useState, type DragEvent, type KeyboardEvent } from "react";
import styled from "styled-components";
import type { Entry, Picture } from "../../api/types";
import { useGuestVerdicts } from "../../guests/GuestVerdicts";
import { Cell, same, type Place } from "./Cell";
import { Handle, RowHead } from "./RowHead";
import type { Shown } from "./useBoard";
import { moved, panned, WHOLE, zoomed, type View } from "./view";
import { oneLine } from "../../kit/oneLine";

const Root = styled.div`
  display: grid;
  gap: 10px;
  min-height: 0;
  padding: 0 16px 16px;
  overflow: auto;
  [role="row"] {
    display: contents;
  }
`;
const Column = styled.div`
  display: flex;
  align-items: center;
  gap: 2px;
  min-width: 0;
  height: 24px;
  span {
    ${oneLine}
    margin-right: auto;
  }
  button {
    opacity: 0;
  }
  &:hover button,
  &:focus-within button {
    opacity: 1;
  }
`;
const STEP = 0.12;
const LETTERS = "ABCDEF";

/** What an entry is called on the board. */
export const nameOn = (board: Shown, entry: Entry) =>
  board.hidesNames ? (LETTERS[board.entries.indexOf(entry)] ?? "") : entry.name;

interface Props {
  readonly board: Shown;
  readonly view: View;
  readonly onView: (change: (view: View) => View) => void;
  readonly marked: readonly Place[];
  readonly onMarked: (marked: readonly Place[]) => void;
  readonly onOpen: () => void;
  readonly onEntries: (entries: readonly Entry[]) => void;
  readonly onPictures: (pictures: readonly Picture[]) => void;
}

/** Entries down, pictures across; one view for all cells. Arrow keys walk, Space marks, Enter opens the two that are marked. */
export function BoardGrid({ board, view, onView, marked, onMarked, onOpen, onEntries, onPictures }: Props) {
  const { entries, pictures, mayChange } = board;
  const guests = useGuestVerdicts(board.id === null ? null : { board: board.id });
  const root = useRef<HTMLDivElement>(null);
  const dragged = useRef<{ axis: "row" | "column"; index: number } | null>(null);
  const [at, setAt] = useState<readonly [number, number]>([0, 0]);
  const stop = [Math.min(at[0], entries.length - 1), Math.min(at[1], pictures.length - 1)] as const;

  function mark(place: Place) {
    if (marked.some((one) => same(one, place))) onMarked(marked.filter((one) => !same(one, place)));
    else onMarked([...marked.slice(-1), place]);
  }

  function walk(row: number, column: number) {
    const entry = entries[row];
    const picture = pictures[column];
    if (!entry || !picture) return;
    setAt([row, column]);
    root.current?.querySelector<HTMLElement>(`[data-cell="${String(entry.id)}-${String(picture.id)}"]`)?.focus();
  }

  function onKey(event: KeyboardEvent, row: number, column: number, place: Place) {
    const way = { ArrowUp: [-1, 0], ArrowDown: [1, 0], ArrowLeft: [0, -1], ArrowRight: [0, 1] }[event.key];
    if (event.ctrlKey || event.metaKey || event.altKey) return;
    if (way && event.shiftKey) onView((last) => panned(last, -(way[1] ?? 0) * STEP, -(way[0] ?? 0) * STEP));
    else if (way) walk(row + (way[0] ?? 0), column + (way[1] ?? 0));
    else if (event.key === " ") mark(place);
    else if (event.key === "Enter") onOpen();
    else if (event.key === "Escape") onMarked([]);
    else if (event.key === "+" || event.key === "=") onView((last) => zoomed(last, 1.5));
    else if (event.key === "-") onView((last) => zoomed(last, 1 / 1.5));
    else if (event.key === "0") onView(() => WHOLE);
    else return;
    event.preventDefault();
  }

  const drop = (axis: "row" | "column", index: number) => ({
    onDragOver: (event: DragEvent) => {
      if (dragged.current?.axis === axis) event.preventDefault();
    },
    onDrop: (event: DragEvent) => {
      const from = dragged.current;
      dragged.current = null;
      if (from?.axis !== axis) return;
      event.preventDefault();
      if (axis === "row") onEntries(moved(entries, from.index, index));
      else onPictures(moved(pictures, from.index, index));
    },
  });

  return (
    <Root
      ref={root}
      role="grid"
      aria-label="Board"
      style={{
        gridTemplateColumns: `232px repeat(${pictures.length}, minmax(150px, 1fr))`,
        gridTemplateRows: `24px repeat(${entries.length}, minmax(104px, 1fr))`,
      }}
    >
      <div role="row">
        <Column role="columnheader" aria-label="Entry" />
        {pictures.map((picture, column) => (
          <Column key={picture.id} role="columnheader" {...drop("column", column)}>
            <span title={picture.name}>{picture.name}</span>
            {mayChange && (
              <Handle
                type="button"
                aria-label={`Move ${picture.name}; arrow keys move it too`}
                draggable
                onDragStart={(event) => {
                  event.dataTransfer.setData("text/plain", picture.name);
                  dragged.current = { axis: "column", index: column };
                }}
                onKeyDown={(event) => {
                  if (event.key !== "ArrowLeft" && event.key !== "ArrowRight") return;
                  event.preventDefault();
                  onPictures(moved(pictures, column, column + (event.key === "ArrowLeft" ? -1 : 1)));
                }}
              >
                <GripVertical aria-hidden />
              </Handle>
            )}
            {mayChange && pictures.length > 1 && (
              <Handle
                type="button"
                aria-label={`Take ${picture.name} off the board`}
                onClick={() => onPictures(pictures.filter((one) => one.id !== picture.id))}
              >
                <X aria-hidden />
              </Handle>
            )}
          </Column>
        ))}
      </div>
      {entries.map((entry, row) => {
        const name = nameOn(board, entry);
        return (
          <div role="row" key={entry.id}>
            <div style={{ display: "grid", minHeight: 0 }} role="none" {...drop("row", row)}>
              <RowHead
                entry={entry}
                name={name}
                hidden={board.hidesNames}
                board={board.id}
                verdicts={board.verdicts.filter((one) => one.entry === entry.id)}
                guests={guests.filter((one) => one.entry === entry.id)}
                mayChange={mayChange}
                isAlone={entries.length === 1}
                onMove={(by) => onEntries(moved(entries, row, row + by))}
                onDrag={() => {
                  dragged.current = { axis: "row", index: row };
                }}
                onRemove={() => onEntries(entries.filter((one) => one.id !== entry.id))}
              />
            </div>
            {pictures.map((picture, column) => {
              const place = { entry, picture };
              return (
                <Cell
                  key={picture.id}
                  place={place}
                  name={name}
                  view={view}
                  onView={onView}
                  against={marked[0] ?? null}
                  mark={marked.findIndex((one) => same(one, place)) + 1}
                  onMark={() => mark(place)}
                  tabStop={stop[0] === row && stop[1] === column}
                  onFocus={() => setAt([row, column])}
                  onKey={(event) => onKey(event, row, column, place)}
                />
              );
            })}
          </div>
        );
      })}
    </Root>
  );
}
