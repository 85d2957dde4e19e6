import type { GuestVerdict } from "../api/types";
import { wordOf } from "../kit/Verdict";

/** How many guests say what: "2 yes, 1 no"; empty where none says anything. */
export function tallyOf(said: readonly Pick<GuestVerdict, "choice">[]): string {
  return (["yes", "maybe", "no"] as const)
    .map((choice) => [said.filter((one) => one.choice === choice).length, wordOf(choice).toLowerCase()] as const)
    .filter(([count]) => count > 0)
    .map(([count, word]) => `${String(count)} ${word}`)
    .join(", ");
}
