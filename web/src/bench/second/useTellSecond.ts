/** Keeps a second window at what is seen here. */
import { useEffect } from "react";
import type { Picture } from "../../api/types";
import type { Painter } from "../../look/frames/painter";
import { shownLook } from "../../look/store";
import { useBench } from "../../look/useBench";
import { openChannel, type Message, type Names, type Seen } from "./channel";

export function useTellSecond(painter: Painter, pictures: readonly Picture[], names: Names): void {
  const { store, view, id } = useBench();
  const ids = pictures.map((one) => one.id).join();
  const { shown, against } = names;
  useEffect(() => {
    const channel = openChannel();
    let waiting = 0;
    // Nobody is told before somebody has asked: most work without a second window.
    let isFollowed = false;
    const tab = crypto.randomUUID();
    let [last, count] = [shownLook(store.get()), 0];
    const seen = (): Seen => {
      const state = store.get();
      const look = shownLook(state);
      if (look !== last) [last, count] = [look, count + 1];
      const { mode, wipe, held, stage, zoom, middle, proof, ...now } = view.get();
      return {
        kind: "seen",
        id,
        stamp: `${tab} ${String(count)}`,
        look,
        selected: state.selected,
        moving: state.gesture !== null,
        view: { mode, wipe, held, stage, zoom, middle, proof, shown: now.shown, against: now.against },
        pictures: ids === "" ? [] : ids.split(",").map(Number),
        names: { shown, against },
      };
    };
    const tell = () => {
      waiting = 0;
      channel.postMessage(seen());
    };
    // Of several windows with a Bench, the one that is worked in is followed.
    const changed = () => {
      if (isFollowed && waiting === 0 && document.visibilityState === "visible") waiting = requestAnimationFrame(tell);
    };
    channel.onmessage = ({ data }: MessageEvent<Message>) => {
      if (data.kind !== "asked") return;
      isFollowed = true;
      changed();
    };
    const played = (picture: number, bitmap: ImageBitmap) => {
      if (isFollowed) channel.postMessage({ kind: "played", picture, bitmap } satisfies Message);
    };
    const stops = [painter.watchPlaying(played), store.subscribe(changed), view.subscribe(changed)];
    window.addEventListener("focus", changed);
    channel.postMessage({ kind: "here" } satisfies Message);
    return () => {
      for (const stop of stops) stop();
      window.removeEventListener("focus", changed);
      cancelAnimationFrame(waiting);
      channel.close();
    };
  }, [painter, store, view, id, ids, shown, against]);
}
