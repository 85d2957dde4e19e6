/** Files of a delivery by the shots they are of. */
import type { DeliveredFile } from "../../api/projects";

export interface OfShot {
  /** Of its picture among those of the delivery; null where there is none. */
  readonly place: number | null;
  /** Empty for lists of the whole. */
  readonly name: string;
  readonly files: readonly DeliveredFile[];
}

/** In the order of the story, what is of no shot at the end. */
export function byShot(items: readonly DeliveredFile[]): readonly OfShot[] {
  const found = new Map<string, DeliveredFile[]>();
  for (const one of items) {
    const key = one.place === null ? `~${one.shot}` : String(one.place).padStart(6, "0");
    found.set(key, [...(found.get(key) ?? []), one]);
  }
  return [...found]
    .sort(([a], [b]) => (a < b ? -1 : 1))
    .map(([, files]) => ({ place: files[0]?.place ?? null, name: files[0]?.shot ?? "", files }));
}
