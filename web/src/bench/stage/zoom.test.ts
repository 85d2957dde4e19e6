import { describe, expect, it } from "vitest";
import { zoomedAt, zoomedBy, zoomName } from "./zoom";

describe("zoom", () => {
  it("goes by steps from fitting in to eight times, and no further", () => {
    expect([zoomedBy(null, -1), zoomedBy(null, 1), zoomedBy(1, 1), zoomedBy(8, 1), zoomedBy(0.5, -1)]).toEqual([
      null,
      0.5,
      2,
      8,
      null,
    ]);
    expect([null, 0.5, 1, 4].map(zoomName)).toEqual(["Fit", "1:2", "1:1", "4:1"]);
  });

  it("keeps in place what is under the pointer", () => {
    const at = { x: 0.3, y: 0.7 };
    const onScreen = (zoom: number, middle: { x: number; y: number }) => [
      (at.x - middle.x) * zoom,
      (at.y - middle.y) * zoom,
    ];
    const first = { zoom: 1, middle: { x: 0.5, y: 0.5 } };
    const next = zoomedAt(first.zoom, first.middle, 1, at);
    const [x, y] = onScreen(next.zoom ?? 0, next.middle);
    expect([x, y].map((one) => one?.toFixed(9))).toEqual(
      onScreen(first.zoom, first.middle).map((one) => one.toFixed(9)),
    );
  });
});
