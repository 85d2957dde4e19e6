import type { StepOf } from "../../../api/types";
import { defineKind } from "../editor";

type Cdl = StepOf<"cdl">;

export default defineKind<Cdl>({
  kind: "cdl",
  title: "CDL",
  purpose: "slope, offset, power and saturation",
  fresh: () => ({ kind: "cdl" }),
  example: { slope: [1.1, 1, 0.92], offset: [-0.02, 0, 0.02] },
});
