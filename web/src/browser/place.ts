/** Where on the Bench somebody was last, in this browser: the look, how it was looked at, and the step in hand. */
import { useMemo } from "react";
import { forget, recall, remember, useKept } from "./kept";

export interface Place {
  readonly look: number;
  /** As in an address, without the question mark. */
  readonly search: string;
  readonly step: string | null;
}

const nameFor = (person: string) => `place.${person}`;

function read(found: unknown): Place | null {
  const { look, search, step } = (found ?? {}) as Partial<Record<keyof Place, unknown>>;
  if (typeof look !== "number" || typeof search !== "string") return null;
  return { look, search, step: typeof step === "string" ? step : null };
}

export const lastPlace = (person: string): Place | null => read(recall(nameFor(person)));
export const rememberPlace = (person: string, place: Place): void => remember(nameFor(person), place);
/** The look is not there any more. */
export function forgetPlace(person: string, look: number): void {
  if (lastPlace(person)?.look === look) forget(nameFor(person));
}
export const usePlace = (person: string): Place | null =>
  useKept(
    useMemo(() => nameFor(person), [person]),
    read,
  )[0];

/** The address of a place. */
export const placeOf = ({ look, search }: Place): string => `/bench/${String(look)}${search ? `?${search}` : ""}`;
