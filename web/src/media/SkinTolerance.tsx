import { useChangeStudio } from "../api/team";
import { Choice } from "../kit/Choice";

/** Degrees of hue; where these lie is common practice. */
const WAYS = [
  ["6", "Little: 6°"],
  ["10", "Some: 10°"],
  ["16", "Much: 16°"],
] as const;

/** How far skin may turn before a shot of a new project is told of as a misfit. */
export function SkinTolerance({ label, degrees }: { label: string; degrees: number }) {
  const change = useChangeStudio();
  const isOther = !WAYS.some(([value]) => value === String(degrees));
  return (
    <>
      <Choice
        label={label}
        value={String(degrees)}
        options={isOther ? [...WAYS, [String(degrees), `${String(degrees)}°`]] : WAYS}
        onChange={(value) => change.mutate({ skin: Number(value) })}
      />
      <p>
        A shot in which it turns further is told of as a misfit, and a look that turns it further breaks. Every project
        may say another.
      </p>
    </>
  );
}
