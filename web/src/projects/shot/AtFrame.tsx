import { useSyncExternalStore, type ReactNode } from "react";
import type { useShotPlayer } from "./View";

type ShotPlayer = ReturnType<typeof useShotPlayer>["player"];

const still = () => () => undefined;

interface Props {
  readonly player: ShotPlayer;
  readonly children: (frame: number) => ReactNode;
}

/** What depends on where the player stands; the rest of the page is not drawn anew for every frame. */
export const AtFrame = ({ player, children }: Props) => children(useFrame(player));

export function useIsPlaying(player: ShotPlayer): boolean {
  return useSyncExternalStore(player?.state.subscribe ?? still, () => player?.state.get().isPlaying ?? false);
}

/** Where the player stands. */
function useFrame(player: ShotPlayer): number {
  return useSyncExternalStore(player?.state.subscribe ?? still, () => player?.state.get().frame ?? 0);
}
