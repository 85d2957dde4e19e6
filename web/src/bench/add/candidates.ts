/** Everything that can be added to a look: kinds of steps, presets, LUTs of the Shelf, and settings used lately. */
import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { useMemo } from "react";
import { stepKinds } from "../../api/looks";
import { EVERYWHERE, liesIn, narrowed } from "../../entries/within";
import { presets as presetsQuery, recents as recentsQuery } from "../../api/presets";
import { firstEntries } from "../../api/shelf";
import type { Kind, Preset, Step } from "../../api/types";
import { editors } from "../../look/steps/editors";

export interface Candidate {
  readonly id: string;
  readonly section: "Steps" | "Presets" | "LUTs" | "Used lately";
  readonly name: string;
  readonly note: string;
  /** What is put into the look. */
  readonly steps: readonly Step[];
  /** What its disc and the picture show, where it begins at neutral: an example of what it can do. */
  readonly example?: readonly Step[];
  readonly preset?: Preset;
  /** What it is on the Shelf, where it is there. */
  readonly entry?: { readonly kind: Kind; readonly id: number; readonly name: string; readonly favourite: boolean };
}

export const sections: readonly Candidate["section"][] = ["Steps", "Presets", "LUTs", "Used lately"];

/** How well the search fits: 0 the name begins with it, 1 every word of it stands in the name, 2 somewhere in the note or section; null not at all. */
export function fit(candidate: Candidate, search: string): 0 | 1 | 2 | null {
  const asked = search.toLowerCase().trim();
  const name = candidate.name.toLowerCase();
  if (name.startsWith(asked)) return 0;
  const words = asked.split(/\s+/);
  if (words.every((word) => name.includes(word))) return 1;
  const text = `${name} ${candidate.note} ${candidate.section}`.toLowerCase();
  return words.every((word) => text.includes(word)) ? 2 : null;
}

export interface Section {
  readonly id: Candidate["section"];
  readonly name: string;
  readonly items: readonly Candidate[];
}

/** Kinds of steps in the order in which one works: a base, its shape, hues, tints, washes, LUTs, conversions, the finish. */
const WORK = [
  "white-balance",
  "tone",
  "levels",
  "cdl",
  "curves",
  "channel-mix",
  "saturation",
  "hue-bands",
  "colour-curves",
  "isolate-hue",
  "split-tone",
  "wash",
  "convert",
  "limit",
] as const;
const placeOf = (kind: string) => {
  const at = (WORK as readonly string[]).indexOf(kind);
  return at < 0 ? WORK.length : at;
};

/** In the order of work, the one used last before all others; what is not named in it stays as it came, at the end. */
export function inOrderOfWork<T extends { readonly kind: string }>(kinds: readonly T[], last: string | undefined): T[] {
  const weight = (one: T) => (one.kind === last ? -1 : placeOf(one.kind));
  return [...kinds].sort((a, b) => weight(a) - weight(b));
}

/**
 * What fits, in sections; names come before what only mentions the words, so that Enter takes what was typed.
 *
 * @param first the section that stands first where nothing is searched
 */
export function arrangeFound(
  all: readonly Candidate[],
  search: string,
  first: Candidate["section"] = "Steps",
): readonly Section[] {
  const found = all.flatMap((candidate) => {
    const how = fit(candidate, search);
    return how === null ? [] : [{ candidate, how }];
  });
  found.sort((a, b) => a.how - b.how);
  const filled = sections
    .map((id) => ({ id, name: id, items: found.filter((one) => one.candidate.section === id) }))
    .filter((one) => one.items.length > 0);
  filled.sort(
    (a, b) => (a.items[0]?.how ?? 2) - (b.items[0]?.how ?? 2) || Number(b.id === first) - Number(a.id === first),
  );
  return filled.map((one) => ({ ...one, items: one.items.map((item) => item.candidate) }));
}

const titleOfKind = (kind: string, title: string) => editors[kind]?.title ?? title;

const LUTS_LISTED = 40;

/**
 * LUTs are asked for by what is searched; there may be thousands. Kinds of steps and what was used lately lie in no folder.
 *
 * @returns isSettled: has everything come that this search finds?
 */
export function useCandidates(
  search: string,
  within: string = EVERYWHERE,
): { all: readonly Candidate[]; isSettled: boolean } {
  const { data: kinds = [], isPending: awaitsKinds } = useQuery(stepKinds);
  const { data: presets = [], isPending: awaitsPresets } = useQuery(presetsQuery);
  const {
    data: luts,
    isPending: awaitsLuts,
    isPlaceholderData,
  } = useQuery({
    ...firstEntries({ search, kinds: ["lut"], order: "mine", ...narrowed(within) }, LUTS_LISTED),
    placeholderData: keepPreviousData,
  });
  const { data: recents = [] } = useQuery(recentsQuery);
  const isSettled = !(awaitsKinds || awaitsPresets || awaitsLuts || isPlaceholderData);
  const all = useMemo(() => {
    const titles = new Map(kinds.map((one) => [one.kind, titleOfKind(one.kind, one.title)]));
    const isAnywhere = within === EVERYWHERE;
    const found: Candidate[] = inOrderOfWork(kinds, recents[0]?.kind)
      .filter((one) => isAnywhere && editors[one.kind] && one.kind !== "lut")
      .map((one) => {
        const editor = editors[one.kind];
        const step = editor?.fresh() ?? ({ kind: one.kind } as Step);
        return {
          id: `kind ${one.kind}`,
          section: "Steps",
          name: titles.get(one.kind) ?? one.kind,
          note: `${editor?.purpose ?? ""}${one.spatial ? " · finish" : ""}`,
          steps: [step],
          ...(editor?.example ? { example: [{ ...step, ...editor.example } as Step] } : {}),
        };
      });
    for (const one of presets
      .filter((each) => liesIn(each, within))
      .sort((a, b) => Number(b.favourite) - Number(a.favourite))) {
      found.push({
        id: `preset ${one.id}`,
        section: "Presets",
        name: one.name,
        note: [one.favourite ? "starred" : "", one.category, one.note].filter(Boolean).join(" · "),
        steps: one.steps,
        preset: one,
        entry: { kind: "preset", id: one.id, name: one.name, favourite: one.favourite },
      });
    }
    for (const one of luts?.entries ?? []) {
      if (!one.lut) continue;
      found.push({
        id: `lut ${one.id}`,
        section: "LUTs",
        name: one.name,
        note: [one.favourite ? "starred" : "", one.detail, one.category].filter(Boolean).join(" · "),
        entry: one,
        steps: [
          {
            kind: "lut",
            sha256: one.lut.sha256,
            title: one.name.slice(0, 120),
            expects: one.lut.expects,
            gives: one.lut.gives,
          },
        ],
      });
    }
    for (const one of isAnywhere ? recents : [])
      found.push({
        id: `recent ${one.id}`,
        section: "Used lately",
        name: titles.get(one.kind) ?? one.kind,
        note: one.summary,
        steps: [one.step],
      });
    return found;
  }, [kinds, presets, luts, recents, within]);
  return { all, isSettled };
}
