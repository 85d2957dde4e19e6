import type { StepOf } from "../../../api/types";
import { defineKind } from "../editor";

type ToneWash = StepOf<"tone-wash">;

export default defineKind<ToneWash>({
  kind: "tone-wash",
  title: "Wash over tones",
  purpose: "two to five colours from dark to light, laid over by their tone",
  fresh: () => ({
    kind: "tone-wash",
    mode: "soft-light",
    colours: [
      { at: 0.1, colour: [0.2, 0.3, 0.45] },
      { at: 0.9, colour: [0.95, 0.85, 0.65] },
    ],
  }),
});
