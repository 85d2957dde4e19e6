import type { StepOf } from "../../../api/types";
import { defineKind } from "../editor";

type Curves = StepOf<"curves">;

export default defineKind<Curves>({
  kind: "curves",
  title: "Curves",
  purpose: "shape tones, each channel and all three",
  fresh: () => ({ kind: "curves" }),
  example: {
    master: [
      [0, 0.02],
      [0.3, 0.2],
      [0.72, 0.82],
      [1, 0.97],
    ],
  },
});
