import type { StepOf } from "../../../api/types";
import { defineKind } from "../editor";

type Levels = StepOf<"levels">;

export default defineKind<Levels>({
  kind: "levels",
  title: "Levels",
  purpose: "black, white and gamma, in and out",
  fresh: () => ({ kind: "levels" }),
  example: { master: { input_black: 0.06, input_white: 0.9, gamma: 1.15 } },
});
