import { useEffect, useMemo, useRef } from "react";
import styled from "styled-components";
import { wordsFor } from "../../api/client";
import { fetchFrames, type LayerGiven, type SharedGiven } from "../../api/projects";
import type { Shot } from "../../api/types";
import { Player } from "../../play/player";
import { usePlayer } from "../../play/usePlayer";

const Canvas = styled.canvas`
  display: block;
  max-width: 100%;
  max-height: 100%;
  min-width: 0;
  min-height: 0;
  object-fit: contain;
`;
const WIDTH = 960;

interface Looked {
  readonly layers: readonly LayerGiven[] | null;
  readonly shared: SharedGiven | null;
  readonly isMoving: boolean;
}

/** Players of shots, whose frames go through whatever layers are looked at. */
export function useShotPlayer(project: number, shot: Shot, looked: Looked) {
  const { layers, shared, isMoving } = looked;
  const canvas = useRef<HTMLCanvasElement>(null);
  const seen = useRef({ layers, shared });
  const { id, moving, first, last, poster } = shot;
  const rate = moving?.rate ?? 24;
  const player = usePlayer(
    [project, id, first, last, rate, moving?.plays].join(),
    () =>
      new Player({
        rate,
        first: first ?? 0,
        last: last ?? 0,
        start: poster ?? 0,
        together: 3,
        fetch: ({ frame, more, isMoving: dragging, isPlaying: playing }, signal) =>
          fetchFrames(
            project,
            id,
            { ...seen.current, frame: first === null ? null : frame, more, width: WIDTH, dragging, playing },
            signal,
          ),
        draw: (bitmap) => {
          const target = canvas.current;
          if (target) {
            if (target.width !== bitmap.width || target.height !== bitmap.height) {
              target.width = bitmap.width;
              target.height = bitmap.height;
            }
            target.getContext("2d")?.drawImage(bitmap, 0, 0);
          }
          bitmap.close();
        },
        words: wordsFor,
      }),
  );
  const key = useMemo(() => JSON.stringify([layers, shared]), [layers, shared]);
  const known = useRef({ key, shows: shot.shows });
  useEffect(() => {
    seen.current = { layers, shared };
    if (known.current.key === key && known.current.shows === shot.shows) return;
    known.current = { key, shows: shot.shows };
    player?.changed(isMoving);
  }, [player, key, layers, shared, isMoving, shot.shows]);
  return { player, canvas };
}

export function ShotCanvas({ canvas, label }: { canvas: React.RefObject<HTMLCanvasElement | null>; label: string }) {
  return <Canvas ref={canvas} role="img" aria-label={label} data-testid="shot-picture" />;
}
