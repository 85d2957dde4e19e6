/** Hue bands that are turned together: the others go by as much as the one in hand. */
import type { StepOf } from "../../../api/types";

export type HueBand = NonNullable<StepOf<"hue-bands">["bands"]>[number];

const ends = { hue: [-60, 60, 0], saturation: [0, 3, 1], lightness: [-0.3, 0.3, 0] } as const;
type Field = keyof typeof ends;

/** bands: as they stand; index: the one in hand, which becomes `next`; along: indices that go with it. Centres stay where they are. */
export function movedTogether(
  bands: readonly HueBand[],
  index: number,
  along: ReadonlySet<number>,
  next: Partial<HueBand>,
): HueBand[] {
  const own = bands[index];
  return bands.map((band, at) => {
    if (at === index) return { ...band, ...next };
    if (!own || !along.has(at)) return band;
    const moved: Partial<Record<Field, number>> = {};
    for (const field of Object.keys(ends) as Field[]) {
      const to = next[field];
      if (to === undefined) continue;
      const [low, high, neutral] = ends[field];
      const by = to - (own[field] ?? neutral);
      if (by) moved[field] = Math.round(Math.min(high, Math.max(low, (band[field] ?? neutral) + by)) * 1e4) / 1e4;
    }
    return { ...band, ...moved };
  });
}
