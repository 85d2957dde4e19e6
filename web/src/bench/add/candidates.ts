/** Everything that can be added to a look: kinds of steps, presets, LUTs of the Shelf, and settings used lately. */
import { useQuery } from "@tanstack/react-query";
import { useMemo } from "react";
import { luts as lutsQuery, presets as presetsQuery, recents as recentsQuery, stepKinds } from "../../api/queries";
import type { Preset, Step } from "../../api/types";
import { editors } from "../steps/editors";

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

/** Every word of the search somewhere in the name, the section or the note. */
export function matches(candidate: Candidate, search: string): boolean {
  const text = `${candidate.name} ${candidate.note} ${candidate.section}`.toLowerCase();
  return search.toLowerCase().split(/\s+/).every((word) => text.includes(word));
}

const titleOfKind = (kind: string, title: string) => editors[kind]?.title ?? title;

export function useCandidates(): readonly Candidate[] {
  const { data: kinds = [] } = useQuery(stepKinds);
  const { data: presets = [] } = useQuery(presetsQuery);
  const { data: luts = [] } = useQuery(lutsQuery);
  const { data: recents = [] } = useQuery(recentsQuery);
  return useMemo(() => {
    const titles = new Map(kinds.map((one) => [one.kind, titleOfKind(one.kind, one.title)]));
    const found: Candidate[] = kinds
      .filter((one) => editors[one.kind] && one.kind !== "lut")
      .map((one) => {
        const editor = editors[one.kind];
        const step = editor?.fresh() ?? ({ kind: one.kind } as Step);
        return { id: `kind ${one.kind}`, section: "Steps", name: titles.get(one.kind) ?? one.kind, note: `${editor?.purpose ?? ""}${one.spatial ? " · finish" : ""}`, steps: [step], ...(editor?.example ? { example: [{ ...step, ...editor.example } as Step] } : {}) };
      });
    for (const one of [...presets].sort((a, b) => Number(b.favourite) - Number(a.favourite))) {
      found.push({ id: `preset ${one.id}`, section: "Presets", name: one.name, note: [one.favourite ? "favourite" : "", one.category, one.note].filter(Boolean).join(" · "), steps: one.steps as readonly Step[], preset: one });
    }
    for (const one of luts) {
      found.push({ id: `lut ${one.id}`, section: "LUTs", name: one.name, note: `made for ${one.expects}, ${one.size}`, steps: [{ kind: "lut", sha256: one.sha256, title: one.name.slice(0, 120), expects: one.expects, gives: one.gives }] });
    }
    for (const one of recents) found.push({ id: `recent ${one.id}`, section: "Used lately", name: titles.get(one.kind) ?? one.kind, note: one.summary, steps: [one.step as Step] });
    return found;
  }, [kinds, presets, luts, recents]);
}
