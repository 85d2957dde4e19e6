import { useEffect, useRef, useState } from "react";
import { Latest } from "../../api/latest";
import { readTrace } from "../../api/seen";
import type { Look, Picture } from "../../api/types";
import { shownLook } from "../store";
import { useBench, useViewPart } from "../useBench";
import { useReading } from "../frames/useFrames";
import type { Reader } from "../frames/reader";
import { TraceField, type Traced, type TraceKind } from "./TraceField";

interface Ask {
  readonly look: Look;
  readonly picture: number;
  readonly stage: number | null;
}

/** A scope of the picture on the Bench, counted by the engine whenever the look rests. */
export function Trace({ reader, picture, kind }: { reader: Reader; picture: Picture; kind: TraceKind }) {
  const { store } = useBench();
  const rests = useReading(reader, (readings) => readings.rests);
  const stage = useViewPart((view) => view.stage);
  const [counts, setCounts] = useState<Traced | null>(null);
  const channel = useRef<Latest<Ask, Traced> | null>(null);

  useEffect(() => {
    const latest = new Latest<Ask, Traced>(
      async ({ look, picture: id, stage: steps }, signal) => ({
        original: await readTrace({ look, picture: id, kind, steps: 0 }, signal),
        current: await readTrace({ look, picture: id, kind, steps }, signal),
      }),
      setCounts,
      () => undefined,
    );
    channel.current = latest;
    return () => latest.close();
  }, [kind]);
  useEffect(() => {
    channel.current?.ask({ look: shownLook(store.get()), picture: picture.id, stage });
  }, [store, picture.id, picture.state, rests, stage, kind]);
  return <TraceField counts={counts} kind={kind} />;
}
