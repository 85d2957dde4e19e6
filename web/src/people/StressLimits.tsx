import { useQuery } from "@tanstack/react-query";
import { wordsFor } from "../api/client";
import { stressLimits, useSetStressLimits } from "../api/stress";
import { AtMost, Limits } from "../kit/AtMost";
import { WordButton } from "../kit/Button";
import { Notice } from "../kit/Notice";
import { measures } from "../look/measures";

/** How far skin may turn is set for projects as well, and stands above. */
const ELSEWHERE = "skin";
const order = Object.keys(measures);

/** By what looks are tested in this studio. */
export function StressLimits() {
  const { data = [], error } = useQuery(stressLimits);
  const set = useSetStressLimits();
  const rows = data
    .filter((one) => one.what !== ELSEWHERE)
    .sort((a, b) => order.indexOf(a.what) - order.indexOf(b.what));
  const kept = Object.fromEntries(rows.map((one) => [one.what, one.most]));
  const problem = error ?? set.error;
  return (
    <>
      <Limits role="group" aria-label="What is allowed">
        {rows.map(({ what, most, usual, largest }) => {
          const measure = measures[what];
          if (!measure) return null;
          const { name, unit, by, digits } = measure;
          return (
            <AtMost
              key={what}
              words={name}
              unit={unit}
              low={10 ** -digits}
              high={largest * by}
              digits={digits}
              usual={usual * by}
              value={most * by}
              onChange={(typed) => set.mutate({ ...kept, [what]: typed / by })}
            />
          );
        })}
      </Limits>
      {problem && <Notice>{wordsFor(problem)}</Notice>}
      {rows.some((one) => one.most !== one.usual) && (
        <WordButton onPress={() => set.mutate({})}>Back to the usual ones</WordButton>
      )}
    </>
  );
}
