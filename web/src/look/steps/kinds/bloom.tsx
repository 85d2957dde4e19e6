import type { StepOf } from "../../../api/types";
import { Glow } from "../graph/Glow";
import { defineKind } from "../editor";

type Bloom = StepOf<"bloom">;

function Spark({ step }: { step: Bloom }) {
  return <Glow reach={(step.radius ?? 0.02) / 0.05} strength={(step.amount ?? 0) / 2} />;
}

export default defineKind<Bloom>({
  kind: "bloom",
  title: "Bloom",
  purpose: "bright parts shine over their surroundings",
  fresh: () => ({ kind: "bloom", amount: 0.4 }),
  Spark,
});
