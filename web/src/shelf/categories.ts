/** Categories are paths, "Harbour/Night"; whoever chooses "Harbour" sees what is in the folders below it too. */
import type { Entry } from "../api/types";

export interface Category {
  readonly path: string;
  readonly name: string;
  readonly depth: number;
  readonly count: number;
}

/** What none of the paths can be: those without a category. */
export const NONE = "/";

export const isIn = (entry: Entry, category: string) =>
  category === "" || (category === NONE ? entry.category === "" : entry.category === category || entry.category.startsWith(`${category}/`));

/** Every category and every folder above one, in the order of a tree, with how many entries are in it or below. */
export function categoriesOf(entries: readonly Entry[]): readonly Category[] {
  const counts = new Map<string, number>();
  for (const { category } of entries) {
    const parts = category.split("/").filter(Boolean);
    for (let depth = 1; depth <= parts.length; depth += 1) {
      const path = parts.slice(0, depth).join("/");
      counts.set(path, (counts.get(path) ?? 0) + 1);
    }
  }
  const parts = (path: string) => path.split("/");
  const order = (a: string, b: string) => {
    const [left, right] = [parts(a), parts(b)];
    const at = left.findIndex((part, index) => part !== right[index]);
    return at < 0 || right[at] === undefined ? left.length - right.length : (left[at] ?? "").localeCompare(right[at], undefined, { numeric: true });
  };
  return [...counts.keys()].sort(order).map((path) => ({ path, name: parts(path).at(-1) ?? path, depth: parts(path).length - 1, count: counts.get(path) ?? 0 }));
}
