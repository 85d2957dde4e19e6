/** On which pictures a look fails, and by which steps. */
import type { Failing } from "../../api/types";

type Failings = ReadonlyMap<number, readonly Failing[]>;
const times = (failings: Failings, id: number) => failings.get(id)?.[0]?.times ?? 0;

/** Those first on which it fails most; the others in their order. */
export function byFailings<T extends { readonly id: number }>(
  pictures: readonly T[],
  failings: Failings,
): readonly T[] {
  return [...pictures].sort((a, b) => times(failings, b.id) - times(failings, a.id));
}

/** On how many pictures each step, by its id, makes the look fail, and what it does on the worst of them. */
export function byStep(failings: Failings): ReadonlyMap<string, { readonly count: number; readonly worst: string }> {
  const found = new Map<string, { count: number; worst: string; times: number }>();
  for (const some of failings.values()) {
    for (const id of new Set(some.map((one) => one.id))) {
      const own = some.find((one) => one.id === id);
      if (!own || !id) continue;
      const before = found.get(id);
      const isWorse = own.times > (before?.times ?? 0);
      found.set(id, {
        count: (before?.count ?? 0) + 1,
        worst: isWorse ? own.words : (before?.worst ?? own.words),
        times: Math.max(own.times, before?.times ?? 0),
      });
    }
  }
  return found;
}
