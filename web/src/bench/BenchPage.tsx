import { useQuery } from "@tanstack/react-query";
import { useCallback, useEffect, useMemo, useRef, useState } from "react";
import { createPortal } from "react-dom";
import { Link, Navigate, useParams, useSearchParams } from "react-router";
import styled from "styled-components";
import { Problem, wordsFor } from "../api/client";
import { firstEntries } from "../api/shelf";
import { look as lookQuery, useMakeLook } from "../api/looks";
import { pictures as picturesQuery, pictureSets } from "../api/pictures";
import { session, useMay } from "../api/session";
import { start as startQuery } from "../api/start";
import type { LookOut, Picture } from "../api/types";
import { useActions } from "../browser/actions";
import { forgetPlace, lastPlace, placeOf, rememberPlace } from "../browser/place";
import { Primary } from "../kit/Button";
import { Notice } from "../kit/Notice";
import { BringInSheet } from "../media/BringInSheet";
import { useTopSlot } from "../frame/TopBar";
import { AddPanel, type LastKept } from "./add/AddPanel";
import { outermost } from "../look/arrange";
import { FamilyBar } from "./family/FamilyBar";
import { BakeSheet } from "./bake/BakeSheet";
import { useBenchDrop } from "./drop/useBenchDrop";
import { HistorySheet } from "./history/HistorySheet";
import { useKeys } from "./view/keys";
import { KeysSheet } from "./view/KeysSheet";
import { LookHead } from "./recipe/LookHead";
import { editedPreset } from "../look/edited";
import { withMemberIn } from "../look/family";
import { PresetSheet } from "./presets/PresetSheet";
import { useRemember } from "./presets/useRemember";
import { Recipe } from "./recipe/Recipe";
import { useArrange } from "./recipe/useArrange";
import { useCarried } from "./recipe/useCarried";
import { useClipboard } from "./recipe/useClipboard";
import { SaveBar, SaveTrouble } from "./saving/SaveBar";
import { Scopes } from "../look/scopes/Scopes";
import { useAllEditors } from "../look/steps/editors";
import { Stage } from "./stage/Stage";
import { StepPanel } from "../look/steps/StepPanel";
import { TakeSheet } from "./take/TakeSheet";
import { TowardsPanel } from "./towards/TowardsPanel";
import { Tray } from "./tray/Tray";
import { pinInView } from "./tray/pinning";
import { WhyPanel } from "./why/WhyPanel";
import { BenchContext, SavingContext, useBench, useBenchPart, useOpenBench, useViewPart } from "../look/useBench";
import { useFrames, useSeen } from "../look/frames/useFrames";
import { usePresence } from "./saving/usePresence";
import { toSearch } from "../look/view/view";

const Columns = styled.main<{ $large: boolean }>`
  grid-row: 2;
  position: relative;
  display: grid;
  grid-template-columns: 256px minmax(0, 1fr) ${(p) => (p.$large ? "min(640px, 46vw)" : "344px")};
  height: 100%;
  min-height: 0;
`;
const Side = styled.div`
  display: flex;
  flex-direction: column;
  min-height: 0;
  min-width: 0;
  background: ${(p) => p.theme.tokens.glaze};
  &:first-child {
    border-right: 1px solid ${(p) => p.theme.tokens.line};
  }
  &[data-right] {
    border-left: 1px solid ${(p) => p.theme.tokens.line};
  }
`;
const Middle = styled.div`
  display: grid;
  grid-template-rows: minmax(0, 1fr) auto;
  min-height: 0;
  min-width: 0;
`;
const Whole = styled.div`
  display: grid;
  grid-template-rows: auto minmax(0, 1fr);
  height: 100%;
  min-height: 0;
`;
const Plain = styled.main`
  display: grid;
  place-content: center;
  justify-items: center;
  gap: 14px;
  height: 100%;
  color: ${(p) => p.theme.tokens.soft};
`;
const Word = styled.div`
  position: fixed;
  z-index: 30;
  left: 50%;
  bottom: 28px;
  transform: translateX(-50%);
  padding: 7px 16px;
  border-radius: 16px;
  background: ${(p) => p.theme.tokens.ink};
  color: ${(p) => p.theme.tokens.glaze};
`;

const none: readonly Picture[] = [];

function OpenBench({ entry }: { entry: LookOut }) {
  const [search] = useSearchParams();
  const { data: here } = useQuery(session);
  const [step] = useState(() => {
    const place = lastPlace(here?.person?.username ?? "");
    return place?.look === entry.id ? place.step : null;
  });
  const { bench, saving } = useOpenBench(entry, search, step);
  return (
    <BenchContext.Provider value={bench}>
      <SavingContext.Provider value={saving}>
        <Workplace />
      </SavingContext.Provider>
    </BenchContext.Provider>
  );
}

/** Keeps the address in step with the view, and remembers where one is: the same place is come back to. */
function useAddress(): void {
  const { view, store, id } = useBench();
  const [search, setSearch] = useSearchParams();
  const { data: here } = useQuery(session);
  const person = here?.person?.username;
  const step = useBenchPart((state) => state.selected);
  const seen = search.toString();
  useEffect(() => {
    if (person) rememberPlace(person, { look: id, search: seen, step });
  }, [person, id, seen, step]);
  // The setter that the router gives is another one after each change of the address.
  const set = useRef(setSearch);
  useEffect(() => {
    set.current = setSearch;
  }, [setSearch]);
  useEffect(() => {
    const address = () => withMemberIn(new URLSearchParams(toSearch(view.get())), store.get().member);
    let last = address().toString();
    const follow = () => {
      const next = address();
      if (next.toString() === last) return;
      last = next.toString();
      set.current(next, { replace: true });
    };
    const ends = [view.subscribe(follow), store.subscribe(follow)];
    return () => ends.forEach((end) => end());
  }, [view, store]);
}

/** The pictures in view, the chosen one first, and those of the tray. */
function usePictures(): { seen: readonly Picture[]; tray: readonly Picture[] } {
  const { data: all = none } = useQuery(picturesQuery);
  const { data: sets } = useQuery(pictureSets);
  const set = useViewPart((view) => view.set);
  const chosen = useViewPart((view) => view.picture);
  const watched = useViewPart((view) => view.watched);
  return useMemo(() => {
    const ids = sets?.find((one) => one.id === set)?.pictures;
    // Shots of projects are many, and are looked at there: here those that somebody put into a set.
    const tray = all.filter((one) => (ids ? ids.includes(one.id) : one.test || !one.of_shots));
    const first = all.find((one) => one.id === chosen) ?? tray[0] ?? all[0];
    const others = watched
      .map((id) => all.find((one) => one.id === id))
      .filter((one) => one !== undefined && one !== first);
    return { seen: first ? [first, ...(others as Picture[])] : none, tray };
  }, [all, sets, set, chosen, watched]);
}

type Open = "bring" | "bake" | "take" | "add" | "swap" | "keep" | "history" | "keys" | "towards" | null;

function Workplace() {
  const frames = useFrames();
  const { store, view, mayEdit, id } = useBench();
  const { seen, tray } = usePictures();
  const [open, setOpen] = useState<Open>(null);
  const [lastKept, setLastKept] = useState<LastKept | null>(null);
  const [said, setSaid] = useState<string | null>(null);
  const presence = usePresence();
  const arrange = useArrange();
  const slot = useTopSlot();
  const [chosen] = seen;
  const isLarge = useViewPart((now) => now.largeEditor);
  const isAsking = useViewPart((now) => now.asking !== null);
  useSeen(frames, seen, tray);
  useAddress();
  useRemember();
  useAllEditors();
  const close = useCallback(() => setOpen(null), []);
  const actions = useMemo(
    () => ({
      arrange,
      tray,
      add: () => setOpen("add"),
      keep: () => store.get().marked.length > 0 && setOpen("keep"),
      history: () => setOpen("history"),
      keys: () => setOpen("keys"),
      take: () => setOpen("take"),
      towards: () => setOpen("towards"),
      pin: () => pinInView(view, frames.painter, chosen, setSaid),
    }),
    [arrange, tray, store, view, frames, chosen],
  );
  useKeys(actions);
  useClipboard(arrange, setSaid);
  useCarried(setSaid);
  useEffect(() => {
    if (said === null) return undefined;
    const wait = setTimeout(() => setSaid(null), 3500);
    return () => clearTimeout(wait);
  }, [said]);
  // The chosen picture stands in the address from the start, so that the address shows to others what is seen here.
  useEffect(() => {
    if (view.get().picture === null && chosen) view.set({ picture: chosen.id });
  }, [view, chosen]);
  const bring = useCallback(() => setOpen("bring"), []);
  useActions(mayEdit ? [{ name: "Bring in a picture", run: bring }] : []);
  const swap = useCallback(() => setOpen("swap"), []);
  const drop = useBenchDrop({
    isBusy: open === "bring" || open === "bake",
    onPicture: (picture) => view.choose(picture),
    onSaid: setSaid,
  });

  return (
    <Whole {...drop.handlers}>
      <SaveTrouble presence={presence} />
      <Columns $large={isLarge}>
        <Side>
          <LookHead reader={frames.reader} picture={chosen} onHistory={actions.history} />
          <FamilyBar picture={chosen} />
          <Recipe
            reader={frames.reader}
            picture={chosen}
            onAdd={actions.add}
            onTowards={actions.towards}
            onKeep={actions.keep}
          />
        </Side>
        <Middle>
          <Stage pictures={seen} frames={frames} />
          <Tray pictures={tray} chosen={chosen} frames={frames} onBring={mayEdit ? bring : null} />
        </Middle>
        <Side data-right>
          <StepPanel reader={frames.reader} picture={chosen} onSwap={swap} />
          {isAsking && <WhyPanel picture={chosen} frames={frames} />}
          {!isLarge && !isAsking && <Scopes reader={frames.reader} picture={chosen} />}
        </Side>
        {open === "towards" && <TowardsPanel picture={chosen} tray={tray} onSaid={setSaid} onClose={close} />}
        {(open === "add" || open === "swap") && (
          <AddPanel
            key={open}
            picture={chosen}
            last={lastKept}
            isSwap={open === "swap"}
            onKept={setLastKept}
            onClose={close}
          />
        )}
      </Columns>
      {slot && createPortal(<SaveBar presence={presence} onBake={() => setOpen("bake")} />, slot)}
      {open === "bring" && <BringInSheet isOpen onClose={close} onDone={(picture) => view.choose(picture)} />}
      {open === "take" && <TakeSheet picture={chosen} tray={tray} painter={frames.painter} onClose={close} />}
      {open === "bake" && <BakeSheet isOpen onClose={close} picture={chosen} />}
      {open === "keep" && (
        <PresetSheet
          edited={editedPreset(id)}
          steps={outermost(store.get().look.steps ?? [], new Set(store.get().marked))}
          onClose={close}
        />
      )}
      {open === "history" && <HistorySheet onClose={close} />}
      {open === "keys" && <KeysSheet onClose={close} />}
      {said && <Word role="status">{said}</Word>}
      {drop.over}
    </Whole>
  );
}

/** One look on the Bench. */
export function BenchPage() {
  const id = Number(useParams().id);
  const { data: entry, error, isFetchedAfterMount } = useQuery(lookQuery(id));
  const [first, setFirst] = useState<LookOut | null>(null);
  // The page works on from what it opened; a refetch behind its back must not put the clock back. Whoever comes back at once would be
  // given what was fetched before they changed it.
  if (entry && isFetchedAfterMount && first?.id !== id) setFirst(entry.id === id ? entry : null);
  const { data: here } = useQuery(session);
  const person = here?.person?.username;
  const isGone = error instanceof Problem && error.status === 404;
  useEffect(() => {
    if (isGone && person) forgetPlace(person, id);
  }, [isGone, person, id]);
  if (error)
    return (
      <Plain>
        <Notice>{wordsFor(error)}</Notice>
        <Link to="/start">To the start</Link>
      </Plain>
    );
  return first?.id === id ? <OpenBench key={id} entry={first} /> : <Plain>Opening the look…</Plain>;
}

/** The look that the person was at last in this browser, or worked at last; who has none, the newest of the team's, or the first one to be made. */
export function BenchStart() {
  const { data: here } = useQuery(session);
  const place = lastPlace(here?.person?.username ?? "");
  const { data: own, error: noOwn } = useQuery({ ...startQuery, enabled: place === null });
  const { data: looks, error: noLooks } = useQuery({
    ...firstEntries({ kinds: ["look"] }, 1),
    enabled: place === null,
  });
  const error = noOwn ?? noLooks;
  const make = useMakeLook();
  const mayDesign = useMay("design");
  // What is to be looked at stands in the address already, as after bringing in a picture: it goes before what was seen last.
  const [search] = useSearchParams();
  if (place) {
    const asked = new URLSearchParams(place.search);
    for (const [name, value] of search) asked.set(name, value);
    return <Navigate to={placeOf({ ...place, search: asked.toString() })} replace />;
  }
  if (error)
    return (
      <Plain>
        <Notice>{wordsFor(error)}</Notice>
      </Plain>
    );
  if (!looks || !own) return <Plain>Opening the Bench…</Plain>;
  const opened = make.data?.id ?? own.looks[0]?.id ?? looks.entries[0]?.id;
  if (opened !== undefined)
    return <Navigate to={{ pathname: `/bench/${opened}`, search: search.toString() }} replace />;
  return (
    <Plain>
      <p>There are no looks yet.{!mayDesign && " A designer can make the first one."}</p>
      {mayDesign && (
        <Primary onPress={() => make.mutate({ name: "Untitled look", steps: [] })}>Make the first look</Primary>
      )}
      {make.error && <Notice>{wordsFor(make.error)}</Notice>}
    </Plain>
  );
}
