/** Everything that can be added to a look: kinds of steps, presets, LUTs of the Shelf, and settings used lately. */
import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { useMemo } from "react";
import { stepKinds } from "../../api/looks";
import { presets as presetsQuery, recents as recentsQuery } from "../../api/presets";
import { firstEntries } from "../../api/shelf";
import type { Preset, Step } from "../../api/types";
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

/** What fits, in sections; names come before what only mentions the words, so that Enter takes what was typed. */
export function arrangeFound(all: readonly Candidate[], search: string): readonly Section[] {
  const found = all.flatMap((candidate) => {
    const how = fit(candidate, search);
    return how === null ? [] : [{ candidate, how }];
  });
  found.sort((a, b) => a.how - b.how);
  const filled = sections
    .map((id) => ({ id, name: id, items: found.filter((one) => one.candidate.section === id) }))
    .filter((one) => one.items.length > 0);
  filled.sort((a, b) => (a.items[0]?.how ?? 2) - (b.items[0]?.how ?? 2));
  return filled.map((one) => ({ ...one, items: one.items.map((item) => item.candidate) }));
}

const titleOfKind = (kind: string, title: string) => editors[kind]?.title ?? title;

const LUTS_LISTED = 40;

/** LUTs are asked for by what is searched; there may be thousands. isSettled: has everything come that this search finds? */
export function useCandidates(search: string): { all: readonly Candidate[]; isSettled: boolean } {
  const { data: kinds = [], isPending: awaitsKinds } = useQuery(stepKinds);
  const { data: presets = [], isPending: awaitsPresets } = useQuery(presetsQuery);
  const {
    data: luts,
    isPending: awaitsLuts,
    isPlaceholderData,
  } = useQuery({
    ...firstEntries({ search, kinds: ["lut"] }, LUTS_LISTED),
    placeholderData: keepPreviousData,
  });
  const { data: recents = [] } = useQuery(recentsQuery);
  const isSettled = !(awaitsKinds || awaitsPresets || awaitsLuts || isPlaceholderData);
  const all = useMemo(() => {
    const titles = new Map(kinds.map((one) => [one.kind, titleOfKind(one.kind, one.title)]));
    const found: Candidate[] = kinds
      .filter((one) => editors[one.kind] && one.kind !== "lut")
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
    for (const one of [...presets].sort((a, b) => Number(b.favourite) - Number(a.favourite))) {
      found.push({
        id: `preset ${one.id}`,
        section: "Presets",
        name: one.name,
        note: [one.favourite ? "favourite" : "", one.category, one.note].filter(Boolean).join(" · "),
        steps: one.steps,
        preset: one,
      });
    }
    for (const one of luts?.entries ?? []) {
      if (!one.lut) continue;
      found.push({
        id: `lut ${one.id}`,
        section: "LUTs",
        name: one.name,
        note: `${one.detail} ${one.category}`.trim(),
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
    for (const one of recents)
      found.push({
        id: `recent ${one.id}`,
        section: "Used lately",
        name: titles.get(one.kind) ?? one.kind,
        note: one.summary,
        steps: [one.step],
      });
    return found;
  }, [kinds, presets, luts, recents]);
  return { all, isSettled };
}
