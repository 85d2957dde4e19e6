import { useEffect } from "react";
import { wordsFor } from "../../api/client";
import type { Picture } from "../../api/types";
import { PlayBar } from "../../play/PlayBar";
import { Player } from "../../play/player";
import { usePlayer } from "../../play/usePlayer";
import type { Painter } from "../../look/frames/painter";
import { useBench } from "../../look/useBench";

type Moving = NonNullable<Picture["moving"]>;

/** Plays a test picture that moves, through the look as it is being edited. */
export function ClipBar({ picture, moving, painter }: { picture: number; moving: Moving; painter: Painter }) {
  const { store } = useBench();
  const { count, rate } = moving;
  const player = usePlayer(`${String(picture)} ${String(count)}`, () => {
    const made: Player = new Player({
      rate,
      first: 0,
      last: count - 1,
      start: 0,
      fetch: async ({ frame }, signal) => [await painter.playing(picture, frame, signal)],
      draw: (bitmap) => {
        painter.standAt(picture, made.state.get().frame);
        painter.showFrame(picture, bitmap);
      },
      words: wordsFor,
    });
    return made;
  });
  useEffect(() => {
    let last = store.get();
    return store.subscribe(() => {
      const now = store.get();
      // At rest the painter follows the look by itself, at the frame where it stands.
      if ((now.look !== last.look || now.trial !== last.trial) && player?.state.get().isPlaying)
        player.changed(now.gesture !== null);
      last = now;
    });
  }, [store, player]);
  if (!player) return null;
  return (
    <PlayBar
      player={player}
      first={0}
      last={count - 1}
      rate={rate}
      numbered={moving.first}
      timecode={moving.timecode}
    />
  );
}
