/** Where all cells of a board look: how near, and at which place of their pictures. */
export interface View {
  /** 1 is the whole picture. */
  readonly zoom: number;
  /** Middle of what is in sight, 0..1 across and down. */
  readonly x: number;
  readonly y: number;
}

export const WHOLE: View = { zoom: 1, x: 0.5, y: 0.5 };
const NEAREST = 8;

const within = (middle: number, zoom: number) => Math.min(1 - 0.5 / zoom, Math.max(0.5 / zoom, middle));

export function held({ zoom, x, y }: View): View {
  const near = Math.min(NEAREST, Math.max(1, zoom));
  return { zoom: near, x: within(x, near), y: within(y, near) };
}

/** Nearer or farther, so that what lies under (x, y) of the cell, 0..1, stays there. */
export function zoomed(view: View, factor: number, at: { x: number; y: number } = { x: 0.5, y: 0.5 }): View {
  const zoom = Math.min(NEAREST, Math.max(1, view.zoom * factor));
  const place = { x: view.x + (at.x - 0.5) / view.zoom, y: view.y + (at.y - 0.5) / view.zoom };
  return held({ zoom, x: place.x - (at.x - 0.5) / zoom, y: place.y - (at.y - 0.5) / zoom });
}

/** By shares of a cell's width and height. */
export const panned = (view: View, dx: number, dy: number): View =>
  held({ ...view, x: view.x - dx / view.zoom, y: view.y - dy / view.zoom });

/** The picture's place in its cell, as a style. */
export const placed = ({ zoom, x, y }: View) =>
  `translate(${((0.5 - x * zoom) * 100).toFixed(3)}%, ${((0.5 - y * zoom) * 100).toFixed(3)}%) scale(${zoom})`;

/** With the one at `from` taken out and put in at `to`. */
export function moved<T>(list: readonly T[], from: number, to: number): T[] {
  const next = [...list];
  const [one] = next.splice(from, 1);
  if (one !== undefined) next.splice(Math.max(0, Math.min(next.length, to)), 0, one);
  return next;
}
