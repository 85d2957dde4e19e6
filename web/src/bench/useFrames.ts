/** What the server computes for the look as it stands: the frame, the sketch, and at rest the discs, scopes and fingerprint. */
import { useEffect, useRef, useState, type RefObject } from "react";
import { call, callImage, loadImage, Unreachable, wordsFor } from "../api/client";
import { Latest } from "../api/latest";
import type { Look, Picture, Scopes, Sketch } from "../api/types";
import { findStep, stageOf } from "./store";
import { useBench } from "./useBench";

const REST = 160;
const RETRY = 2000;

export interface Frames {
  readonly frame: ImageBitmap | null;
  readonly original: ImageBitmap | null;
  /** Counts frames, so that what draws them knows of a new one. */
  readonly drawn: number;
  readonly sketch: Sketch | null;
  readonly scopes: Scopes | null;
  readonly discs: string | null;
  readonly fingerprint: string | null;
  readonly problem: string | null;
}

const nothing: Frames = { frame: null, original: null, drawn: 0, sketch: null, scopes: null, discs: null, fingerprint: null, problem: null };

async function objectUrl(path: string, body: unknown, signal: AbortSignal): Promise<string> {
  const bitmap = await callImage(path, body, signal);
  const canvas = new OffscreenCanvas(bitmap.width, bitmap.height);
  canvas.getContext("2d")?.drawImage(bitmap, 0, 0);
  bitmap.close();
  return URL.createObjectURL(await canvas.convertToBlob());
}

/** What is new over what was known; a drawing of some steps leaves the others as they were. */
function merged(known: Sketch | null, fresh: Sketch): Sketch {
  const ids = new Set(fresh.steps.map((step) => step.id));
  return { ...fresh, steps: [...(known?.steps.filter((step) => !ids.has(step.id)) ?? []), ...fresh.steps] };
}

type Frame = { look: Look; picture: number; quality: "drag" | "rest"; width: number | null; edited: number | null };
type Rest = { look: Look; picture: number; before_step: number; pictures: number[] };

export function useFrames(picture: Picture | undefined, tray: readonly Picture[], width: RefObject<number>): Frames {
  const { store } = useBench();
  const [frames, setFrames] = useState<Frames>(nothing);
  const asked = useRef<{ picture: Picture | undefined; tray: readonly Picture[] }>({ picture, tray });
  const askAgain = useRef<() => void>(() => undefined);

  useEffect(() => {
    const urls = new Map<string, string>();
    const replaceUrl = (name: "discs" | "fingerprint", url: string) => {
      const before = urls.get(name);
      urls.set(name, url);
      setFrames((last) => ({ ...last, [name]: url }));
      if (before) setTimeout(() => URL.revokeObjectURL(before), 500);
    };
    let retry: ReturnType<typeof setTimeout> | undefined;
    let rest: ReturnType<typeof setTimeout> | undefined;
    const failed = (error: unknown) => {
      setFrames((last) => ({ ...last, problem: error instanceof Unreachable ? "The server cannot be reached. The picture follows again once it answers; your work is kept." : wordsFor(error) }));
      clearTimeout(retry);
      if (error instanceof Unreachable) retry = setTimeout(() => ask(), RETRY);
    };
    const frame = new Latest<Frame, ImageBitmap>(
      (input, signal) => callImage("/looks/frame", input, signal),
      (bitmap, input) => {
        setFrames((last) => {
          last.frame?.close();
          return { ...last, frame: bitmap, drawn: last.drawn + 1, problem: null };
        });
        // The picture first: the lines of the graph are asked for once its pixels are here, not beside them.
        if (input.quality === "drag") drawLines();
      },
      failed,
    );
    const sketch = new Latest<Look, Sketch>(
      (look, signal) => call("/looks/sketch", { method: "POST", body: look, signal }),
      (result) => setFrames((last) => ({ ...last, sketch: merged(last.sketch, result) })),
      failed,
    );
    const resting = new Latest<Rest, Scopes>(
      async ({ look, picture: shown, before_step, pictures }, signal) => {
        const scopes = await call<Scopes>("/looks/scopes", { method: "POST", body: { look, picture: shown, before_step }, signal });
        const [discs, print] = await Promise.all([
          pictures.length ? objectUrl("/looks/discs", { look, pictures }, signal) : null,
          objectUrl("/looks/fingerprint?size=128", look, signal),
        ]);
        if (discs) replaceUrl("discs", discs);
        replaceUrl("fingerprint", print);
        return scopes;
      },
      (scopes) => setFrames((last) => ({ ...last, scopes })),
      failed,
    );

    let lastLook: Look | null = null;
    /** While one step is dragged only that one is drawn anew; otherwise all of them are. */
    function drawLines() {
      const { look, gesture, selected } = store.get();
      const moving = gesture === null ? undefined : findStep(look, selected);
      sketch.ask(moving ? { ...look, steps: [moving] } : look);
    }
    function ask() {
      const { look, gesture, selected } = store.get();
      const shown = asked.current.picture?.id;
      if (look !== lastLook && (gesture === null || shown === undefined)) drawLines();
      lastLook = look;
      if (shown === undefined) return;
      const seen = gesture === null || !width.current ? null : width.current;
      frame.ask({ look, picture: shown, quality: gesture === null ? "rest" : "drag", width: seen, edited: selected ? stageOf(look, selected) : null });
      clearTimeout(rest);
      rest = setTimeout(atRest, REST);
    }
    function atRest() {
      const { look, selected, gesture } = store.get();
      const { picture: now, tray: all } = asked.current;
      if (!now) return;
      if (gesture !== null) frame.ask({ look, picture: now.id, quality: "rest", width: null, edited: stageOf(look, selected) });
      sketch.ask(look);
      resting.ask({ look, picture: now.id, before_step: stageOf(look, selected), pictures: all.map((one) => one.id) });
    }
    askAgain.current = ask;
    ask();
    const stop = store.subscribe(ask);
    return () => {
      stop();
      clearTimeout(rest);
      clearTimeout(retry);
      for (const channel of [frame, sketch, resting]) channel.close();
      for (const url of urls.values()) URL.revokeObjectURL(url);
    };
  }, [store, width]);

  const trayState = tray.map((one) => `${one.id} ${one.state} ${one.encoding}`).join();
  useEffect(() => {
    asked.current = { picture, tray };
    askAgain.current();
    // The tray is compared by what stands in it, not by the array that a refetch makes anew.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [picture?.id, picture?.state, picture?.encoding, trayState]);

  useEffect(() => {
    if (!picture) return undefined;
    const controller = new AbortController();
    loadImage(`/pictures/${picture.id}/frame.png`, controller.signal).then(
      (bitmap) => setFrames((last) => ({ ...last, original: bitmap, drawn: last.drawn + 1 })),
      (error: unknown) => {
        if (!controller.signal.aborted) setFrames((last) => ({ ...last, problem: wordsFor(error) }));
      },
    );
    return () => controller.abort();
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [picture?.id, picture?.state, picture?.encoding]);

  return frames;
}
