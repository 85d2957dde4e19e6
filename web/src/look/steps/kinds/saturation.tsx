import type { StepOf } from "../../../api/types";
import { defineKind } from "../editor";

type Saturation = StepOf<"saturation">;

export default defineKind<Saturation>({
  kind: "saturation",
  title: "Saturation",
  purpose: "more or less colour, muted ones apart",
  fresh: () => ({ kind: "saturation" }),
  example: { factor: 1.35 },
});
