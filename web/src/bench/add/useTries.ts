/** Discs of one picture through each of many looks, fetched a few at a time. */
import { useEffect, useState } from "react";
import { callImage } from "../../api/client";
import type { Look } from "../../api/types";
import type { Candidate } from "./candidates";

export interface Tile {
  readonly url: string;
  readonly index: number;
  readonly count: number;
}

const AT_ONCE = 12;
const MOST = 72;

export function useTries(candidates: readonly Candidate[], lookOf: (candidate: Candidate) => Look, picture: number | undefined): ReadonlyMap<string, Tile> {
  const [tiles, setTiles] = useState<ReadonlyMap<string, Tile>>(new Map());
  // Held apart from the tiles, so that what is asked for does not depend on what has come.
  const [asked] = useState(() => ({ ids: new Set<string>(), urls: [] as string[] }));

  useEffect(() => () => {
    for (const url of asked.urls) URL.revokeObjectURL(url);
    asked.urls = [];
    asked.ids.clear();
  }, [asked]);

  useEffect(() => {
    if (picture === undefined) return undefined;
    const stop = new AbortController();
    const fetchAll = async () => {
      const wanted = candidates.slice(0, MOST).filter((one) => !asked.ids.has(one.id));
      for (let at = 0; at < wanted.length && !stop.signal.aborted; at += AT_ONCE) {
        const some = wanted.slice(at, at + AT_ONCE);
        const bitmap = await callImage("/looks/tries", { looks: some.map(lookOf), picture }, stop.signal);
        const canvas = new OffscreenCanvas(bitmap.width, bitmap.height);
        canvas.getContext("2d")?.drawImage(bitmap, 0, 0);
        bitmap.close();
        const url = URL.createObjectURL(await canvas.convertToBlob());
        asked.urls.push(url);
        for (const one of some) asked.ids.add(one.id);
        setTiles((known) => new Map([...known, ...some.map((one, index): [string, Tile] => [one.id, { url, index, count: some.length }])]));
      }
    };
    const wait = setTimeout(() => void fetchAll().catch(() => undefined), 60);
    return () => {
      clearTimeout(wait);
      stop.abort();
    };
  }, [candidates, lookOf, picture, asked]);
  return tiles;
}
