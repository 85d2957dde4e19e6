/** What the sides of a comparison are called. */
import { useQuery } from "@tanstack/react-query";
import { firstEntries } from "../../api/shelf";
import { findStep } from "../../look/arrange";
import { titleOf } from "../../look/titles";
import { variantsOf } from "../../look/variants";
import { useBenchPart, useSaving, useViewPart } from "../../look/useBench";
import type { Source } from "../../look/view/view";

export interface SideChoice {
  readonly id: Source;
  readonly name: string;
  readonly note: string;
}

export function useSides(): { choices: readonly SideChoice[]; nameOf: (source: Source) => string } {
  const { entry } = useSaving();
  const { data: looks } = useQuery(firstEntries({ kinds: ["look"] }));
  const step = useBenchPart((state) => {
    const found = findStep(state.look, state.selected);
    return found ? titleOf(found) : null;
  });
  const reference = useViewPart((view) => view.reference);
  const variants = useBenchPart((state) => variantsOf(state.look, state.selected).length);
  const choices: SideChoice[] = [
    { id: "draft", name: "draft", note: "as it stands" },
    { id: "original", name: "original", note: "the picture without the look" },
    { id: "sampled", name: "sampled", note: "the draft through a lattice of 33, as a LUT holds it" },
    { id: "without", name: step ? `without ${step}` : "without the step", note: "the draft, the chosen step left out" },
    ...(reference ? [{ id: "reference", name: "pinned", note: reference.name } as const] : []),
    ...(variants > 0
      ? [{ id: "variant", name: "other variant", note: "the draft with the step's next variant in its place" } as const]
      : []),
    ...entry.versions.map((one) => ({
      id: `version-${one.number}` as const,
      name: `version ${one.number}`,
      note: one.note || "no note",
    })),
    ...(looks?.entries ?? [])
      .filter((one) => one.id !== entry.id)
      .map((one) => ({ id: `look-${one.id}` as const, name: one.name, note: "another look's draft" })),
  ];
  return { choices, nameOf: (source) => choices.find((one) => one.id === source)?.name ?? source.replace("-", " ") };
}
