import type { StepOf } from "../../../api/types";
import { defineKind } from "../editor";

type LutStep = StepOf<"lut">;

export default defineKind<LutStep>({
  kind: "lut",
  title: "LUT",
  purpose: "a LUT of the Shelf, at part strength",
  fresh: () => ({ kind: "lut" }),
});
