import type { StepOf } from "../../../api/types";
import { HueSpark } from "../graph/HueSpark";
import { defineKind } from "../editor";

type IsolateHue = StepOf<"isolate-hue">;

export default defineKind<IsolateHue>({
  kind: "isolate-hue",
  title: "Isolate hue",
  purpose: "one range of hues keeps its colour",
  fresh: () => ({ kind: "isolate-hue" }),
  example: { centre: 60, width: 70, others: 0.15 },
  Spark: HueSpark,
});
