/** Device pixels for a pixel of the picture; null fits it in. */
export const zooms: readonly (number | null)[] = [null, 0.5, 1, 2, 4, 8];

export function zoomedBy(zoom: number | null, way: 1 | -1): number | null {
  const at = zooms.indexOf(zoom);
  return zooms[Math.min(zooms.length - 1, Math.max(0, (at < 0 ? 0 : at) + way))] ?? null;
}

export const zoomName = (zoom: number | null) => (zoom === null ? "Fit" : zoom >= 1 ? `${zoom}:1` : `1:${1 / zoom}`);
