import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { useSearchParams } from "react-router";
import { board as boardQuery, chosenEntries, useChangeBoard } from "../../api/boards";
import { useLive } from "../../api/order";
import { pictures as picturesQuery } from "../../api/pictures";
import type { Entry, Picture, Verdict } from "../../api/types";

export const MOST = 6;

/** A board as it is shown: one that is kept, or one that only its address holds. */
export interface Shown {
  readonly id: number | null;
  readonly name: string;
  readonly by: string;
  readonly revision: number;
  readonly hidesNames: boolean;
  readonly mayChange: boolean;
  readonly entries: readonly Entry[];
  readonly pictures: readonly Picture[];
  readonly verdicts: readonly Verdict[];
}
export interface Change {
  readonly name?: string;
  readonly entries?: readonly number[];
  readonly pictures?: readonly number[];
  readonly hidesNames?: boolean;
}

const numbers = (address: URLSearchParams, name: string) =>
  address
    .getAll(name)
    .map(Number)
    .filter((one) => one > 0)
    .slice(0, MOST);

/** In an order that tells nothing; the same for the same numbers and seed. */
function shuffled(entries: readonly Entry[], seed: number): readonly Entry[] {
  const weight = (id: number) => Math.abs(Math.sin(id * 12.9898 + seed * 78.233) * 43758.5453) % 1;
  return [...entries].sort((one, other) => weight(one.id) - weight(other.id));
}

/** id: of a kept one; null for the one in the address */
export function useBoard(id: number | null): {
  shown: Shown | null;
  error: unknown;
  change: (next: Change) => void;
} {
  const [address, setAddress] = useSearchParams();
  const { data: all } = useQuery(picturesQuery);
  const { data: kept, error } = useQuery(boardQuery(id));
  useLive();
  const ids = id === null ? numbers(address, "entry") : [];
  const { data: chosen, error: missing } = useQuery({ ...chosenEntries(ids), enabled: id === null });
  const send = useChangeBoard(id ?? 0);
  const [seed, setSeed] = useState(0);
  const find = (wanted: readonly number[]) =>
    wanted.flatMap((one) => all?.find((picture) => picture.id === one) ?? []).slice(0, MOST);

  let shown: Shown | null = null;
  if (kept && all)
    shown = {
      id,
      name: kept.name,
      by: kept.by,
      revision: kept.revision,
      hidesNames: kept.hides_names,
      mayChange: kept.may_change,
      entries: kept.entries,
      pictures: find(kept.pictures),
      verdicts: kept.verdicts,
    };
  else if (id === null && chosen && all)
    shown = {
      id,
      name: "Comparison",
      by: "",
      revision: 0,
      hidesNames: seed > 0,
      mayChange: true,
      entries: seed > 0 ? shuffled(chosen, seed) : chosen,
      pictures: find(numbers(address, "picture")),
      verdicts: [],
    };

  function change(next: Change) {
    if (!shown) return;
    if (id !== null) {
      const { hidesNames, entries, pictures, ...rest } = next;
      send.mutate({
        seen: shown.revision,
        ...rest,
        ...(entries ? { entries: [...entries] } : {}),
        ...(pictures ? { pictures: [...pictures] } : {}),
        ...(hidesNames === undefined ? {} : { hide_names: hidesNames }),
      });
      return;
    }
    if (next.hidesNames !== undefined) setSeed(next.hidesNames ? 1 + Math.random() * 1000 : 0);
    if (!next.entries && !next.pictures) return;
    const fresh = new URLSearchParams();
    for (const one of next.entries ?? ids) fresh.append("entry", String(one));
    for (const one of next.pictures ?? numbers(address, "picture")) fresh.append("picture", String(one));
    setAddress(fresh, { replace: true });
  }

  return { shown, error: error ?? missing ?? send.error, change };
}
