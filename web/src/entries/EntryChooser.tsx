import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { useCallback, useDeferredValue, useMemo, useState, type KeyboardEvent as Pressed, type ReactNode } from "react";
import styled from "styled-components";
import { characterOf, firstEntries, previewOf, useMarkFavourite } from "../api/shelf";
import type { Entry, Kind } from "../api/types";
import { FindPanel, type Command } from "../kit/FindPanel";
import { WithinPicker } from "./WithinPicker";
import { EVERYWHERE, narrowed } from "./within";
import { groupsOf } from "./groups";
import { StarInOption } from "./Star";

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

const LISTED = 60;
const isStarKey = (event: Pressed) => event.code === "KeyS" && event.altKey;
const isOtherKey = (event: Pressed) => event.key === "Enter" && event.shiftKey;

interface Props {
  readonly label: string;
  readonly kinds: readonly Kind[];
  /** What each is shown on: a picture, or as somebody else shows it. */
  readonly picture: { readonly id: number; readonly state: string } | undefined;
  readonly shownOn?: (entry: Entry) => ReactNode;
  /** One that is not offered: what is in hand already. */
  readonly except?: number;
  /** Of those found, these. */
  readonly only?: (entry: Entry) => boolean;
  readonly onChoose: (entry: Entry) => void;
  /** What is pointed at or walked to is seen at once; null: nothing any more. */
  readonly onTry?: (entry: Entry | null) => void;
  /** What Shift and Enter do. */
  readonly onOther?: { readonly name: string; readonly run: (entry: Entry) => void };
  /** Where it stands in the page and is in no popover. */
  readonly onClose?: () => void;
  /** More that can be done from here. */
  readonly children?: ReactNode;
}

/**
 * A search over entries, each on the picture in view: what has a star first, then one's own, then the others, the newest first.
 * Arrow keys walk while one types; Enter takes.
 */
export function EntryChooser(props: Props) {
  const { label, kinds, picture, shownOn, except, only, onChoose, onOther } = props;
  const [search, setSearch] = useState("");
  const [within, setWithin] = useState(EVERYWHERE);
  const asked = useDeferredValue(search.trim());
  const { data, isPending, isPlaceholderData } = useQuery({
    ...firstEntries({ search: asked, kinds, order: "mine", ...narrowed(within) }, LISTED),
    placeholderData: keepPreviousData,
  });
  const isSettled = !isPending && !isPlaceholderData && asked === search.trim();
  const groups = useMemo(() => {
    const entries = (data?.entries ?? []).filter((one) => one.id !== except && (only?.(one) ?? true));
    return groupsOf(entries, asked !== "");
  }, [data, except, only, asked]);
  const { mutate: mark } = useMarkFavourite();
  const star = useCallback(
    (one: Entry) => mark({ kind: one.kind, id: one.id, name: one.name, favourite: !one.favourite }),
    [mark],
  );
  const commands: Command<Entry>[] = [
    { isPressed: isStarKey, run: star },
    ...(onOther ? [{ isPressed: isOtherKey, run: onOther.run }] : []),
  ];
  const total = data?.total ?? 0;
  return (
    <FindPanel
      label={label}
      fieldLabel={label}
      listLabel={label}
      placeholder="A name, or what it does"
      search={search}
      onSearch={setSearch}
      groups={groups}
      isSettled={isSettled}
      columns="86px minmax(0, 1fr) 24px"
      drawnFrom={[picture, shownOn]}
      nothing={isSettled ? "Nothing of that name, and nothing that does it." : "Looking on the Shelf …"}
      onTake={onChoose}
      {...(props.onTry ? { onTry: props.onTry } : {})}
      {...(props.onClose ? { onClose: props.onClose, closeLabel: "Leave it as it is" } : {})}
      commands={commands}
      where={<WithinPicker value={within} onChange={setWithin} />}
      line={(entry) => (
        <>
          <Image>
            {shownOn
              ? shownOn(entry)
              : picture && <img src={previewOf(entry, picture)} alt="" loading="lazy" draggable={false} />}
          </Image>
          <span>
            <b>{entry.name}</b>
            <small>{[characterOf(entry), entry.by].filter(Boolean).join(" · ")}</small>
          </span>
          <StarInOption entry={entry} />
        </>
      )}
    >
      <Foot>
        {props.children}
        <span>
          {onOther ? `Enter opens, Shift Enter ${onOther.name}, Alt S stars. ` : "Alt S stars. "}
          {total > LISTED ? `The first ${LISTED} of ${total}.` : ""}
        </span>
      </Foot>
    </FindPanel>
  );
}
