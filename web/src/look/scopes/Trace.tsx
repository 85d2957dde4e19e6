import { useEffect, useRef, useState } from "react";
import { Latest } from "../../api/latest";
import { readTrace, type Seen } from "../../api/seen";
import type { Look, Picture } from "../../api/types";
import { shownLook } from "../store";
import { useBench, useViewPart } from "../useBench";
import { useReading } from "../frames/useFrames";
import type { Reader } from "../frames/reader";
import { seenAs, type Reference } from "../view/view";
import { TraceField, type Traced, type TraceKind } from "./TraceField";

interface Ask {
  readonly look: Look;
  readonly picture: Seen;
  readonly reference: Reference | null;
  readonly stage: number | null;
}

/** What stands behind: the picture as it came, or the one that is pinned. */
function behind<T extends Seen & { readonly look: Look; readonly steps: number }>(own: T, reference: Reference | null) {
  if (!reference) return own;
  const { picture, read_as, look } = reference;
  return { ...own, picture, read_as, ...(look ? { look, steps: null } : {}) };
}

/** A scope of the picture on the Bench, counted by the engine whenever the look rests. */
export function Trace({ reader, picture, kind }: { reader: Reader; picture: Picture; kind: TraceKind }) {
  const { store, view } = useBench();
  const pinned = useViewPart((one) => one.reference);
  const rests = useReading(reader, (readings) => readings.rests);
  const stage = useViewPart((view) => view.stage);
  const [counts, setCounts] = useState<Traced | null>(null);
  const channel = useRef<Latest<Ask, Traced> | null>(null);

  useEffect(() => {
    const latest = new Latest<Ask, Traced>(
      async ({ look, picture: seen, stage: steps, reference }, signal) => ({
        original: await readTrace(behind({ look, ...seen, kind, steps: 0 }, reference), signal),
        current: await readTrace({ look, ...seen, kind, steps }, signal),
      }),
      setCounts,
      () => undefined,
    );
    channel.current = latest;
    return () => latest.close();
  }, [kind]);
  useEffect(() => {
    channel.current?.ask({
      look: shownLook(store.get()),
      picture: seenAs(view.get(), picture.id),
      stage,
      reference: view.get().reference,
    });
  }, [store, view, picture.id, picture.state, rests, stage, kind]);
  return <TraceField counts={counts} kind={kind} behind={pinned ? pinned.name : "the original"} />;
}
