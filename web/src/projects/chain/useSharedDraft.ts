/** What is looked at in a place for many shots before it is kept, and keeping it. */
import { useRef, useState } from "react";
import { useSetShared, useSwitchShared, type SharedGiven, type SharedLayerGiven } from "../../api/projects";
import type { Project } from "../../api/types";
import { useSoon } from "../../kit/useSoon";
import type { SharedPlace } from "./parts";

interface Told {
  readonly count: number;
  readonly undo: number | null;
}

export function useSharedDraft(project: Project, told: (done: Told) => void) {
  const [draft, setDraft] = useState<{ given: SharedGiven; isMoving: boolean } | null>(null);
  const [tried, setTried] = useState<SharedGiven | null>(null);
  const set = useSetShared(project.id);
  const turn = useSwitchShared(project.id);
  // Two places may be changed within a moment: each is kept.
  const waiting = useRef(new Map<string, SharedGiven>());
  const keepSoon = useSoon((all: Map<string, SharedGiven>) => {
    for (const given of all.values())
      set.mutate(given, {
        onSuccess: (done) => {
          setDraft((now) => (now?.given === given ? null : now));
          told(done);
        },
      });
    all.clear();
  });
  const givenAt = ({ spot }: SharedPlace, layers: readonly SharedLayerGiven[]): SharedGiven => ({
    ...spot,
    layers: [...layers],
  });
  return {
    given: draft?.given ?? null,
    /** What the picture is seen through meanwhile, while something is tried that nobody has taken yet. */
    seen: tried ?? draft?.given ?? null,
    tryOn: (place: SharedPlace, layers: readonly SharedLayerGiven[] | null) =>
      setTried(layers && givenAt(place, layers)),
    isMoving: tried === null && (draft?.isMoving ?? false),
    isKeeping: set.isPending || turn.isPending,
    error: set.error ?? turn.error,
    look: (place: SharedPlace, layers: readonly SharedLayerGiven[], isMoving: boolean) =>
      setDraft({ given: givenAt(place, layers), isMoving }),
    take: (place: SharedPlace, layers: readonly SharedLayerGiven[]) => {
      const given = givenAt(place, layers);
      setDraft({ given, isMoving: false });
      waiting.current.set(place.key, given);
      keepSoon(waiting.current);
    },
    turn: (layer: number, shots: number[], enabled: boolean) =>
      turn.mutate({ layer, shots, enabled }, { onSuccess: told }),
  };
}

export type SharedDraft = ReturnType<typeof useSharedDraft>;
