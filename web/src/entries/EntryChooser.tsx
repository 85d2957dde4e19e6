import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { Search } from "lucide-react";
import { useDeferredValue, useEffect, useMemo, useState, type KeyboardEvent as Pressed, type ReactNode } from "react";
import { Autocomplete, Collection, Input, ListBox, ListBoxSection } from "react-aria-components";
import styled from "styled-components";
import { characterOf, firstEntries, previewOf, useMarkFavourite } from "../api/shelf";
import type { Entry, Kind } from "../api/types";
import { FindField, FoundLine, FoundTitle, NothingFound } from "../kit/finder";
import { oneLine } from "../kit/oneLine";
import { useHeldKeys } from "../kit/useHeldKeys";
import { WithinPicker } from "./WithinPicker";
import { EVERYWHERE, narrowed } from "./within";
import { groupsOf } from "./groups";
import { StarInOption } from "./Star";

const Root = styled.div`
  display: grid;
  grid-template-rows: auto auto minmax(0, 1fr) auto;
  width: 400px;
  height: min(560px, 72vh);
`;
const List = styled(ListBox<Shown>)`
  overflow-y: auto;
  padding: 0 4px 8px;
  outline: none;
`;
const Item = styled(FoundLine)`
  grid-template-columns: 86px minmax(0, 1fr) 24px;
  b,
  small {
    display: block;
    ${oneLine}
  }
  b {
    font-weight: 500;
  }
`;
const Image = styled.span`
  aspect-ratio: 16 / 9;
  background: ${(p) => p.theme.tokens.hush};
  border-radius: 3px;
  overflow: hidden;
  img {
    width: 100%;
    height: 100%;
    object-fit: cover;
    display: block;
  }
`;
const Foot = styled.footer`
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 4px 14px;
  padding: 8px 10px;
  border-top: 1px solid ${(p) => p.theme.tokens.line};
  font-size: ${(p) => p.theme.tokens.size.small};
  color: ${(p) => p.theme.tokens.soft};
`;

type Shown = ReturnType<typeof groupsOf>[number];
const LISTED = 60;
const isStarKey = (event: Pressed) => event.code === "KeyS" && event.altKey;

const Where = styled.div`
  display: grid;
  padding: 6px 8px 2px;
`;

interface Props {
  readonly label: string;
  readonly kinds: readonly Kind[];
  /** What each is shown on. */
  readonly picture: { readonly id: number; readonly state: string } | undefined;
  /** One that is not offered: what is in hand already. */
  readonly except?: number;
  /** Of those found, these. */
  readonly only?: (entry: Entry) => boolean;
  readonly onChoose: (entry: Entry) => void;
  /** What Shift and Enter do. */
  readonly onOther?: { readonly name: string; readonly run: (entry: Entry) => void };
  /** More that can be done from here. */
  readonly children?: ReactNode;
}

/**
 * A search over entries, each on the picture in view: what has a star first, then one's own, then the others, the newest first.
 * Arrow keys walk while one types; Enter takes.
 */
export function EntryChooser({ label, kinds, picture, except, only, onChoose, onOther, children }: Props) {
  const [search, setSearch] = useState("");
  const [within, setWithin] = useState(EVERYWHERE);
  const asked = useDeferredValue(search.trim());
  const { data, isPending, isPlaceholderData } = useQuery({
    ...firstEntries({ search: asked, kinds, order: "mine", ...narrowed(within) }, LISTED),
    placeholderData: keepPreviousData,
  });
  const isSettled = !isPending && !isPlaceholderData && asked === search.trim();
  const hold = useHeldKeys(isSettled, isStarKey);
  const entries = useMemo(
    () => (data?.entries ?? []).filter((one) => one.id !== except && (only?.(one) ?? true)),
    [data, except, only],
  );
  const shown = useMemo(() => groupsOf(entries, asked !== ""), [entries, asked]);
  const mark = useMarkFavourite();
  const [focused, setFocused] = useState<number | null>(null);
  const inHand = entries.find((one) => one.id === focused);
  const total = data?.total ?? 0;

  return (
    <Root
      onKeyDownCapture={(event) => {
        hold(event);
        if (event.isPropagationStopped()) return;
        // In the field; a button below it has an Enter of its own.
        const isTyped = event.target instanceof HTMLInputElement;
        const [first] = shown[0]?.entries ?? [];
        if (event.key === "Enter" && !event.shiftKey && isTyped && !inHand && first && isSettled) {
          event.preventDefault();
          event.stopPropagation();
          onChoose(first);
          return;
        }
        const takes = event.key === "Enter" && event.shiftKey && onOther !== undefined;
        const stars = isStarKey(event);
        // Where no arrow key was pressed, the first that was found is meant, as by Enter.
        const meant = inHand ?? (isSettled ? first : undefined);
        if (!meant || !(takes || stars)) return;
        event.preventDefault();
        event.stopPropagation();
        if (takes) onOther.run(meant);
        else mark.mutate({ kind: meant.kind, id: meant.id, name: meant.name, favourite: !meant.favourite });
      }}
    >
      <Autocomplete
        inputValue={search}
        onInputChange={(text) => {
          setSearch(text);
          setFocused(null);
        }}
      >
        <FindField aria-label={label} autoFocus>
          <Search aria-hidden />
          <Input placeholder="A name, or what it does" />
        </FindField>
        <Where>
          <WithinPicker value={within} onChange={setWithin} />
        </Where>
        <List
          aria-label={label}
          items={shown}
          selectionMode="none"
          dependencies={[picture]}
          onAction={(key) => {
            const one = entries.find((entry) => entry.id === key);
            if (one) onChoose(one);
          }}
          renderEmptyState={() => (
            <NothingFound>
              {isSettled ? "Nothing of that name, and nothing that does it." : "Looking on the Shelf …"}
            </NothingFound>
          )}
        >
          {(group) => (
            <ListBoxSection id={group.id}>
              <FoundTitle>{group.name}</FoundTitle>
              <Collection items={group.entries} dependencies={[picture]}>
                {(entry) => (
                  <Item id={entry.id} textValue={entry.name}>
                    {({ isFocused }) => (
                      <Line entry={entry} picture={picture} isFocused={isFocused} onFocused={setFocused} />
                    )}
                  </Item>
                )}
              </Collection>
            </ListBoxSection>
          )}
        </List>
      </Autocomplete>
      <Foot>
        {children}
        <span>
          {onOther ? `Enter opens, Shift Enter ${onOther.name}, Alt S stars. ` : "Alt S stars. "}
          {total > LISTED ? `The first ${LISTED} of ${total}.` : ""}
        </span>
      </Foot>
    </Root>
  );
}

function Line({
  entry,
  picture,
  isFocused,
  onFocused,
}: {
  entry: Entry;
  picture: Props["picture"];
  isFocused: boolean;
  onFocused: (id: number) => void;
}) {
  useEffect(() => {
    if (isFocused) onFocused(entry.id);
  }, [isFocused, entry.id, onFocused]);
  return (
    <>
      <Image>{picture && <img src={previewOf(entry, picture)} alt="" loading="lazy" draggable={false} />}</Image>
      <span>
        <b>{entry.name}</b>
        <small>{[characterOf(entry), entry.by].filter(Boolean).join(" · ")}</small>
      </span>
      <StarInOption entry={entry} />
    </>
  );
}
