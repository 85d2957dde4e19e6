import { Search, X } from "lucide-react";
import { useCallback, useDeferredValue, useEffect, useMemo, useRef, useState } from "react";
import { Autocomplete, Collection, Input, ListBox, ListBoxSection } from "react-aria-components";
import styled from "styled-components";
import type { Look, Picture } from "../../api/types";
import { IconButton } from "../../kit/Button";
import { useHeldKeys } from "../../kit/useHeldKeys";
import { findStep, flat as allSteps, outermost } from "../../look/arrange";
import { titleOf } from "../../look/titles";
import { useBench, useBenchPart } from "../../look/useBench";
import { useSpatial } from "../../look/steps/useKinds";
import { AddFoot, type Way } from "./AddFoot";
import { WithinPicker } from "../../entries/WithinPicker";
import { EVERYWHERE } from "../../entries/within";
import { arrangeFound, useCandidates, type Candidate, type Section } from "./candidates";
import { atStrengthOf, withAdded, withReplaced, type Placed } from "../../look/placing";
import { TriedDisc } from "./TriedDisc";
import { useTries, type Tile } from "./useTries";
import { FindField, FoundLine, FoundTitle } from "../../kit/finder";
import { oneLine } from "../../kit/oneLine";

const Root = styled.section`
  position: absolute;
  z-index: 5;
  left: 0;
  top: 0;
  bottom: 0;
  width: 336px;
  display: grid;
  grid-template-rows: auto auto minmax(0, 1fr) auto;
  background: ${(p) => p.theme.tokens.glaze};
  border-right: 1px solid ${(p) => p.theme.tokens.line};
  box-shadow: 6px 0 24px rgb(0 0 0 / 14%);
`;
const Field = styled(FindField)`
  padding: 12px 10px 8px 16px;
  input {
    font-size: ${(p) => p.theme.tokens.size.head};
  }
`;
const Scroll = styled.div`
  overflow-y: auto;
  min-height: 0;
`;
const List = styled(ListBox<Section>)`
  padding: 0 8px 12px;
  outline: none;
`;
const Title = styled(FoundTitle)`
  padding: 12px 8px 4px;
`;
const Item = styled(FoundLine)`
  grid-template-columns: 40px minmax(0, 1fr);
  gap: 12px;
  padding: 5px 8px;
  border-radius: 8px;
  b,
  small {
    display: block;
    ${oneLine}
  }
  b {
    font-weight: 500;
  }
`;
const Nothing = styled.p`
  padding: 18px 16px;
  color: ${(p) => p.theme.tokens.soft};
`;

const DWELL = 130;

/** What was put in last from here, to tell whether it is still as it was. */
export interface LastKept {
  readonly name: string;
  readonly steps: Placed["added"];
}

const Where = styled.div`
  display: grid;
  padding: 10px 16px 4px;
`;

interface Props {
  readonly picture: Picture | undefined;
  readonly last: LastKept | null;
  /** Opened to put something else in the place of the step in hand: what is tried stands there, at its strength. */
  readonly isSwap: boolean;
  readonly onKept: (kept: LastKept | null) => void;
  readonly onClose: () => void;
}

/** A search over all that can be added, each on the picture in view; what is pointed at is tried, Enter keeps it, Escape leaves nothing. */
export function AddPanel({ picture, last, isSwap, onKept, onClose }: Props) {
  const { store } = useBench();
  const isSpatial = useSpatial();
  const look = useBenchPart((state) => state.look);
  const selected = useBenchPart((state) => state.selected);
  const [search, setSearch] = useState("");
  const [hovered, setHovered] = useState<string | null>(null);
  const [focused, setFocused] = useState<string | null>(null);
  const asked = useDeferredValue(search.trim());
  const [within, setWithin] = useState(EVERYWHERE);
  const { all, isSettled } = useCandidates(asked, within);
  const hold = useHeldKeys(isSettled && asked === search.trim());
  const [inHand] = useState(() => outermost(store.get().look.steps ?? [], new Set(store.get().marked)));
  const isLut = isSwap && inHand.some((step) => step.kind === "lut");
  const found = useMemo(
    () => arrangeFound(all, search, isSwap ? (isLut ? "LUTs" : "Presets") : "Steps"),
    [all, search, isSwap, isLut],
  );
  const flat = useMemo(() => found.flatMap((section) => section.items), [found]);
  const replaceable = useMemo(() => {
    const isThere = (steps: Placed["added"]) =>
      steps.length > 0 && steps.every((step) => findStep(look, step.id ?? null) === step);
    if (isSwap) return isThere(inHand) ? { name: inHand.map(titleOf).join(", "), steps: inHand } : null;
    return last && isThere(last.steps) ? last : null;
  }, [last, look, isSwap, inHand]);
  const [way, setWay] = useState<Way>(replaceable ? "replace" : "add");

  const place = useCallback(
    (candidate: Candidate, steps = candidate.steps): Placed => {
      const replaces = way === "replace" && replaceable && candidate.section !== "Steps";
      return replaces
        ? withReplaced(
            look,
            replaceable.steps.map((step) => step.id ?? ""),
            atStrengthOf(replaceable.steps, steps, candidate.name),
            isSpatial,
          )
        : withAdded(look, steps, selected, isSpatial);
    },
    [look, selected, isSpatial, replaceable, way],
  );
  const lookOf = useCallback(
    (candidate: Candidate): Look => place(candidate, candidate.example ?? candidate.steps).look,
    [place],
  );
  const tiles = useTries(flat, lookOf, picture?.id);
  const active = flat.find((one) => one.id === hovered) ?? flat.find((one) => one.id === focused) ?? null;

  // Only where the pointer dwells: on its way to the buttons below, or back to the picture, it passes over others.
  const waiting = useRef<ReturnType<typeof setTimeout> | undefined>(undefined);
  // A pointer that only lies where the list opened points at nothing yet.
  const pointer = useRef<{ moved: boolean; over: string | null }>({ moved: false, over: null });
  const dwell = useCallback((id: string | null) => {
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
  useEffect(() => store.dispatch({ type: "try", look: active ? lookOf(active) : null }), [active, lookOf, store]);
  useEffect(() => () => store.dispatch({ type: "try", look: null }), [store]);

  // Also when a press on the picture has taken the focus elsewhere.
  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      if (event.key === "Escape" && !event.defaultPrevented && !document.querySelector("[role='dialog']")) onClose();
    };
    window.addEventListener("keydown", onKey);
    return () => window.removeEventListener("keydown", onKey);
  }, [onClose]);

  // Each time, not only just after adding: a LUT over a LUT is rarely meant.
  const luts = allSteps(look.steps ?? []).filter((step) => step.kind === "lut");
  const warning =
    active?.section === "LUTs" && luts.length > 0 && !(way === "replace" && replaceable)
      ? `This look holds ${luts.map(titleOf).join(", ")} already: this one comes on top.`
      : null;

  function keep(candidate: Candidate) {
    const replaces = way === "replace" && replaceable && candidate.section !== "Steps";
    const placed = place(candidate);
    store.edit(`${replaces ? `Replace ${replaceable.name} with` : "Add"} ${candidate.name}`, () => placed.look);
    store.dispatch({ type: "markAll", ids: placed.added.map((step) => step.id ?? "") });
    onKept(candidate.section === "Steps" ? null : { name: candidate.name, steps: placed.added });
    onClose();
    // The keyboard goes on at what was added, once its line is there.
    const [first] = placed.added;
    requestAnimationFrame(() => document.querySelector<HTMLElement>(`[data-line="${first?.id ?? ""}"]`)?.focus());
  }

  return (
    <Root
      aria-label={isSwap ? "Swap in place" : "Add a step"}
      data-testid="add-panel"
      onKeyDownCapture={hold}
      onKeyDown={(event) => {
        setHovered(null);
        if (event.key === "Escape") {
          event.stopPropagation();
          event.preventDefault();
          onClose();
        }
      }}
    >
      <Autocomplete inputValue={search} onInputChange={setSearch}>
        <Field aria-label="Find a step, preset or LUT" autoFocus>
          <Search aria-hidden />
          <Input placeholder="Find a step, preset or LUT" />
          <IconButton aria-label="Close without adding" onPress={onClose}>
            <X aria-hidden />
          </IconButton>
        </Field>
        <Where>
          <WithinPicker value={within} onChange={setWithin} />
        </Where>
        <Scroll tabIndex={0} role="group" aria-label="Found" onPointerMove={onMoved}>
          <List
            aria-label="What can be added"
            items={found}
            dependencies={[tiles]}
            selectionMode="none"
            onAction={(key) => {
              const one = flat.find((candidate) => candidate.id === key);
              if (one) keep(one);
            }}
            renderEmptyState={() => (
              <Nothing>{isSettled ? nothingFound(search, within) : "Looking on the Shelf …"}</Nothing>
            )}
          >
            {(section) => (
              <ListBoxSection id={section.id}>
                <Title>
                  <bdi>{section.name}</bdi>
                </Title>
                <Collection items={section.items} dependencies={[tiles]}>
                  {(one) => (
                    <Item
                      id={one.id}
                      textValue={one.name}
                      onHoverStart={() => dwell(one.id)}
                      onHoverEnd={() => dwell(null)}
                    >
                      {({ isFocused }) => (
                        <Candidates
                          candidate={one}
                          tile={tiles.get(one.id)}
                          isFocused={isFocused}
                          onFocused={setFocused}
                        />
                      )}
                    </Item>
                  )}
                </Collection>
              </ListBoxSection>
            )}
          </List>
        </Scroll>
      </Autocomplete>
      <AddFoot
        candidate={active}
        way={way}
        onWay={setWay}
        replaceable={replaceable?.name ?? null}
        warning={warning}
        onKeep={() => active && keep(active)}
      />
    </Root>
  );
}

function nothingFound(search: string, within: string): string {
  if (within === EVERYWHERE) return "Nothing of that name. Try fewer letters.";
  return search.trim() === "" ? "No preset or LUT lies there." : "Nothing of that name lies there. Look everywhere.";
}

function Candidates({
  candidate,
  tile,
  isFocused,
  onFocused,
}: {
  candidate: Candidate;
  tile: Tile | undefined;
  isFocused: boolean;
  onFocused: (id: string) => void;
}) {
  useEffect(() => {
    if (isFocused) onFocused(candidate.id);
  }, [isFocused, candidate.id, onFocused]);
  return (
    <>
      <TriedDisc tile={tile} size={40} />
      <span>
        <b>{candidate.name}</b>
        <small>{candidate.note}</small>
      </span>
    </>
  );
}
