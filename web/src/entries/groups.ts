/** How entries that can be chosen are grouped: by what one is most likely to mean. */
import type { Entry } from "../api/types";

export interface Group {
  readonly id: "starred" | "own" | "others" | "found";
  readonly name: string;
  readonly entries: readonly Entry[];
}

/** Each entry once. Is something searched, then all that was found is one group, the best first. */
export function groupsOf(entries: readonly Entry[], isSearch: boolean): readonly Group[] {
  if (isSearch) return entries.length > 0 ? [{ id: "found", name: "Found", entries }] : [];
  const starred = entries.filter((one) => one.favourite);
  const own = entries.filter((one) => !one.favourite && one.own);
  const others = entries.filter((one) => !one.favourite && !one.own);
  const all: readonly Group[] = [
    { id: "starred", name: "Starred", entries: starred },
    { id: "own", name: "Yours", entries: own },
    { id: "others", name: "The team's", entries: others },
  ];
  return all.filter((one) => one.entries.length > 0);
}
