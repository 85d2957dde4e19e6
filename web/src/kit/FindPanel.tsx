import { Search, X } from "lucide-react";
import {
  useCallback,
  useEffect,
  useMemo,
  useRef,
  useState,
  type KeyboardEvent as Pressed,
  type ReactNode,
} from "react";
import { Autocomplete, Collection, Input, ListBox, ListBoxSection } from "react-aria-components";
import styled from "styled-components";
import { IconButton } from "./Button";
import { FindField, FoundLine, FoundTitle, NothingFound } from "./finder";
import { oneLine } from "./oneLine";
import { useHeldKeys } from "./useHeldKeys";

const Root = styled.section`
  display: grid;
  grid-template-columns: minmax(0, 1fr);
  grid-template-rows: auto auto minmax(0, 1fr) auto;
  height: 100%;
  min-height: 0;
`;
const Where = styled.div`
  display: grid;
  padding: 8px 10px 2px;
`;
const Scroll = styled.div`
  overflow-y: auto;
  min-height: 0;
`;
const List = styled(ListBox)`
  padding: 0 4px 10px;
  outline: none;
` as typeof ListBox;
const Line = styled(FoundLine)<{ $columns: string }>`
  grid-template-columns: ${(p) => p.$columns};
  padding: 5px 8px;
  b,
  small {
    display: block;
    ${oneLine}
  }
  b {
    font-weight: 500;
  }
`;

/** Milliseconds: on its way to the buttons below, or back to the picture, a pointer passes over others. */
const DWELL = 130;

interface Findable {
  readonly id: string | number;
  readonly name: string;
}

export interface FoundGroup<Item> {
  readonly id: string;
  readonly name: string;
  readonly items: readonly Item[];
}

/** A key of the list's own. */
export interface Command<Item> {
  readonly isPressed: (event: Pressed) => boolean;
  readonly run: (item: Item) => void;
}

interface Props<Item extends Findable> {
  /** Of the whole, of the field, and of the list. */
  readonly label: string;
  readonly fieldLabel: string;
  readonly listLabel: string;
  readonly placeholder: string;
  readonly search: string;
  readonly onSearch: (text: string) => void;
  readonly groups: readonly FoundGroup<Item>[];
  /** Do the groups belong to what stands in the field? */
  readonly isSettled: boolean;
  /** Of the grid that each line is. */
  readonly columns: string;
  readonly line: (item: Item) => ReactNode;
  /** What lines are drawn from beside their item. */
  readonly drawnFrom: readonly unknown[];
  /** In the place of lines, where there are none. */
  readonly nothing: string;
  readonly onTake: (item: Item) => void;
  /** What is pointed at or walked to by keys, null once it is not any more. With it Enter takes only what is tried, else the first as well. */
  readonly onTry?: (item: Item | null) => void;
  readonly commands?: readonly Command<Item>[];
  /** By Escape and its button, where it stands in the page; what is in a popover is closed by that. */
  readonly onClose?: () => void;
  readonly closeLabel?: string;
  /** Where it is looked. */
  readonly where: ReactNode;
  /** Below the list. */
  readonly children?: ReactNode;
}

/** A search over things that can be chosen, in groups: arrow keys walk while one types, what is walked to or pointed at is tried, Enter takes it. */
export function FindPanel<Item extends Findable>(props: Props<Item>) {
  const { groups, isSettled, onTake, onTry, onClose, commands = [] } = props;
  const [hovered, setHovered] = useState<Item["id"] | null>(null);
  const [focused, setFocused] = useState<Item["id"] | null>(null);
  const items = useMemo(() => groups.flatMap((group) => group.items), [groups]);
  const hold = useHeldKeys(isSettled, (event) => commands.some((one) => one.isPressed(event)));
  const inHand = items.find((one) => one.id === focused);
  const tried = items.find((one) => one.id === hovered) ?? inHand ?? null;
  // By its id: while more is found, lists and what stands in them are made anew.
  const latest = useRef(tried);
  useEffect(() => {
    latest.current = tried;
  }, [tried]);
  const triedId = tried?.id ?? null;
  useEffect(() => onTry?.(triedId === null ? null : latest.current), [onTry, triedId]);
  useEffect(() => () => onTry?.(null), [onTry]);

  const waiting = useRef<ReturnType<typeof setTimeout> | undefined>(undefined);
  // A pointer that only lies where the list opened points at nothing yet.
  const pointer = useRef<{ moved: boolean; over: Item["id"] | null }>({ moved: false, over: null });
  const dwell = useCallback((id: Item["id"] | null) => {
    clearTimeout(waiting.current);
    pointer.current.over = id;
    if (id !== null && pointer.current.moved) waiting.current = setTimeout(() => setHovered(id), DWELL);
  }, []);
  const onMoved = useCallback(() => {
    if (pointer.current.moved) return;
    pointer.current.moved = true;
    dwell(pointer.current.over);
  }, [dwell]);
  useEffect(() => () => clearTimeout(waiting.current), []);

  // Also when a press on the picture has taken the focus elsewhere.
  useEffect(() => {
    if (!onClose) return undefined;
    const onKey = (event: KeyboardEvent) => {
      if (event.key === "Escape" && !event.defaultPrevented && !document.querySelector("[role='dialog']")) onClose();
    };
    window.addEventListener("keydown", onKey);
    return () => window.removeEventListener("keydown", onKey);
  }, [onClose]);

  const stopped = (event: Pressed) => {
    event.preventDefault();
    event.stopPropagation();
  };
  return (
    <Root
      aria-label={props.label}
      onKeyDownCapture={(event) => {
        hold(event);
        if (event.isPropagationStopped()) return;
        // Where no arrow key was pressed, the first that was found is meant.
        const meant = inHand ?? (isSettled ? items[0] : undefined);
        const command = meant && commands.find((one) => one.isPressed(event));
        if (meant && command) {
          stopped(event);
          command.run(meant);
          return;
        }
        // In the field; a button below it has an Enter of its own.
        const isTyped = event.target instanceof HTMLInputElement;
        if (event.key === "Enter" && !event.shiftKey && isTyped && !inHand && !onTry && meant) {
          stopped(event);
          onTake(meant);
        }
      }}
      onKeyDown={(event) => {
        setHovered(null);
        if (event.key === "Escape" && onClose) {
          stopped(event);
          onClose();
        }
      }}
    >
      <Autocomplete
        inputValue={props.search}
        onInputChange={(text) => {
          props.onSearch(text);
          setFocused(null);
        }}
      >
        <FindField aria-label={props.fieldLabel} autoFocus>
          <Search aria-hidden />
          <Input placeholder={props.placeholder} />
          {onClose && (
            <IconButton aria-label={props.closeLabel ?? "Close"} onPress={onClose}>
              <X aria-hidden />
            </IconButton>
          )}
        </FindField>
        <Where>{props.where}</Where>
        <Scroll tabIndex={0} role="group" aria-label="Found" onPointerMove={onMoved}>
          <List
            aria-label={props.listLabel}
            items={groups}
            dependencies={props.drawnFrom}
            selectionMode="none"
            onAction={(key) => {
              const one = items.find((item) => item.id === key);
              if (one) onTake(one);
            }}
            renderEmptyState={() => <NothingFound>{props.nothing}</NothingFound>}
          >
            {(group) => (
              <ListBoxSection id={group.id}>
                <FoundTitle>
                  <bdi>{group.name}</bdi>
                </FoundTitle>
                <Collection items={group.items} dependencies={props.drawnFrom}>
                  {(item) => (
                    <Line
                      id={item.id}
                      textValue={item.name}
                      $columns={props.columns}
                      onHoverStart={() => dwell(item.id)}
                      onHoverEnd={() => dwell(null)}
                    >
                      {({ isFocused }) => (
                        <Told id={item.id} isFocused={isFocused} onFocused={setFocused}>
                          {props.line(item)}
                        </Told>
                      )}
                    </Line>
                  )}
                </Collection>
              </ListBoxSection>
            )}
          </List>
        </Scroll>
      </Autocomplete>
      {props.children}
    </Root>
  );
}

/** Tells which line the keys are at. */
function Told<Id>({
  id,
  isFocused,
  onFocused,
  children,
}: {
  id: Id;
  isFocused: boolean;
  onFocused: (id: Id) => void;
  children: ReactNode;
}) {
  useEffect(() => {
    if (isFocused) onFocused(id);
  }, [isFocused, id, onFocused]);
  return <>{children}</>;
}
