/** Device pixels for a pixel of the picture; null fits it in. */
export const zooms: readonly (number | null)[] = [null, 0.5, 1, 2, 4, 8];

export function zoomedBy(zoom: number | null, way: 1 | -1): number | null {
  const at = zooms.indexOf(zoom);
  return zooms[Math.min(zooms.length - 1, Math.max(0, (at < 0 ? 0 : at) + way))] ?? null;
}

export const zoomName = (zoom: number | null) => (zoom === null ? "Fit" : zoom >= 1 ? `${zoom}:1` : `1:${1 / zoom}`);

interface Place {
  readonly x: number;
  readonly y: number;
}

/** In or out by one step so that what is under the pointer stays there. */
export function zoomedAt(
  zoom: number | null,
  middle: Place,
  way: 1 | -1,
  at: Place,
): { zoom: number | null; middle: Place } {
  const next = zoomedBy(zoom, way);
  if (zoom === null || next === null) return { zoom: next, middle: at };
  const toward = (from: number, to: number) => to + (from - to) * (zoom / next);
  return { zoom: next, middle: { x: toward(middle.x, at.x), y: toward(middle.y, at.y) } };
}
