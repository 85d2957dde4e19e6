import { useTheme } from "styled-components";
import type { StepOf } from "../../../api/types";
import { defineKind } from "../editor";

type Grain = StepOf<"grain">;

function Spark({ step }: { step: Grain }) {
  const { tokens } = useTheme();
  const side = 1 + Math.min(2, (step.size ?? 0.0018) * 300);
  const cells = Array.from({ length: 60 }, (_, index) => ({
    x: (index * 7.31) % 34,
    y: (index * 11.7 + (index % 5)) % 26,
  }));
  return (
    <g fill={tokens.graph.master} fillOpacity={0.15 + 0.7 * (step.amount ?? 0)}>
      {cells.map(({ x, y }, index) => (
        <rect key={index} x={x} y={y} width={side} height={side} />
      ))}
    </g>
  );
}

export default defineKind<Grain>({
  kind: "grain",
  title: "Grain",
  purpose: "noise like that of film",
  fresh: () => ({ kind: "grain", amount: 0.2 }),
  Spark,
});
