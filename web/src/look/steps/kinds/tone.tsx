import type { StepOf } from "../../../api/types";
import { defineKind } from "../editor";

type Tone = StepOf<"tone">;

export default defineKind<Tone>({
  kind: "tone",
  title: "Tone",
  purpose: "exposure, contrast, toe and shoulder",
  fresh: () => ({ kind: "tone" }),
  example: { exposure: 0.4, contrast: 1.3 },
});
