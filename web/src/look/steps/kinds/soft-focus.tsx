import type { StepOf } from "../../../api/types";
import { Glow } from "../graph/Glow";
import { defineKind } from "../editor";

type SoftFocus = StepOf<"soft-focus">;

function Spark({ step }: { step: SoftFocus }) {
  return <Glow reach={(step.radius ?? 0.01) / 0.03} strength={(step.amount ?? 0) / 2} />;
}

export default defineKind<SoftFocus>({
  kind: "soft-focus",
  title: "Soft focus",
  purpose: "a soft picture over the sharp one",
  fresh: () => ({ kind: "soft-focus", amount: 0.3 }),
  Spark,
});
