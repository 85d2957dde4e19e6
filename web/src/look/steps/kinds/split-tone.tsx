import type { StepOf } from "../../../api/types";
import { defineKind } from "../editor";

type SplitTone = StepOf<"split-tone">;

export default defineKind<SplitTone>({
  kind: "split-tone",
  title: "Split tone",
  purpose: "tint shadows, midtones and highlights",
  fresh: () => ({ kind: "split-tone" }),
  example: { shadows: { hue: 250, amount: 0.05 }, highlights: { hue: 75, amount: 0.04 } },
});
