import { expect, test } from "vitest";
import { since } from "./since";

const now = new Date("2026-11-30T12:00:00Z");

test.each([
  ["2026-11-30T11:59:31Z", "just now"],
  ["2026-11-30T11:59:00Z", "1 minute ago"],
  ["2026-11-30T11:00:01Z", "59 minutes ago"],
  ["2026-11-30T11:00:00Z", "1 hour ago"],
  ["2026-11-29T12:00:01Z", "23 hours ago"],
  ["2026-11-29T12:00:00Z", "yesterday"],
  ["2026-11-28T12:00:00Z", "2 days ago"],
  ["2026-10-31T12:00:00Z", "30 days ago"],
  ["2026-10-30T12:00:00Z", "2026-10-30"],
  ["2026-11-30T12:00:09Z", "just now"],
])("%s is %s", (at, words) => expect(since(at, now)).toBe(words));
