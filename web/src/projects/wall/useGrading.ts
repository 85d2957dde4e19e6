/** What is done to chosen shots, each told in words and taken back by one press. */
import { useState } from "react";
import {
  useBringBack,
  useChangeShots,
  useCopyTrims,
  useMoveShots,
  useOrderScenes,
  usePutLook,
  useRenameScene,
  useSetStrength,
  useSetTrims,
  useTakeNewest,
  useTakeOff,
  useTakeOut,
  useUndo,
} from "../../api/projects";
import { named } from "../../look/named";

interface Done {
  readonly words: string;
  readonly back: (() => void) | null;
}

/** An entry to be put on shots. member: which of a look's family; without, the recipe */
export interface Putting {
  readonly id: number;
  readonly name: string;
  readonly member?: string;
}

const shotsOf = (count: number) => `${String(count)} ${count === 1 ? "shot" : "shots"}`;

export function useGrading(project: number) {
  const put = usePutLook(project);
  const off = useTakeOff(project);
  const strength = useSetStrength(project);
  const newest = useTakeNewest(project);
  const trims = useSetTrims(project);
  const copy = useCopyTrims(project);
  const change = useChangeShots(project);
  const move = useMoveShots(project);
  const name = useRenameScene(project);
  const order = useOrderScenes(project);
  const out = useTakeOut(project);
  const back = useBringBack(project);
  const undo = useUndo(project);
  const [done, setDone] = useState<Done | null>(null);
  const all = [put, off, strength, newest, trims, copy, change, move, name, order, out, back, undo];

  function forget() {
    for (const one of all) if (one.isError) one.reset();
  }
  /** Options of a change that tells by what it is taken back. */
  const toldAs = (words: (count: number) => string) => ({
    onSuccess: ({ count, undo: number }: { count: number; undo: number | null }) => {
      forget();
      setDone({ words: words(count), back: number === null ? null : () => takeBack(number) });
    },
  });
  /** The same of one that tells how many shots it was. */
  const told = (what: string) => toldAs((count) => `${what} ${shotsOf(count)}.`);
  function takeBack(number: number) {
    undo.mutate(number, {
      onSuccess: ({ left }) => {
        forget();
        const but = left.length === 0 ? "." : `, but for ${left.join(", ")}: changed since by somebody.`;
        setDone({ words: `Taken back${but}`, back: null });
      },
    });
  }
  return {
    done,
    isTrimming: trims.isPending,
    error: all.find((one) => one.error)?.error ?? null,
    put: (shots: number[], one: Putting, stack: boolean) =>
      put.mutate(
        { shots, entry: one.id, member: one.member ?? "", stack },
        told(`${named(one.name, one.member)} is on`),
      ),
    off: (shots: number[]) => off.mutate(shots, told("Taken off")),
    strength: (shots: number[], value: number) =>
      strength.mutate({ shots, strength: value }, told("Strength changed on")),
    newest: (shots: number[]) => newest.mutate(shots, told("Newest version on")),
    trims: (shots: number[], steps: Parameters<typeof trims.mutate>[0]["steps"], add: boolean) =>
      trims.mutate({ shots, steps, add }, told("Trimmed")),
    copy: (shots: number[], source: number, add: boolean) =>
      copy.mutate({ shots, source, add }, told(add ? "Trims added to" : "Trims copied to")),
    approve: (shots: number[], approved: boolean) =>
      change.mutate({ shots, approved }, told(approved ? "Approved" : "Not approved any more:")),
    encodingSaid: told("Encoding said of").onSuccess,
    rollSaid: told("Where they come from is said of").onSuccess,
    forMany: told("Put on").onSuccess,
    move: (shots: number[], scene: string) => move.mutate({ shots, scene }, told(`Moved to ${scene}:`)),
    renameScene: (scene: number, wanted: string) =>
      name.mutate(
        { scene, name: wanted },
        toldAs(() => `The scene is called ${wanted}.`),
      ),
    orderScenes: (scenes: number[]) =>
      order.mutate(
        scenes,
        toldAs(() => "Scenes in another order."),
      ),
    broughtIn: (shots: number[]) => {
      forget();
      const back = () =>
        out.mutate(shots, {
          onSuccess: () => setDone({ words: `${shotsOf(shots.length)} taken out again.`, back: null }),
        });
      setDone({ words: `${shotsOf(shots.length)} brought in.`, back: shots.length > 0 ? back : null });
    },
    takeOut: (shots: number[]) =>
      out.mutate(shots, {
        onSuccess: () => {
          forget();
          setDone({
            words: `${shotsOf(shots.length)} taken out.`,
            back: () => back.mutate(shots, { onSuccess: () => setDone({ words: "Back again.", back: null }) }),
          });
        },
      }),
  };
}

export type Grading = ReturnType<typeof useGrading>;
