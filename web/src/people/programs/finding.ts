/** Which calls of the API are shown. */
import type { DescribedPath } from "../../api/types";

/** Each word stands in the path, the group or what is said of it; the scope is what a token has to reach. */
export function fits(call: DescribedPath, words: string, scope: string): boolean {
  const text = `${call.method} ${call.path} ${call.group} ${call.words}`.toLowerCase();
  const all = words.toLowerCase().split(/\s+/);
  return all.every((word) => text.includes(word)) && (scope === "" || call.takes === scope);
}

/** What lets a program call it, in words. */
export function takenBy(call: DescribedPath): string {
  return call.takes || (call.is_open ? "anybody" : "in person");
}
