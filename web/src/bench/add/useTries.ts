/** Discs of one picture through each of many looks, fetched a few at a time. */
import { useEffect, useState } from "react";
import { fetchTries } from "../../api/seen";
import type { Look } from "../../api/types";
import { useViewPart } from "../../look/useBench";
import type { Candidate } from "./candidates";

export interface Tile {
  readonly url: string;
  readonly index: number;
  readonly count: number;
}

const AT_ONCE = 12;
const MOST = 72;

/** What has been fetched, for which picture and which way of making looks. */
class Fetched {
  private readonly ids = new Set<string>();
  private urls: string[] = [];
  private of: readonly unknown[] = [];

  /** Another look or picture: all of them are wanted anew, the old ones stand until they come. */
  readonly begin = (...of: readonly unknown[]): void => {
    if (of.some((one, index) => one !== this.of[index])) this.ids.clear();
    this.of = of;
  };

  readonly wanted = (candidates: readonly Candidate[]): Candidate[] =>
    candidates.slice(0, MOST).filter((one) => !this.ids.has(one.id));

  readonly came = (candidates: readonly Candidate[], blob: Blob): string => {
    const url = URL.createObjectURL(blob);
    this.urls.push(url);
    for (const one of candidates) this.ids.add(one.id);
    return url;
  };

  readonly close = (): void => {
    for (const url of this.urls) URL.revokeObjectURL(url);
    this.urls = [];
    this.ids.clear();
  };
}

export function useTries(
  candidates: readonly Candidate[],
  lookOf: (candidate: Candidate) => Look,
  picture: number | undefined,
): ReadonlyMap<string, Tile> {
  const readAs = useViewPart((view) => (picture === undefined ? "" : (view.readAs[picture] ?? "")));
  const [tiles, setTiles] = useState<ReadonlyMap<string, Tile>>(new Map());
  // Held apart from the tiles, so that what is asked for does not depend on what has come.
  const [fetched] = useState(() => new Fetched());
  useEffect(() => fetched.close, [fetched]);

  useEffect(() => {
    if (picture === undefined) return undefined;
    const seen = { picture, read_as: readAs };
    fetched.begin(lookOf, picture, readAs);
    const stop = new AbortController();
    const fetchAll = async () => {
      const wanted = fetched.wanted(candidates);
      for (let at = 0; at < wanted.length && !stop.signal.aborted; at += AT_ONCE) {
        const some = wanted.slice(at, at + AT_ONCE);
        const url = fetched.came(some, await fetchTries(some.map(lookOf), seen, stop.signal));
        setTiles(
          (known) =>
            new Map([
              ...known,
              ...some.map((one, index): [string, Tile] => [one.id, { url, index, count: some.length }]),
            ]),
        );
      }
    };
    const wait = setTimeout(() => void fetchAll().catch(() => undefined), 60);
    return () => {
      clearTimeout(wait);
      stop.abort();
    };
  }, [candidates, lookOf, picture, readAs, fetched]);
  return tiles;
}
