/** A shot's own layers while they are moved and changed: keys come faster than what they change is drawn, and each goes on from the last. */
import { useEffect, useMemo, useRef, useState } from "react";
import type { LayerGiven } from "../../api/projects";
import type { Moved } from "./parts";

export interface InHand {
  readonly layers: () => readonly LayerGiven[];
  /** They are these from now on. */
  readonly keep: (layers: LayerGiven[]) => LayerGiven[];
  /** A part came to stand elsewhere; the keys stay with it, in whichever part of the list it is drawn. */
  readonly moved: (key: string, found: Moved) => LayerGiven[];
  readonly isMoved: (key: string) => boolean;
  /** Where a part stands by now; at: where it was drawn */
  readonly placeOf: (key: string, at: number) => number;
}

export function useInHand(layers: readonly LayerGiven[]): InHand {
  const latest = useRef(layers);
  const places = useRef<ReadonlyMap<string, number>>(new Map());
  const [last, setLast] = useState<string | null>(null);
  useEffect(() => {
    latest.current = layers;
    places.current = new Map();
  }, [layers]);
  return useMemo(() => {
    const keep = (next: LayerGiven[]) => {
      latest.current = next;
      return next;
    };
    return {
      layers: () => latest.current,
      keep,
      moved: (key, found) => {
        places.current = new Map([[key, found.at]]);
        setLast(key);
        return keep(found.layers);
      },
      isMoved: (key) => key === last,
      placeOf: (key, at) => places.current.get(key) ?? at,
    };
  }, [last]);
}
