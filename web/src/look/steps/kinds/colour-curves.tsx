import { defineKind } from "../editor";
import type { ColourCurves } from "../graph/colourPoints";
import { HueSpark } from "../graph/HueSpark";

export default defineKind<ColourCurves>({
  kind: "colour-curves",
  title: "Colour curves",
  purpose: "shape hue, saturation and lightness over hue, freely",
  fresh: () => ({ kind: "colour-curves" }),
  example: {
    turn: [
      [95, 0],
      [140, 30],
      [185, 0],
    ],
    saturation: [
      [20, 1.3],
      [110, 1],
      [250, 0.4],
    ],
  },
  Spark: HueSpark,
});
