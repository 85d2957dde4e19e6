import { useQuery } from "@tanstack/react-query";
import { TriangleAlert } from "lucide-react";
import { wordsFor } from "../../api/client";
import { remedies as remediesQuery, type LayerGiven } from "../../api/projects";
import type { Shot, Step } from "../../api/types";
import { Secondary, WordButton } from "../../kit/Button";
import { Notice } from "../../kit/Notice";
import { PlainList, WordList } from "../../kit/PlainList";
import { Actions, Block } from "../shot/parts";

interface Props {
  readonly project: number;
  readonly shot: Shot;
  readonly layers: readonly LayerGiven[];
  readonly mayWork: boolean;
  /** Looked at only. */
  readonly onTry: (layers: LayerGiven[] | null) => void;
  readonly onTake: (layers: LayerGiven[]) => void;
}

const trim = (steps: readonly Step[]): LayerGiven => ({
  role: "before",
  entry: null,
  version: null,
  steps: [...steps] as never,
  strength: 1,
  enabled: true,
});

/** A stack with steps added to the shot's own trims. */
export function withAdded(layers: readonly LayerGiven[], steps: readonly Step[]): LayerGiven[] {
  const at = layers.findIndex((one) => one.role === "before" && (one.entry ?? null) === null);
  const own = layers[at];
  if (!own) return [trim(steps), ...layers];
  const more = trim([...((own.steps ?? []) as unknown as Step[]), ...steps]);
  return layers.map((one, index) => (index === at ? more : one));
}

function withStrength(layers: readonly LayerGiven[], strength: number): LayerGiven[] {
  const top = layers.findLastIndex((one) => one.role === "look");
  return layers.map((one, index) => (index === top ? { ...one, strength } : one));
}

/** In what a shot is a misfit, with what would take it back: seen before it is taken. */
export function Misfit({ project, shot, layers, mayWork, onTry, onTake }: Props) {
  const { data, error, isFetching } = useQuery({
    ...remediesQuery(project, shot.id, shot.shows),
    enabled: shot.misfits.length > 0,
  });
  if (shot.misfits.length === 0) return null;
  return (
    <Block aria-label="Misfit">
      <h2>
        <TriangleAlert size={14} aria-hidden /> Misfit
      </h2>
      <WordList>
        {(data?.misfits ?? shot.misfits).map((one) => (
          <li key={one}>{one}</li>
        ))}
      </WordList>
      {isFetching && <p>Trying what would help…</p>}
      {mayWork && data?.remedies.length === 0 && <p>No exposure and no strength alone would take it back.</p>}
      {mayWork && (
        <PlainList aria-label="Remedies">
          {data?.remedies.map((one) => {
            const words =
              one.kind === "exposure"
                ? `Exposure ${one.value > 0 ? "+" : ""}${String(one.value)} before the look`
                : `Look at ${String(Math.round(one.value * 100))} %`;
            const made =
              one.kind === "exposure"
                ? withAdded(layers, one.steps as unknown as Step[])
                : withStrength(layers, one.value);
            return (
              <li key={one.kind}>
                {words}
                {one.left.length > 0 && <small>; still {one.left.join(", ")}</small>}
                <Actions>
                  <Secondary onPress={() => onTake(made)}>Take it</Secondary>
                  <WordButton onPress={() => onTry(made)}>Look at it</WordButton>
                  <WordButton onPress={() => onTry(null)}>As it is</WordButton>
                </Actions>
              </li>
            );
          })}
        </PlainList>
      )}
      {error && <Notice>{wordsFor(error)}</Notice>}
    </Block>
  );
}
