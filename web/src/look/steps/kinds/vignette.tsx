import type { StepOf } from "../../../api/types";
import { defineKind } from "../editor";

type Vignette = StepOf<"vignette">;

export default defineKind<Vignette>({
  kind: "vignette",
  title: "Vignette",
  purpose: "darker towards the edges",
  fresh: () => ({ kind: "vignette", amount: 0.3 }),
  drawsOnPicture: true,
});
