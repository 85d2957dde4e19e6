import { useId } from "react";
import { useTheme } from "styled-components";

/** A light with its surroundings, small. `reach` 0..1 of the drawing; more `strength` shows more of it. */
export function Glow({ reach, strength, colour }: { reach: number; strength: number; colour?: string }) {
  const { tokens } = useTheme();
  const id = useId();
  const tint = colour ?? tokens.onPicture;
  return (
    <>
      <rect width={34} height={26} rx={3} fill={tokens.scope.field} />
      <radialGradient id={id}>
        <stop offset={0} stopColor={tint} stopOpacity={Math.min(1, 0.35 + strength)} />
        <stop offset={1} stopColor={tint} stopOpacity={0} />
      </radialGradient>
      <circle cx={17} cy={13} r={4 + 9 * Math.min(1, reach)} fill={`url(#${id})`} />
      <circle cx={17} cy={13} r={1.8} fill={tokens.onPicture} />
    </>
  );
}
