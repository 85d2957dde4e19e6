/** What the server computes for the look as it stands, kept up with the store and the view. */
import { useEffect, useState, useSyncExternalStore } from "react";
import type { Picture } from "../../api/types";
import { Painter, type Painted } from "./painter";
import { Reader, type Readings } from "./reader";
import { useBench, type Bench } from "../useBench";

export interface Frames {
  readonly painter: Painter;
  readonly reader: Reader;
}

function follow(frames: Frames, { store, view }: Bench): () => void {
  const { painter, reader } = frames;
  painter.onMoved = () => reader.drawLines();
  painter.onRest = () => reader.atRest();
  let { look } = store.get();
  let last = view.get();
  const stops = [
    store.subscribe(() => {
      const now = store.get();
      // The picture first: while something moves its lines are asked for once its pixels are here, not beside them.
      if (now.look !== look && now.gesture === null) reader.drawLines();
      ({ look } = now);
    }),
    view.subscribe(() => {
      const now = view.get();
      const isRead = (["tolerance", "reference", "readAs"] as const).some((part) => now[part] !== last[part]);
      last = now;
      if (isRead) reader.atRest();
    }),
  ];
  reader.open();
  painter.open();
  reader.drawLines();
  return () => {
    for (const stop of stops) stop();
    painter.close();
    reader.close();
  };
}

/** Made once for an open look; closed with it. */
export function useFrames(): Frames {
  const bench = useBench();
  const [frames] = useState<Frames>(() => ({
    painter: new Painter(bench.id, bench.store, bench.view),
    reader: new Reader(bench.store, bench.view),
  }));
  useEffect(() => follow(frames, bench), [frames, bench]);
  return frames;
}

/** Tells the frames which pictures are in view and in the tray. */
export function useSeen(frames: Frames, seen: readonly Picture[], tray: readonly Picture[]): void {
  const state = [...seen, null, ...tray].map((one) => (one ? `${one.id} ${one.state} ${one.encoding}` : "|")).join();
  useEffect(() => {
    frames.reader.see(seen[0]?.id ?? null, tray);
    frames.painter.see(seen);
    // The pictures by what they are, not by which array holds them.
    // oxlint-disable-next-line react-hooks/exhaustive-deps
  }, [frames, state]);
}

export function usePainted<Part>(painter: Painter, part: (painted: Painted) => Part): Part {
  return useSyncExternalStore(painter.painted.subscribe, () => part(painter.painted.get()));
}

export function useReading<Part>(reader: Reader, part: (readings: Readings) => Part): Part {
  return useSyncExternalStore(reader.readings.subscribe, () => part(reader.readings.get()));
}
