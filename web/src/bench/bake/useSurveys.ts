/** How well every chosen format will do, measured before the bake; one of them is looked at closely. */
import { keepPreviousData, useQueries, useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { fidelity as fidelityQuery, formats as formatsQuery } from "../../api/bakes";
import { wordsFor } from "../../api/client";
import type { Fidelity, Format, FormatChoice, Picture, SizeFidelity } from "../../api/types";
import { measuredChoice, SIZES } from "./choices";
import type { BakeChoices } from "./useBakeChoices";

export interface Survey {
  readonly format: Required<FormatChoice>;
  readonly form: Format | undefined;
  readonly found: Fidelity | undefined;
  readonly problem: string | null;
  /** Grid points a side that its file will have. */
  readonly size: number;
  /** Bytes of its file. */
  readonly about: number | undefined;
}

export interface Surveys {
  readonly all: readonly Survey[];
  readonly watched: Survey;
  readonly watch: (format: string) => void;
  readonly measured: SizeFidelity | undefined;
  readonly sizes: readonly number[];
  /** Some format cannot hold what is baked. */
  readonly cannot: boolean;
}

const NONE: Required<FormatChoice> = { format: "cube", depth: 0, suffix: "" };

export function useSurveys(
  { choices, look, usable }: BakeChoices,
  picture: Picture | undefined,
  isOpen: boolean,
): Surveys {
  const { data: known = [] } = useQuery(formatsQuery);
  const [name, watch] = useState(choices.formats[0]?.format ?? "cube");
  const choice = measuredChoice(choices);
  const sizes = (SIZES as readonly number[]).includes(choices.size)
    ? SIZES
    : [...SIZES, choices.size].sort((a, b) => a - b);
  const asks = choices.formats.map((format) => ({
    look,
    choice,
    format,
    picture: picture?.id ?? null,
    sizes,
    tolerance: choices.tolerance,
  }));
  const answers = useQueries({
    queries: asks.map((ask) => ({
      ...fidelityQuery(ask),
      enabled: isOpen && usable,
      placeholderData: keepPreviousData,
    })),
  });
  const all = choices.formats.map((format, index): Survey => {
    const form = known.find((one) => one.id === format.format);
    const found = answers[index]?.data;
    const size = form?.sizes ? (form.sizes.find((one) => one >= choices.size) ?? choices.size) : choices.size;
    const about = found?.sizes.find((one) => one.size === size)?.about ?? found?.sizes[0]?.about;
    const error = answers[index]?.error ?? null;
    return { format, form, found, size, about, problem: error === null ? null : wordsFor(error) };
  });
  const watched = all.find((one) => one.format.format === name) ??
    all[0] ?? { format: NONE, form: undefined, found: undefined, problem: null, size: choices.size, about: undefined };
  const { found } = watched;
  const measured =
    found?.sizes.find((one) => one.size === watched.size) ?? (found?.sizes.length === 1 ? found.sizes[0] : undefined);
  return { all, watched, watch, measured, sizes, cannot: all.some((one) => one.problem !== null) };
}
