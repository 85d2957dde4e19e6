/** What the Bench tells a second window of the same person, which shows the same pictures on another screen. */
import type { Look } from "../../api/types";
import type { View } from "../../look/view/view";

export interface Names {
  readonly shown: string;
  readonly against: string;
}

/** What is seen, whole: a window that comes late needs nothing that was said before. */
export interface Seen {
  readonly kind: "seen";
  readonly id: number;
  /** Another one whenever the look is. */
  readonly stamp: string;
  /** The draft, or what is being tried. */
  readonly look: Look;
  readonly selected: string | null;
  /** Something is being dragged: speed goes before exactness. */
  readonly moving: boolean;
  readonly view: Pick<View, "mode" | "wipe" | "held" | "shown" | "against" | "stage" | "zoom" | "middle" | "proof">;
  /** Numbers of the pictures, the chosen one first. */
  readonly pictures: readonly number[];
  readonly names: Names;
}
/** A frame of a picture that plays. */
interface Played {
  readonly kind: "played";
  readonly picture: number;
  readonly bitmap: ImageBitmap;
}
/** asked: what is seen? here: a Bench has been opened, or shows something else, and can be asked. */
interface Call {
  readonly kind: "asked" | "here";
}
export type Message = Seen | Played | Call;

export const openChannel = () => new BroadcastChannel("saucer-second-window");

export function openSecond(): void {
  window.open("/bench/second", "saucer-second", "popup,width=1100,height=700");
}
