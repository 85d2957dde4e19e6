import { useEffect, useState } from "react";
import { wordsFor } from "../../api/client";
import { fetchOriginal, fetchThroughEntry } from "../../api/seen";
import type { Picture } from "../../api/types";
import { useLatest } from "../../api/useLatest";
import type { Shown } from "./Versions";

interface Ask {
  readonly entry: number;
  readonly picture: number;
  readonly version: number | null;
  /** Which of a look's family; empty for the recipe. */
  readonly member: string;
  readonly strength: number;
  readonly quality: "drag" | "rest";
}

interface Tried {
  readonly after: ImageBitmap | null;
  readonly before: ImageBitmap | null;
  readonly drawn: number;
  readonly problem: string | null;
}

/** The picture through an entry, or a version of it, and without it or through another version. What is replaced gives its memory back at once. */
export function useTry(
  entry: number,
  picture: Picture | undefined,
  strength: number,
  dragging: boolean,
  { version, beside }: Shown,
  member = "",
): Tried {
  const [state, setState] = useState<Tried>({ after: null, before: null, drawn: 0, problem: null });
  const ask = useLatest<Ask, ImageBitmap>(
    fetchThroughEntry,
    (after) =>
      setState((last) => {
        last.after?.close();
        return { ...last, after, drawn: last.drawn + 1, problem: null };
      }),
    (error) => setState((last) => ({ ...last, problem: wordsFor(error) })),
  );
  const shown = picture?.id;
  useEffect(() => {
    if (shown !== undefined)
      ask({ entry, picture: shown, version, member, strength, quality: dragging ? "drag" : "rest" });
  }, [ask, entry, shown, version, member, strength, dragging]);
  useEffect(() => {
    if (shown === undefined) return undefined;
    const controller = new AbortController();
    const original =
      beside === null
        ? fetchOriginal(shown, controller.signal)
        : fetchThroughEntry(
            { entry, picture: shown, version: beside, member: "", strength: 1, quality: "rest" },
            controller.signal,
          );
    original.then(
      (before) =>
        setState((last) => {
          last.before?.close();
          return { ...last, before, drawn: last.drawn + 1 };
        }),
      (error: unknown) => {
        if (!controller.signal.aborted) setState((last) => ({ ...last, problem: wordsFor(error) }));
      },
    );
    return () => controller.abort();
  }, [entry, shown, beside]);
  return state;
}
