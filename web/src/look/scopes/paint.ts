/** Counts as light on a dark field. */
export interface Counts {
  readonly counts: Uint32Array;
  readonly shape: readonly [number, number, number];
}

type Colour = readonly [number, number, number];

/** How bright a count is, 0..1: by its logarithm, the densest spot full. */
function brightness(count: number, scale: number): number {
  return count === 0 ? 0 : 0.25 + 0.75 * Math.min(1, Math.log1p(count) * scale);
}

/** Planes side by side; the original in grey, the current one in its colour over it, adding light. */
export function paint(canvas: HTMLCanvasElement, original: Counts, current: Counts, colours: readonly Colour[]): void {
  const [planes, rows, columns] = current.shape;
  const width = planes * columns;
  canvas.width = width;
  canvas.height = rows;
  const context = canvas.getContext("2d");
  if (!context) return;
  const image = context.createImageData(width, rows);
  const scales = [original, current].map(
    ({ counts }) => 1 / Math.log1p(counts.reduce((most, count) => Math.max(most, count), 1)),
  );
  for (let plane = 0; plane < planes; plane += 1) {
    const colour = colours[plane] ?? colours[0] ?? [255, 255, 255];
    for (let row = 0; row < rows; row += 1) {
      for (let column = 0; column < columns; column += 1) {
        const at = (plane * rows + row) * columns + column;
        const behind = brightness(original.counts[at] ?? 0, scales[0] ?? 1) * 96;
        const front = brightness(current.counts[at] ?? 0, scales[1] ?? 1);
        const to = (row * width + plane * columns + column) * 4;
        for (let part = 0; part < 3; part += 1) image.data[to + part] = Math.max(behind, front * (colour[part] ?? 0));
        image.data[to + 3] = behind + front > 0 ? 255 : 0;
      }
    }
  }
  context.putImageData(image, 0, 0);
}
