import { useEffect, useRef, useState } from "react";
import { fetchHistograms, fetchTrace, type LayerGiven, type SharedGiven } from "../../api/projects";
import { Latest } from "../../api/latest";
import type { Scopes, Shot } from "../../api/types";
import { Histogram } from "../../look/scopes/Histogram";
import { Kinds, kinds } from "../../look/scopes/Scopes";
import { TraceField, type Traced } from "../../look/scopes/TraceField";
import type { ScopeKind } from "../../look/view/view";
import { Block } from "./parts";

interface Props {
  readonly project: number;
  readonly shot: Shot;
  readonly layers: readonly LayerGiven[] | null;
  readonly shared: SharedGiven | null;
  readonly frame: number | null;
  readonly delivery: string;
  readonly isPlaying: boolean;
}

interface Ask {
  readonly layers: readonly LayerGiven[] | null;
  readonly shared: SharedGiven | null;
  readonly frame: number | null;
}
type Counted = { kind: "histogram"; scopes: Scopes } | { kind: Exclude<ScopeKind, "histogram">; traced: Traced };

/** Scopes of what is delivered, the shot with nothing on it behind. While a clip plays they rest: counting would take its frames' time. */
export function ShotScopes({ project, shot, layers, shared, frame, delivery, isPlaying }: Props) {
  const [kind, setKind] = useState<ScopeKind>("histogram");
  const [counted, setCounted] = useState<Counted | null>(null);
  const channel = useRef<Latest<Ask, Counted> | null>(null);
  const { id } = shot;
  useEffect(() => {
    const latest = new Latest<Ask, Counted>(
      async (asked, signal) => {
        if (kind === "histogram") return { kind, scopes: await fetchHistograms(project, id, asked, signal) };
        const original = await fetchTrace(project, id, { ...asked, kind, plain: true }, signal);
        return { kind, traced: { original, current: await fetchTrace(project, id, { ...asked, kind }, signal) } };
      },
      setCounted,
      () => undefined,
    );
    channel.current = latest;
    return () => latest.close();
  }, [project, id, kind]);
  useEffect(() => {
    if (!isPlaying) channel.current?.ask({ layers, shared, frame });
  }, [layers, shared, frame, kind, shot.shows, delivery, isPlaying]);
  return (
    <Block aria-label="Scopes">
      <h2>Scopes of what is delivered</h2>
      <Kinds label="Scope" value={kind} options={kinds} onChange={setKind} />
      {kind === "histogram" ? (
        <Histogram scopes={counted?.kind === "histogram" ? counted.scopes : null} />
      ) : (
        <TraceField key={kind} kind={kind} counts={counted?.kind === kind ? counted.traced : null} />
      )}
    </Block>
  );
}
