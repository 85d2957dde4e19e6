/** Words about something small that could not be done, where it has no place of its own for them. */
import { UNSTABLE_ToastQueue as Queue } from "react-aria-components";

/** How long they stay where nobody closes them, in milliseconds. */
const STAY = 10_000;

export const passing = new Queue<string>({ maxVisibleToasts: 3 });

export const say = (words: string): void => void passing.add(words, { timeout: STAY });
