/** The trims of a shot on a small Bench of their own, so that the Bench's editors work on them as they are. */
import { useEffect, useMemo, useRef, useState } from "react";
import type { Look, Step } from "../../api/types";
import { BenchStore, opened } from "../../look/store";
import type { Bench } from "../../look/useBench";
import { Picker } from "../../look/view/picking";
import { fromSearch, ViewStore } from "../../look/view/view";

const SETTLES = 350;

/** Two lists of steps that do the same, whatever their ids. */
export function same(one: readonly Step[], other: readonly Step[]): boolean {
  return plainly(one) === plainly(other);
}

const plainly = (steps: readonly Step[]) =>
  JSON.stringify(steps, (name, value: unknown) => (name === "id" ? undefined : value));

const lookOf = (encoding: string, steps: readonly Step[]): Look => ({
  input: encoding,
  output: encoding,
  steps: [...steps],
});

interface Told {
  /** Something that was told to rest is on its way to the server, or what it made of it on its way back. */
  readonly isKeeping: boolean;
  /** While something moves: what it would be. */
  readonly onMove: (steps: readonly Step[], isMoving: boolean) => void;
  /** Once it rests. */
  readonly onRest: (steps: readonly Step[]) => void;
}

export function useTrims(encoding: string, steps: readonly Step[], { isKeeping, onMove, onRest }: Told): Bench {
  const [store] = useState(() => new BenchStore({ ...opened(lookOf(encoding, steps)), selected: null }));
  const told = useRef({ onMove, onRest });
  const ours = useRef(steps);
  const theirs = useRef(steps);
  // From the first touch until the answer to the last one is here: what comes meanwhile is older than what is seen.
  const isUnkept = useRef(false);
  const timer = useRef<ReturnType<typeof setTimeout>>(undefined);
  useEffect(() => {
    told.current = { onMove, onRest };
  });
  useEffect(() => {
    let last = store.get().look;
    const rest = () => {
      timer.current = undefined;
      told.current.onRest(store.get().look.steps ?? []);
    };
    const stop = store.subscribe(() => {
      const { look, gesture } = store.get();
      if (look === last) return;
      last = look;
      const next = look.steps ?? [];
      if (same(next, ours.current)) return;
      ours.current = next;
      isUnkept.current = true;
      told.current.onMove(next, gesture !== null);
      clearTimeout(timer.current);
      timer.current = setTimeout(rest, SETTLES);
    });
    return () => {
      stop();
      if (timer.current === undefined) return;
      clearTimeout(timer.current);
      rest();
    };
  }, [store]);
  useEffect(() => {
    if (!isKeeping && timer.current === undefined) isUnkept.current = false;
  }, [isKeeping]);
  useEffect(() => {
    // What somebody else did, or what was taken back: it takes the place of what is here.
    if (isUnkept.current || same(steps, theirs.current)) return;
    theirs.current = steps;
    if (same(steps, ours.current)) return;
    ours.current = steps;
    store.dispatch({ type: "open", state: opened(lookOf(encoding, steps), [], [], store.get().selected) });
  }, [store, steps, encoding, isKeeping]);
  return useMemo(
    () => ({
      store,
      view: new ViewStore(fromSearch(new URLSearchParams())),
      picker: new Picker(),
      id: 0,
      mayEdit: true,
      flush: () => Promise.resolve(),
      keepMine: () => Promise.resolve(),
      takeTheirs: () => Promise.resolve(),
      follow: () => Promise.resolve(),
      refresh: () => Promise.resolve(),
      revision: () => 0,
    }),
    [store],
  );
}
