import { useQuery } from "@tanstack/react-query";
import { useCallback, useEffect, useRef, useState } from "react";
import { createPortal } from "react-dom";
import { Navigate, useParams, useSearchParams } from "react-router";
import styled from "styled-components";
import { wordsFor } from "../api/client";
import { look as lookQuery, looks as looksQuery, pictures as picturesQuery, useMakeLook } from "../api/queries";
import type { LookOut, Picture } from "../api/types";
import { Primary } from "../kit/Button";
import { Notice } from "../kit/Notice";
import { BringInSheet } from "../pictures/BringInSheet";
import { useTopSlot } from "../TopBar";
import { BakeSheet } from "./BakeSheet";
import { LookHead } from "./LookHead";
import { Recipe } from "./Recipe";
import { SaveBar, SaveTrouble } from "./SaveBar";
import { Scopes } from "./Scopes";
import { Stage } from "./Stage";
import { StepPanel } from "./StepPanel";
import { Tray } from "./Tray";
import { BenchContext, SavingContext, useBench, useOpenBench } from "./useBench";
import { useFrames } from "./useFrames";

const Columns = styled.main`
  grid-row: 2; display: grid; grid-template-columns: 256px minmax(0, 1fr) 344px; height: 100%; min-height: 0;
`;
const Side = styled.div`
  display: flex; flex-direction: column; min-height: 0; background: ${(p) => p.theme.tokens.glaze};
  &:first-child { border-right: 1px solid ${(p) => p.theme.tokens.line}; }
  &:last-child { border-left: 1px solid ${(p) => p.theme.tokens.line}; }
`;
const Middle = styled.div`
  display: grid; grid-template-rows: minmax(0, 1fr) auto; min-height: 0; min-width: 0;
`;
const Whole = styled.div`
  display: grid; grid-template-rows: auto minmax(0, 1fr); height: 100%; min-height: 0;
`;
const Plain = styled.main`
  display: grid; place-content: center; justify-items: center; gap: 14px; height: 100%; color: ${(p) => p.theme.tokens.soft};
`;

const none: readonly Picture[] = [];

function OpenBench({ entry }: { entry: LookOut }) {
  const { bench, saving } = useOpenBench(entry);
  return (
    <BenchContext.Provider value={bench}>
      <SavingContext.Provider value={saving}>
        <Workplace />
      </SavingContext.Provider>
    </BenchContext.Provider>
  );
}

function Workplace() {
  const { store } = useBench();
  const { data: pictures = none } = useQuery(picturesQuery);
  const [search, setSearch] = useSearchParams();
  const [bringing, setBringing] = useState(false);
  const [baking, setBaking] = useState(false);
  const slot = useTopSlot();
  const chosen = pictures.find((one) => String(one.id) === search.get("picture")) ?? pictures[0];
  const width = useRef(0);
  const frames = useFrames(chosen, pictures, width);
  const onWidth = useCallback((next: number) => { width.current = next; }, []);
  // The setter that the router gives is another one after each change of the address; what is drawn from here need not be.
  const set = useRef(setSearch);
  useEffect(() => {
    set.current = setSearch;
  }, [setSearch]);
  const choose = useCallback((picture: Picture) => set.current({ picture: String(picture.id) }, { replace: true }), []);
  const bring = useCallback(() => setBringing(true), []);
  const bringDone = useCallback(() => setBringing(false), []);
  const bake = useCallback(() => setBaking(true), []);
  const bakeDone = useCallback(() => setBaking(false), []);

  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      if (!(event.ctrlKey || event.metaKey) || event.key.toLowerCase() !== "z") return;
      if (event.target instanceof HTMLInputElement && event.target.type === "text" && event.target.value !== event.target.defaultValue) return;
      event.preventDefault();
      store.dispatch({ type: event.shiftKey ? "redo" : "undo" });
    };
    window.addEventListener("keydown", onKey);
    return () => window.removeEventListener("keydown", onKey);
  }, [store]);

  return (
    <Whole>
      <SaveTrouble />
      <Columns>
        <Side>
          <LookHead fingerprint={frames.fingerprint} />
          <Recipe sketch={frames.sketch} />
        </Side>
        <Middle>
          <Stage picture={chosen} frames={frames} onWidth={onWidth} />
          <Tray pictures={pictures} chosen={chosen} onChoose={choose} onBring={bring} discs={frames.discs} />
        </Middle>
        <Side>
          <StepPanel sketch={frames.sketch} scopes={frames.scopes} />
          <Scopes scopes={frames.scopes} />
        </Side>
      </Columns>
      {slot && createPortal(<SaveBar onBake={bake} />, slot)}
      {bringing && <BringInSheet isOpen onClose={bringDone} onDone={choose} />}
      {baking && <BakeSheet isOpen onClose={bakeDone} fingerprint={frames.fingerprint} />}
    </Whole>
  );
}

/** One look on the Bench. */
export function BenchPage() {
  const id = Number(useParams().id);
  const { data: entry, error } = useQuery(lookQuery(id));
  const [first, setFirst] = useState<LookOut | null>(null);
  // The page works on from what it opened; a refetch behind its back must not put the clock back.
  if (entry && first?.id !== id) setFirst(entry.id === id ? entry : null);
  if (error) return <Plain><Notice>{wordsFor(error)}</Notice></Plain>;
  return first?.id === id ? <OpenBench key={id} entry={first} /> : <Plain>Opening the look…</Plain>;
}

/** The look edited last, or the first one to be made. */
export function BenchStart() {
  const { data: looks, error } = useQuery(looksQuery);
  const make = useMakeLook();
  if (error) return <Plain><Notice>{wordsFor(error)}</Notice></Plain>;
  if (!looks) return <Plain>Opening the Bench…</Plain>;
  const [last] = looks;
  const opened = make.data?.id ?? last?.id;
  if (opened !== undefined) return <Navigate to={`/bench/${opened}`} replace />;
  return (
    <Plain>
      <p>There are no looks yet.</p>
      <Primary onPress={() => make.mutate({ name: "Untitled look", steps: [{ kind: "curves" }] })}>Make the first look</Primary>
      {make.error && <Notice>{wordsFor(make.error)}</Notice>}
    </Plain>
  );
}
