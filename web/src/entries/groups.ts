/** How entries that can be chosen are grouped: by what one is most likely to mean. */
import type { Entry } from "../api/types";
import type { FoundGroup } from "../kit/FindPanel";

/** Each entry once. Is something searched, then all that was found is one group, the best first. */
export function groupsOf(entries: readonly Entry[], isSearch: boolean): readonly FoundGroup<Entry>[] {
  if (isSearch) return entries.length > 0 ? [{ id: "found", name: "Found", items: entries }] : [];
  const starred = entries.filter((one) => one.favourite);
  const own = entries.filter((one) => !one.favourite && one.own);
  const others = entries.filter((one) => !one.favourite && !one.own);
  const all: readonly FoundGroup<Entry>[] = [
    { id: "starred", name: "Starred", items: starred },
    { id: "own", name: "Yours", items: own },
    { id: "others", name: "The team's", items: others },
  ];
  return all.filter((one) => one.items.length > 0);
}
