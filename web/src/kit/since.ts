/** How long ago something was, in words. */
const MINUTE = 60_000;
const HOUR = 60 * MINUTE;
const DAY = 24 * HOUR;

const counted = (count: number, noun: string) => `${String(count)} ${noun}${count === 1 ? "" : "s"} ago`;

/** at, now: moments; what lies further back than a month is said by its date. */
export function since(at: string, now = new Date()): string {
  const then = new Date(at);
  const passed = now.getTime() - then.getTime();
  if (passed < MINUTE) return "just now";
  if (passed < HOUR) return counted(Math.floor(passed / MINUTE), "minute");
  if (passed < DAY) return counted(Math.floor(passed / HOUR), "hour");
  const days = Math.floor(passed / DAY);
  if (days === 1) return "yesterday";
  return days <= 30 ? counted(days, "day") : at.slice(0, 10);
}
