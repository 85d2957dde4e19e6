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
export const healthNames: Readonly<Record<string, string>> = {
  fine: "Healthy",
  notice: "Something odd",
  bad: "A fault",
};
export const passOnNames: Readonly<Record<string, string>> = { yes: "Yes", no: "No", unknown: "Not known" };
