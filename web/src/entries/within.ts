/** Where entries are looked for: everywhere, among one's starred ones, or in a folder and what lies below it. */
import type { Wanted } from "../api/shelf";

export const EVERYWHERE = "";
export const STARRED = "*";

/** For what is at hand already. */
export function liesIn(one: { readonly category: string; readonly favourite: boolean }, within: string): boolean {
  if (within === EVERYWHERE) return true;
  if (within === STARRED) return one.favourite;
  return one.category === within || one.category.startsWith(`${within}/`);
}

/** For what the server is asked. */
export function narrowed(within: string): Partial<Wanted> {
  if (within === STARRED) return { favourite: true };
  return within === EVERYWHERE ? {} : { categories: [within] };
}
