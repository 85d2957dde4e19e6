import type { StepOf } from "../../../api/types";
import { HueSpark } from "../graph/HueSpark";
import { defineKind } from "../editor";

type HueBands = StepOf<"hue-bands">;

export const centres = [29, 66, 110, 142, 195, 264, 300, 328] as const;

export default defineKind<HueBands>({
  kind: "hue-bands",
  title: "Hue bands",
  purpose: "turn and shape eight ranges of hue",
  fresh: () => ({ kind: "hue-bands" }),
  example: {
    bands: centres.map((centre) => ({
      centre,
      hue: centre > 90 && centre < 210 ? 25 : 0,
      saturation: centre > 90 && centre < 300 ? 0.5 : 1.25,
      lightness: 0,
    })),
  },
  Spark: HueSpark,
});
