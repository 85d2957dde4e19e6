/** The Bench's behaviour: the store, its saving, and how it is looked at. */
import { useQueryClient } from "@tanstack/react-query";
import {
  createContext,
  useCallback,
  useContext,
  useEffect,
  useMemo,
  useRef,
  useState,
  useSyncExternalStore,
} from "react";
import { fetchLook, look as lookQuery } from "../api/looks";
import type { LookOut } from "../api/types";
import { useMay } from "../api/session";
import { withIds } from "./arrange";
import { memberIn } from "./family";
import { Autosave, keepHistory, keptDraft, keptHistory, type SaveState } from "./saving/autosave";
import { Picker } from "./view/picking";
import { BenchStore, opened, type BenchState } from "./store";
import { fromSearch, ViewStore, type View } from "./view/view";

/** What never changes while a look is open. */
export interface Bench {
  readonly store: BenchStore;
  readonly view: ViewStore;
  readonly picker: Picker;
  readonly id: number;
  /** Without, the Bench is a place to look: strengths can be tried, nothing is saved. */
  readonly mayEdit: boolean;
  readonly flush: () => Promise<void>;
  /** Settle a conflict: what the other person saved becomes the last change but one, so that undo finds it. */
  readonly keepMine: () => Promise<void>;
  /** Settle a conflict the other way round: what was here becomes the last change but one. */
  readonly takeTheirs: () => Promise<void>;
  /** Show what somebody else saved, where nothing here waits to be saved. */
  readonly follow: () => Promise<void>;
  readonly refresh: () => Promise<void>;
  /** Of the draft that was saved last. */
  readonly revision: () => number;
}

/** How the draft stands on the server; apart from Bench, so that saving redraws only what shows it. */
export interface Saving {
  readonly saving: SaveState;
  readonly entry: LookOut;
}

export const BenchContext = createContext<Bench | null>(null);
export const SavingContext = createContext<Saving | null>(null);

export function useBench(): Bench {
  const bench = useContext(BenchContext);
  if (!bench) throw new Error("useBench outside the Bench");
  return bench;
}

export function useSaving(): Saving {
  const saving = useContext(SavingContext);
  if (!saving) throw new Error("useSaving outside the Bench");
  return saving;
}

/** A part of the state; the component is drawn again only when that part is another one. */
export function useBenchPart<Part>(part: (state: BenchState) => Part): Part {
  const { store } = useBench();
  return useSyncExternalStore(store.subscribe, () => part(store.get()));
}

export function useViewPart<Part>(part: (view: View) => Part): Part {
  const { view } = useBench();
  return useSyncExternalStore(view.subscribe, () => part(view.get()));
}

function startState(entry: LookOut, mayEdit: boolean, step: string | null): { state: BenchState; unsaved: boolean } {
  if (!mayEdit) return { state: opened(entry.draft, [], [], step), unsaved: false };
  const kept = keptDraft(entry.id);
  const { past, future } = keptHistory(entry.id);
  return kept
    ? { state: opened(kept.look, past, future, step), unsaved: true }
    : { state: opened(entry.draft, past, future, step), unsaved: false };
}

/** With the one of the family in hand that the address names, where it is there. */
function begun(search: URLSearchParams, state: BenchState): BenchStore {
  const store = new BenchStore(state);
  store.dispatch({ type: "member", member: memberIn(search) });
  return store;
}

/** Opens a look: its draft, what this browser kept of it, and the saving of what follows. step: what was in hand when it was left */
export function useOpenBench(
  first: LookOut,
  search: URLSearchParams,
  step: string | null = null,
): { bench: Bench; saving: Saving } {
  const client = useQueryClient();
  const mayEdit = useMay("design") && first.may_change;
  const [start] = useState(() => startState(first, mayEdit, step));
  const [store] = useState(() => begun(search, start.state));
  const [view] = useState(() => new ViewStore(fromSearch(search, first.id), first.id));
  const [picker] = useState(() => new Picker());
  const [saving, setSaving] = useState<SaveState>({ kind: "saved" });
  const [entry, setEntry] = useState(first);
  const autosave = useRef<Autosave | null>(null);
  const revision = useRef(first.revision);

  useEffect(() => {
    if (!mayEdit) return undefined;
    const kept = keptDraft(first.id);
    const saver = new Autosave(first.id, kept?.revision ?? first.revision, (state, saved) => {
      setSaving((last) =>
        last.kind === state.kind && state.kind !== "conflict" && state.kind !== "refused" ? last : state,
      );
      if (saved) {
        revision.current = saved.revision;
        setEntry((last) => ({ ...last, ...saved }));
      }
    });
    autosave.current = saver;
    if (start.unsaved) saver.changed(store.get().whole);
    let last = store.get();
    const stop = store.subscribe(() => {
      const now = store.get();
      if (now.whole !== last.whole) saver.changed(now.whole);
      if (now.past !== last.past || now.future !== last.future) keepHistory(first.id, now.past, now.future);
      last = now;
    });
    return () => {
      stop();
      saver.close();
      void client.invalidateQueries({ queryKey: ["shelf"] });
    };
  }, [client, first, mayEdit, start, store]);

  const refresh = useCallback(async () => {
    const entry = await client.query(lookQuery(first.id));
    revision.current = entry.revision;
    setEntry(entry);
    await client.invalidateQueries({ queryKey: ["history", first.id] });
  }, [client, first.id]);
  const bench = useMemo<Bench>(() => {
    const settle = async (mine: boolean) => {
      const saver = autosave.current;
      if (!saver || saver.state.kind !== "conflict") return;
      const { by } = saver.state;
      const theirs = await fetchLook(first.id);
      const own = store.get().whole;
      saver.rebase(theirs.revision);
      revision.current = theirs.revision;
      if (mine) {
        store.replace(`What ${by} saved`, withIds(theirs.draft));
        store.replace("Keep mine", own);
      } else store.replace(`Take what ${by} saved`, withIds(theirs.draft));
    };
    return {
      store,
      view,
      picker,
      id: first.id,
      mayEdit,
      refresh,
      revision: () => revision.current,
      flush: () => autosave.current?.flush() ?? Promise.resolve(),
      keepMine: () => settle(true),
      takeTheirs: () => settle(false),
      follow: async () => {
        const theirs = await fetchLook(first.id);
        const look = withIds(theirs.draft);
        autosave.current?.follow(look, theirs.revision);
        store.replace(`What ${theirs.edited_by || "somebody"} saved`, look);
        revision.current = theirs.revision;
        setEntry(theirs);
      },
    };
  }, [store, view, picker, refresh, first.id, mayEdit]);
  const standing = useMemo(() => ({ saving, entry }), [saving, entry]);
  return { bench, saving: standing };
}
