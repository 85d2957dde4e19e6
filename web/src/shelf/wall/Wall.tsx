import { Check as CheckMark, EqualApproximately as Approx, Plus } from "lucide-react";
import type { ReactNode } from "react";
import {
  Button,
  CheckboxButton,
  CheckboxField,
  Collection,
  GridLayout,
  GridList,
  GridListItem,
  GridListLoadMoreItem,
  ListLayout,
  Size,
  Virtualizer,
} from "react-aria-components";
import styled from "styled-components";
import type { Entry, Picture } from "../../api/types";
import { useMay } from "../../api/session";
import { PutIntoLook } from "../../look/PutIntoLook";
import { Star } from "../../entries/Star";
import type { Layout } from "./address";
import { Card } from "./Card";
import { EntryLine, EntryRow } from "./EntryRow";

const Root = styled(GridList)`
  min-height: 0;
  overflow-y: auto;
  outline: none;
  padding: 4px 0 40px;
`;
const Item = styled(GridListItem)`
  position: relative;
  height: 100%;
  cursor: pointer;
  border-radius: 3px;
  color: inherit;
  outline: none;
  &[data-focus-visible] {
    outline: 2px solid ${(p) => p.theme.surround.ink};
    outline-offset: 3px;
  }
  &[data-selected] {
    outline: 2px solid ${(p) => p.theme.tokens.accent};
    outline-offset: 3px;
  }
`;
const Tick = styled(CheckboxButton)`
  position: absolute;
  top: 8px;
  left: 8px;
  z-index: 1;
  display: grid;
  place-items: center;
  width: 22px;
  height: 22px;
  border-radius: 50%;
  border: 1.5px solid ${(p) => p.theme.tokens.onPicture};
  background: ${(p) => p.theme.tokens.pictureVeil};
  color: ${(p) => p.theme.tokens.onPicture};
  cursor: pointer;
  opacity: 0;
  svg {
    width: 14px;
    height: 14px;
    visibility: hidden;
  }
  [data-hovered] > * > &,
  [data-focus-visible-within] > * > &,
  [data-focus-visible] > * > &,
  [data-selection] & {
    opacity: 1;
  }
  &[data-selected] {
    opacity: 1;
    background: ${(p) => p.theme.tokens.accent};
    svg {
      visibility: visible;
    }
  }
`;
/** At the other corner of the picture; in sight as the tick is, and always where it is set. */
const Starred = styled(Star)`
  position: absolute;
  top: 8px;
  right: 8px;
  z-index: 1;
  opacity: 0;
  &[data-selected],
  [data-hovered] > * > &,
  [data-focus-visible-within] > * > &,
  [data-focus-visible] > * > & {
    opacity: 1;
  }
`;
const Like = styled(Button)`
  position: absolute;
  top: 8px;
  right: 38px;
  z-index: 1;
  display: grid;
  place-items: center;
  width: 24px;
  height: 24px;
  border: 0;
  border-radius: 50%;
  background: ${(p) => p.theme.tokens.pictureVeil};
  color: ${(p) => p.theme.tokens.onPicture};
  cursor: pointer;
  opacity: 0;
  svg {
    width: 14px;
    height: 14px;
  }
  [data-hovered] > * > &,
  [data-focus-visible-within] > * > &,
  [data-focus-visible] > * > & {
    opacity: 1;
  }
`;
const Put = styled(Like)`
  right: 68px;
`;
const WIDTHS = { small: 168, cards: 226, large: 340 } as const;
/** The lines of words under a picture and the room below them. */
const WORDS = 78;

/** Draws what is in sight, in the places that a layout has for it. */
function Wide({ layout, children }: { layout: Layout; children: ReactNode }) {
  if (layout === "rows" || layout === "list")
    return (
      <Virtualizer
        key={layout}
        layout={ListLayout}
        layoutOptions={layout === "rows" ? { estimatedRowSize: 170, gap: 16 } : { rowSize: 46, gap: 2 }}
      >
        {children}
      </Virtualizer>
    );
  const width = WIDTHS[layout];
  const least = new Size(width, Math.round((width * 9) / 16) + WORDS);
  return (
    <Virtualizer
      key={layout}
      layout={GridLayout}
      layoutOptions={{ minItemSize: least, minSpace: new Size(18, 14), maxItemSize: new Size(width * 1.7, Infinity) }}
    >
      {children}
    </Virtualizer>
  );
}

interface Props {
  readonly entries: readonly Entry[];
  readonly layout: Layout;
  /** The one of choice, and the next two for rows. */
  readonly pictures: readonly Picture[];
  readonly chosen: ReadonlySet<number>;
  readonly onChosen: (ids: ReadonlySet<number>) => void;
  readonly isLoading: boolean;
  readonly onMore: () => void;
  readonly onLike: (entry: Entry) => void;
}

/** The entries in sight and a few around them; more are asked for shortly before they come into sight. Arrow keys walk in both directions. */
export function Wall({ entries, layout, pictures, chosen, onChosen, isLoading, onMore, onLike }: Props) {
  const mayPut = useMay("design");
  const isGrid = layout !== "rows" && layout !== "list";
  const [picture] = pictures;
  return (
    <Wide layout={layout}>
      <Root
        aria-label="Entries"
        layout={isGrid ? "grid" : "stack"}
        selectionMode="multiple"
        selectionBehavior="toggle"
        selectedKeys={chosen}
        onSelectionChange={(keys) =>
          onChosen(new Set(keys === "all" ? entries.map((entry) => entry.id) : [...keys].map(Number)))
        }
        {...(chosen.size > 0 ? { "data-selection": true } : {})}
      >
        <Collection items={entries} dependencies={[layout, pictures, mayPut]}>
          {(entry) => (
            <Item id={entry.id} textValue={entry.name} href={`/shelf/${entry.kind}/${String(entry.id)}`}>
              <CheckboxField slot="selection">
                <Tick>
                  <CheckMark aria-hidden />
                </Tick>
              </CheckboxField>
              <Starred entry={entry} onPicture />
              <Like aria-label={`More like ${entry.name}`} onPress={() => onLike(entry)}>
                <Approx aria-hidden />
              </Like>
              {mayPut && (
                <PutIntoLook
                  entry={entry}
                  button={
                    <Put aria-label={`Put ${entry.name} into a look`}>
                      <Plus aria-hidden />
                    </Put>
                  }
                />
              )}
              {isGrid ? (
                <Card entry={entry} picture={picture} />
              ) : layout === "rows" ? (
                <EntryRow entry={entry} pictures={pictures} />
              ) : (
                <EntryLine entry={entry} picture={picture} />
              )}
            </Item>
          )}
        </Collection>
        <GridListLoadMoreItem isLoading={isLoading} onLoadMore={onMore} scrollOffset={1.5}>
          Fetching more…
        </GridListLoadMoreItem>
      </Root>
    </Wide>
  );
}
