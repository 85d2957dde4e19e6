import { useEffect, useState } from "react";
import { callImage, loadImage, wordsFor } from "../../api/client";
import type { Picture } from "../../api/types";
import { useLatest } from "../../api/useLatest";

interface Ask {
  readonly entry: number;
  readonly picture: number;
  readonly strength: number;
  readonly quality: "drag" | "rest";
}

interface Tried {
  readonly after: ImageBitmap | null;
  readonly before: ImageBitmap | null;
  readonly drawn: number;
  readonly problem: string | null;
}

/** The picture through an entry and without it. What is replaced gives its memory back at once. */
export function useTry(entry: number, picture: Picture | undefined, strength: number, dragging: boolean): Tried {
  const [state, setState] = useState<Tried>({ after: null, before: null, drawn: 0, problem: null });
  const ask = useLatest<Ask, ImageBitmap>(
    (input, signal) => callImage("/shelf/frame", input, signal),
    (after) =>
      setState((last) => {
        last.after?.close();
        return { ...last, after, drawn: last.drawn + 1, problem: null };
      }),
    (error) => setState((last) => ({ ...last, problem: wordsFor(error) })),
  );
  const shown = picture?.id;
  useEffect(() => {
    if (shown !== undefined) ask({ entry, picture: shown, strength, quality: dragging ? "drag" : "rest" });
  }, [ask, entry, shown, strength, dragging]);
  useEffect(() => {
    if (shown === undefined) return undefined;
    const controller = new AbortController();
    loadImage(`/pictures/${String(shown)}/frame.png`, controller.signal).then(
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
  }, [shown]);
  return state;
}
