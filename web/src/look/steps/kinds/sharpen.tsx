import { useTheme } from "styled-components";
import type { StepOf } from "../../../api/types";
import { defineKind } from "../editor";

type Sharpen = StepOf<"sharpen">;

function Spark({ step }: { step: Sharpen }) {
  const { tokens } = useTheme();
  // An edge, and how far it overshoots.
  const over = Math.min(6, 1 + (step.amount ?? 0) * 3);
  return (
    <path
      d={`M1 18H13Q15 ${18 + over} 16.5 18L17.5 8Q19 ${8 - over} 21 8H33`}
      fill="none"
      stroke={tokens.graph.master}
      strokeWidth={1.6}
    />
  );
}

export default defineKind<Sharpen>({
  kind: "sharpen",
  title: "Sharpen",
  purpose: "more detail along edges",
  fresh: () => ({ kind: "sharpen", amount: 0.6 }),
  Spark,
});
