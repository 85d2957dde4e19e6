import { useVirtualizer } from "@tanstack/react-virtual";
import { useEffect, useLayoutEffect, useState } from "react";
import styled from "styled-components";
import type { Entry, Picture } from "../../api/types";
import { Card } from "./Card";

const Root = styled.ul`
  list-style: none;
  margin: 0;
  padding: 0;
  position: relative;
`;
const LEAST_WIDTH = 226;
const GAP = 18;
/** The lines of words under a picture and the room below them. */
const WORDS = 84;

function useColumns(field: HTMLElement | null): { columns: number; width: number } {
  const [room, setRoom] = useState(1000);
  useLayoutEffect(() => {
    if (!field) return undefined;
    const measure = () => {
      const { paddingLeft, paddingRight } = getComputedStyle(field);
      setRoom(field.clientWidth - parseFloat(paddingLeft) - parseFloat(paddingRight));
    };
    const observer = new ResizeObserver(measure);
    observer.observe(field);
    measure();
    return () => observer.disconnect();
  }, [field]);
  const columns = Math.max(1, Math.floor((room + GAP) / (LEAST_WIDTH + GAP)));
  return { columns, width: (room - GAP * (columns - 1)) / columns };
}

interface Props {
  readonly entries: readonly Entry[];
  /** How many there are in all, of which the entries are the first. */
  readonly total: number;
  readonly picture: Picture | undefined;
  /** What scrolls; null until it is there. */
  readonly field: HTMLElement | null;
  readonly onMore: () => void;
}

/** The cards in sight and a few around them; more are asked for shortly before they come into sight. */
export function Wall({ entries, total, picture, field, onMore }: Props) {
  const { columns, width } = useColumns(field);
  const rows = Math.ceil(entries.length / columns);
  const height = Math.round((width * 9) / 16) + WORDS;
  // eslint-disable-next-line react-hooks/incompatible-library -- its functions are called while drawing and never kept
  const virtualizer = useVirtualizer({
    count: rows,
    getScrollElement: () => field,
    estimateSize: () => height,
    overscan: 3,
  });
  const shown = virtualizer.getVirtualItems();
  const last = shown.at(-1)?.index ?? 0;
  useEffect(() => virtualizer.measure(), [virtualizer, height]);
  useEffect(() => {
    if (entries.length < total && last >= rows - 4) onMore();
  }, [entries.length, total, last, rows, onMore]);
  return (
    <Root aria-label="Entries" style={{ height: virtualizer.getTotalSize() }}>
      {shown.flatMap((row) =>
        entries
          .slice(row.index * columns, (row.index + 1) * columns)
          .map((entry, column) => (
            <Card
              key={`${entry.kind}${String(entry.id)}`}
              entry={entry}
              picture={picture}
              place={row.index * columns + column + 1}
              total={total}
              style={{ position: "absolute", width, left: column * (width + GAP), top: row.start }}
            />
          )),
      )}
    </Root>
  );
}
