/** What is looked at on a shot before it is kept, keeping it, and taking the last of it back. Nothing of the project is touched meanwhile. */
import { useMemo, useState } from "react";
import {
  givenOf,
  trimsOf,
  useSetLayers,
  useSetTrims,
  useTakeNewest,
  useUndo,
  type LayerGiven,
} from "../../api/projects";
import type { Project, Shot, Step } from "../../api/types";
import { isTrims } from "../chain/parts";
import { same } from "../trims/useTrims";
import { useSoon } from "../../kit/useSoon";

export interface Done {
  /** What takes it back; null where there was nothing to do. */
  readonly undo: number | null;
}

/** The shot's own steps in a stack that is looked at. */
const stepsOf = (layers: readonly LayerGiven[]): readonly Step[] =>
  (layers.find(isTrims)?.steps ?? []) as unknown as Step[];

function withTrims(layers: readonly LayerGiven[], steps: readonly Step[]): LayerGiven[] {
  const others = layers.filter((one) => !isTrims(one));
  const trims = {
    role: "before",
    entry: null,
    version: null,
    steps: [...steps] as never,
    strength: 1,
    enabled: true,
  } as const;
  return steps.length === 0 ? others : [trims, ...others];
}

const isAfter = (one: LayerGiven) => one.role === "after" && one.entry === null;

function withAfter(layers: readonly LayerGiven[], steps: readonly Step[]): LayerGiven[] {
  const others = layers.filter((one) => !isAfter(one));
  const trims = { role: "after", entry: null, version: null, steps: [...steps] as never, strength: 1, enabled: true };
  return steps.length === 0 ? others : [...others, trims as LayerGiven];
}

export function useShotDraft(project: Project, shot: Shot) {
  const [draft, setDraft] = useState<{ layers: LayerGiven[]; isMoving: boolean } | null>(null);
  const [tried, setTried] = useState<LayerGiven[] | null>(null);
  const [last, setLast] = useState<number | null>(null);
  const setTrims = useSetTrims(project.id);
  const setLayers = useSetLayers(project.id);
  const newest = useTakeNewest(project.id);
  const undo = useUndo(project.id);
  const stored = useMemo(() => givenOf(shot), [shot]);
  const trims = useMemo(() => trimsOf(shot), [shot]);

  const told = ({ undo: number }: Done) => {
    if (number !== null) setLast(number);
  };
  const keepSoon = useSoon((layers: LayerGiven[]) =>
    setLayers.mutate(
      { shots: [shot.id], layers },
      {
        onSuccess: (done) => {
          // What was changed since goes on being looked at.
          setDraft((now) => (now?.layers === layers ? null : now));
          told(done);
        },
      },
    ),
  );
  const keptAfter = shot.layers.find((one) => one.role === "after" && one.entry === null);
  const take = (layers: LayerGiven[]) => {
    setDraft({ layers, isMoving: false });
    keepSoon(layers);
  };
  const error = setTrims.error ?? setLayers.error ?? newest.error ?? undo.error;
  return {
    stored,
    trims,
    /** Null: what is kept is what is seen. */
    layers: draft?.layers ?? null,
    /** What the picture is seen through meanwhile, while something is tried that nobody has taken yet. */
    seen: tried ?? draft?.layers ?? null,
    tryOn: setTried,
    isMoving: tried === null && (draft?.isMoving ?? false),
    isKeeping: (draft !== null && !error) || setTrims.isPending || setLayers.isPending,
    isKeepingTrims: setTrims.isPending,
    isTakingBack: undo.isPending,
    error,
    /** What the last change that was kept is taken back by. */
    last,
    told,
    look: (layers: LayerGiven[] | null, isMoving = false) => setDraft(layers && { layers, isMoving }),
    take,
    /** Steps after the look, as they are kept. */
    after: (keptAfter?.steps ?? []) as unknown as readonly Step[],
    afterId: keptAfter?.id ?? null,
    isKeepingLayers: setLayers.isPending,
    lookAtAfter: (steps: readonly Step[], isMoving: boolean) =>
      setDraft({ layers: withAfter(stored, steps), isMoving }),
    keepAfter: (steps: readonly Step[]) => take(withAfter(stored, steps)),
    lookAtTrims: (steps: readonly Step[], isMoving: boolean) =>
      setDraft({ layers: withTrims(stored, steps), isMoving }),
    keepTrims: (steps: readonly Step[]) =>
      setTrims.mutate(
        { shots: [shot.id], steps, add: false },
        {
          onSuccess: (done) => {
            setDraft((now) => (now && same(stepsOf(now.layers), steps) ? null : now));
            told(done);
          },
        },
      ),
    takeNewest: () => newest.mutate([shot.id], { onSuccess: told }),
    takeBack: () => {
      if (last !== null) undo.mutate(last, { onSuccess: () => setLast(null) });
    },
  };
}

export type ShotDraft = ReturnType<typeof useShotDraft>;
