import { useCallback, useDeferredValue, useEffect, useMemo, useState } from "react";
import styled from "styled-components";
import type { Look, Picture } from "../../api/types";
import { FindPanel } from "../../kit/FindPanel";
import { findStep, flat as allSteps, outermost } from "../../look/arrange";
import { titleOf } from "../../look/titles";
import { useBench, useBenchPart } from "../../look/useBench";
import { useSpatial } from "../../look/steps/useKinds";
import { AddFoot, type Way } from "./AddFoot";
import { WithinPicker } from "../../entries/WithinPicker";
import { EVERYWHERE } from "../../entries/within";
import { arrangeFound, useCandidates, type Candidate } from "./candidates";
import { atStrengthOf, withAdded, withReplaced, type Placed } from "../../look/placing";
import { TriedDisc } from "./TriedDisc";
import { useTries } from "./useTries";

const Root = styled.div`
  position: absolute;
  z-index: 5;
  left: 0;
  top: 0;
  bottom: 0;
  width: 336px;
  background: ${(p) => p.theme.tokens.glaze};
  border-right: 1px solid ${(p) => p.theme.tokens.line};
  box-shadow: 6px 0 24px rgb(0 0 0 / 14%);
`;

/** What was put in last from here, to tell whether it is still as it was. */
export interface LastKept {
  readonly name: string;
  readonly steps: Placed["added"];
}

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
  const { store, view } = useBench();
  const isSpatial = useSpatial();
  const look = useBenchPart((state) => state.look);
  const selected = useBenchPart((state) => state.selected);
  const [search, setSearch] = useState("");
  const [activeId, setActiveId] = useState<string | null>(null);
  const onTry = useCallback((one: Candidate | null) => setActiveId(one?.id ?? null), []);
  const asked = useDeferredValue(search.trim());
  const [within, setWithin] = useState(EVERYWHERE);
  const { all, isSettled: hasAll } = useCandidates(asked, within);
  const isSettled = hasAll && asked === search.trim();
  const [inHand] = useState(() => outermost(store.get().look.steps ?? [], new Set(store.get().marked)));
  const isLut = isSwap && inHand.some((step) => step.kind === "lut");
  const found = useMemo(
    () => arrangeFound(all, search, isSwap ? (isLut ? "LUTs" : "Presets") : "Steps"),
    [all, search, isSwap, isLut],
  );
  const flat = useMemo(() => found.flatMap((section) => section.items), [found]);
  const active = flat.find((one) => one.id === activeId) ?? null;
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
  useEffect(() => store.dispatch({ type: "try", look: active ? lookOf(active) : null }), [active, lookOf, store]);
  useEffect(() => () => store.dispatch({ type: "try", look: null }), [store]);

  // Each time, not only just after adding: a LUT over a LUT is rarely meant.
  const luts = allSteps(look.steps ?? []).filter((step) => step.kind === "lut");
  const warning =
    active?.section === "LUTs" && luts.length > 0 && !(way === "replace" && replaceable)
      ? `This look holds ${luts.map(titleOf).join(", ")} already: this one comes on top.`
      : null;

  /** isApart: a LUT that is taken apart into steps as soon as it is in the look */
  function keep(candidate: Candidate, isApart = false) {
    const replaces = way === "replace" && replaceable && candidate.section !== "Steps";
    const placed = place(candidate);
    store.edit(`${replaces ? `Replace ${replaceable.name} with` : "Add"} ${candidate.name}`, () => placed.look);
    store.dispatch({ type: "markAll", ids: placed.added.map((step) => step.id ?? "") });
    if (isApart) view.set({ apart: placed.added[0]?.id ?? null });
    onKept(candidate.section === "Steps" ? null : { name: candidate.name, steps: placed.added });
    onClose();
    // The keyboard goes on at what was added, once its line is there.
    const [first] = placed.added;
    requestAnimationFrame(() => document.querySelector<HTMLElement>(`[data-line="${first?.id ?? ""}"]`)?.focus());
  }

  const label = isSwap ? "Swap in place" : "Add a step";
  return (
    <Root data-testid="add-panel">
      <FindPanel
        label={label}
        fieldLabel="Find a step, preset or LUT"
        listLabel="What can be added"
        placeholder="Find a step, preset or LUT"
        search={search}
        onSearch={setSearch}
        groups={found}
        isSettled={isSettled}
        columns="40px minmax(0, 1fr)"
        drawnFrom={[tiles]}
        nothing={isSettled ? nothingFound(search, within) : "Looking on the Shelf …"}
        onTake={(one) => keep(one)}
        onTry={onTry}
        onClose={onClose}
        closeLabel="Close without adding"
        where={<WithinPicker value={within} onChange={setWithin} />}
        line={(one) => (
          <>
            <TriedDisc tile={tiles.get(one.id)} size={40} />
            <span>
              <b>{one.name}</b>
              <small>{one.note}</small>
            </span>
          </>
        )}
      >
        <AddFoot
          candidate={active}
          way={way}
          onWay={setWay}
          replaceable={replaceable?.name ?? null}
          warning={warning}
          onKeep={() => active && keep(active)}
          onApart={active?.section === "LUTs" ? () => keep(active, true) : null}
        />
      </FindPanel>
    </Root>
  );
}

function nothingFound(search: string, within: string): string {
  if (within === EVERYWHERE) return "Nothing of that name. Try fewer letters.";
  return search.trim() === "" ? "No preset or LUT lies there." : "Nothing of that name lies there. Look everywhere.";
}
