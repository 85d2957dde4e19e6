import type { StepOf } from "../../../api/types";
import { Glow } from "../graph/Glow";
import { defineKind } from "../editor";

type Halation = StepOf<"halation">;

function Spark({ step }: { step: Halation }) {
  const [red, green, blue] = step.tint ?? [1, 0.35, 0.1];
  return (
    <Glow
      reach={(step.radius ?? 0.006) / 0.02}
      strength={(step.amount ?? 0) / 3}
      colour={`rgb(${red * 255} ${green * 255} ${blue * 255})`}
    />
  );
}

export default defineKind<Halation>({
  kind: "halation",
  title: "Halation",
  purpose: "a warm fringe round bright edges",
  fresh: () => ({ kind: "halation", amount: 0.8 }),
  Spark,
});
