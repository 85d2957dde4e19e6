import type { ShownPage, ShownThing } from "../api/types";

/** One picture to look at. picture: that an entry is seen on; a shot is one itself. sides: width over height */
export interface Seen {
  readonly thing: ShownThing;
  readonly picture: ShownPage["pictures"][number] | null;
  readonly sides: number;
}

/** The pictures of a thing: a shot has one, an entry as many as are shown. */
export function seenOf(page: Pick<ShownPage, "pictures">, thing: ShownThing): readonly Seen[] {
  if (thing.kind === "shot") return [{ thing, picture: null, sides: thing.sides }];
  return page.pictures.map((picture) => ({ thing, picture, sides: picture.sides }));
}

/** Has it more than one frame? */
export const moves = (thing: ShownThing): thing is ShownThing & { first: number; last: number; poster: number } =>
  typeof thing.first === "number" && typeof thing.last === "number" && thing.last > thing.first;
