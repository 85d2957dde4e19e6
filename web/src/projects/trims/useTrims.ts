/** The trims of a shot on a small Bench of their own, so that the Bench's editors work on them as they are. */
import { useEffect, useMemo, useRef, useState } from "react";
import type { Look, Step } from "../../api/types";
import { BenchStore, opened } from "../../bench/look/store";
import type { Bench } from "../../bench/useBench";
import { Picker } from "../../bench/view/picking";
import { fromSearch, ViewStore } from "../../bench/view/view";

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
  /** While something moves: what it would be. */
  readonly onMove: (steps: readonly Step[], isMoving: boolean) => void;
  /** Once it rests. */
  readonly onRest: (steps: readonly Step[]) => void;
}

export function useTrims(encoding: string, steps: readonly Step[], { onMove, onRest }: Told): Bench {
  const [store] = useState(() => new BenchStore(opened(lookOf(encoding, steps))));
  const told = useRef({ onMove, onRest });
  const ours = useRef(steps);
  useEffect(() => {
    told.current = { onMove, onRest };
  });
  useEffect(() => {
    let last = store.get().look;
    let timer: ReturnType<typeof setTimeout> | undefined;
    const stop = store.subscribe(() => {
      const { look, gesture } = store.get();
      if (look === last) return;
      last = look;
      const next = look.steps ?? [];
      if (same(next, ours.current)) return;
      ours.current = next;
      told.current.onMove(next, gesture !== null);
      clearTimeout(timer);
      timer = setTimeout(() => told.current.onRest(store.get().look.steps ?? []), SETTLES);
    });
    return () => {
      stop();
      clearTimeout(timer);
    };
  }, [store]);
  useEffect(() => {
    // What somebody else did, or what was taken back: it takes the place of what is here.
    if (same(steps, ours.current)) return;
    ours.current = steps;
    store.dispatch({ type: "open", state: opened(lookOf(encoding, steps)) });
  }, [store, steps, encoding]);
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
