/** What the Shelf calls things. */
import type { Entry, EntryState } from "../api/types";

export const kindNames: Readonly<Record<Entry["kind"], string>> = { look: "Looks", lut: "LUTs", preset: "Presets" };
export const stateNames: Readonly<Record<EntryState, string>> = {
  draft: "Draft",
  proposed: "Proposed",
  published: "Published",
  "sent back": "Sent back",
  retired: "Retired",
};
/** Where an entry stands, where that is more than a draft that all who design see. */
export function standingOf(entry: Entry): string {
  if (entry.state !== "draft" || entry.proposed) return entry.state === "draft" ? "" : stateNames[entry.state];
  if (entry.seen_by === "owner") return entry.own ? "Only you" : "Private";
  return entry.seen_by === "chosen" ? (entry.own ? "Shared with some" : "Shared with you") : "";
}
export const healthNames: Readonly<Record<string, string>> = {
  fine: "Healthy",
  notice: "Something odd",
  bad: "A fault",
};
export const heldNames: Readonly<Record<string, string>> = { holds: "Holds", breaks: "Breaks" };
/** Before its detail: whose it is while it is a draft, and that it breaks where it was tested. more: said where neither is */
export const firstOf = (entry: Entry, more = ""): string =>
  [standingOf(entry) || more, entry.holds === "breaks" && heldNames.breaks].filter(Boolean).join(" · ");
export const passOnNames: Readonly<Record<string, string>> = { yes: "Yes", no: "No", unknown: "Not known" };
