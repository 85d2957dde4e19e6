/** Encodings to choose from: by what they are for, the ones that this person used last first. */
import type { Encoding } from "../api/types";
import { recall, remember } from "../browser/kept";
import type { Option } from "../kit/Picker";

const KEPT = "encodings-used";
const MOST = 4;

const lately = (): readonly string[] => {
  const found = recall(KEPT);
  return Array.isArray(found) ? found.filter((one): one is string => typeof one === "string") : [];
};

/** It was chosen: from now on it stands first. */
export function usedEncoding(id: string): void {
  if (id) remember(KEPT, [id, ...lately().filter((one) => one !== id)].slice(0, MOST));
}

export type Group =
  | "In this project"
  | "Used lately"
  | "The team's own"
  | "Photographs and displays"
  | "HDR"
  | "Light of a scene"
  | "Camera logs";
const ORDER: readonly Group[] = [
  "In this project",
  "Used lately",
  "The team's own",
  "Photographs and displays",
  "HDR",
  "Light of a scene",
  "Camera logs",
];

/** What an encoding is for. */
export function groupOf(one: Pick<Encoding, "own" | "hdr" | "linear" | "referred">): Group {
  if (one.own) return "The team's own";
  if (one.hdr) return "HDR";
  if (one.linear) return "Light of a scene";
  return one.referred === "display" ? "Photographs and displays" : "Camera logs";
}

/**
 * In groups; those of the project at hand and the ones used last stand in groups of their own, and nowhere else.
 *
 * @param here those that the project at hand has already
 */
export function encodingOptions(
  encodings: readonly Encoding[],
  here: readonly string[] = [],
  used: readonly string[] = lately(),
): readonly Option[] {
  const group = (one: Encoding): Group =>
    here.includes(one.id) ? "In this project" : used.includes(one.id) ? "Used lately" : groupOf(one);
  const options = encodings.map((one) => ({
    id: one.id,
    name: one.name,
    also: `${one.id} ${one.primaries}`,
    line: one.line,
    group: group(one),
  }));
  const place = (one: (typeof options)[number]) =>
    ORDER.indexOf(one.group) * 1000 + (one.group === "Used lately" ? used.indexOf(one.id) : 0);
  return options.sort((a, b) => place(a) - place(b));
}
