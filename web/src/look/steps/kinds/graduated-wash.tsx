import { useId } from "react";
import type { StepOf } from "../../../api/types";
import { defineKind } from "../editor";

type GraduatedWash = StepOf<"graduated-wash">;

/** Where it is full and where it has ended, across and down, unless a step says otherwise. */
export const neutral = { start: [0.5, 0], end: [0.5, 0.6] } as const;

function Spark({ step }: { step: GraduatedWash }) {
  const id = useId();
  const [red, green, blue] = step.colour ?? [1, 1, 1];
  const colour = `rgb(${red * 255} ${green * 255} ${blue * 255})`;
  const [start, end] = [step.start ?? neutral.start, step.end ?? neutral.end];
  const stops = (
    <>
      <stop offset={0} stopColor={colour} stopOpacity={Math.max(0.25, step.amount ?? 0)} />
      <stop offset={1} stopColor={colour} stopOpacity={0} />
    </>
  );
  const place = { gradientUnits: "userSpaceOnUse" } as const;
  return (
    <>
      {step.shape === "radial" ? (
        <radialGradient
          id={id}
          {...place}
          cx={start[0] * 34}
          cy={start[1] * 26}
          r={Math.max(1, Math.hypot((end[0] - start[0]) * 34, (end[1] - start[1]) * 26))}
        >
          {stops}
        </radialGradient>
      ) : (
        <linearGradient id={id} {...place} x1={start[0] * 34} y1={start[1] * 26} x2={end[0] * 34} y2={end[1] * 26}>
          {stops}
        </linearGradient>
      )}
      <rect width={34} height={26} rx={3} fill={`url(#${id})`} />
    </>
  );
}

export default defineKind<GraduatedWash>({
  kind: "graduated-wash",
  title: "Graduated wash",
  purpose: "a colour that fades across the picture",
  fresh: () => ({ kind: "graduated-wash", amount: 0.5, colour: [0.35, 0.45, 0.75] }),
  Spark,
  drawsOnPicture: true,
});
