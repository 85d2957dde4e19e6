/** Picking from the picture: the editor of the chosen step waits for a place, the stage brings it. */
import type { Pixel } from "../../api/types";

/** 0..1 across and down the picture. */
export interface Place {
  readonly x: number;
  readonly y: number;
}

export interface Handlers {
  /** What the picture holds at the place, read by the engine before this step. */
  readonly down: (pixel: Pixel, at: Place) => void;
  /** How far the pointer went since, in heights of the picture, up and right positive. */
  readonly move?: ((right: number, up: number) => void) | undefined;
  readonly up?: (() => void) | undefined;
}

/** Who waits for a place in the picture. */
export class Picker {
  private handlers: Handlers | null = null;

  readonly get = (): Handlers | null => this.handlers;

  readonly wait = (handlers: Handlers | null): void => {
    this.handlers = handlers;
  };
}
