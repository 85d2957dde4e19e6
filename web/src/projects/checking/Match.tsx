import { wordsFor } from "../../api/client";
import { useMatch, type LayerGiven } from "../../api/projects";
import type { Project, Shot, Step } from "../../api/types";
import { Secondary, WordButton } from "../../kit/Button";
import { Notice } from "../../kit/Notice";
import { Actions, Block } from "../shot/parts";

interface Props {
  readonly project: Project;
  readonly shot: Shot;
  readonly layers: readonly LayerGiven[];
  readonly onTry: (layers: LayerGiven[] | null) => void;
  readonly onTake: (layers: LayerGiven[]) => void;
}

const percent = (share: number) => `${String(Math.round(share * 100))} %`;

/** Exposure and white that bring a shot to a neighbour or to its reference: proposed with figures, seen, and only then taken. */
export function Match({ project, shot, layers, onTry, onTake }: Props) {
  const match = useMatch(project.id, shot.id);
  const at = project.shots.indexOf(shot);
  const [previous, next] = [project.shots[at - 1], project.shots[at + 1]];
  const found = match.data;
  const made: LayerGiven[] = found
    ? [
        { role: "before", entry: null, version: null, steps: found.steps, strength: 1, enabled: true },
        ...layers.filter((one) => one.role !== "before" || (one.entry ?? null) !== null),
      ]
    : [];
  const steps = (found?.steps ?? []) as unknown as Step[];
  return (
    <Block aria-label="Match">
      <h2>Match</h2>
      <Actions>
        {previous && (
          <WordButton onPress={() => match.mutate({ shot: previous.id, picture: null })}>To {previous.code}</WordButton>
        )}
        {next && <WordButton onPress={() => match.mutate({ shot: next.id, picture: null })}>To {next.code}</WordButton>}
        {shot.reference !== null && (
          <WordButton onPress={() => match.mutate({ shot: null, picture: shot.reference })}>
            To the reference
          </WordButton>
        )}
      </Actions>
      {match.isPending && <p>Measuring…</p>}
      {found && (
        <>
          <p role="status">
            Exposure {found.exposure > 0 ? "+" : ""}
            {found.exposure} stops (to be trusted by {percent(found.exposure_confidence)}), white{" "}
            {found.warm > 0 ? "+" : ""}
            {found.warm} mired, tint {found.tint} (by {percent(found.white_confidence)}): {found.words}.
          </p>
          {steps.length === 0 ? (
            <p>Nothing would change.</p>
          ) : (
            <Actions>
              <Secondary
                onPress={() => {
                  onTake(made);
                  match.reset();
                }}
              >
                Take it, in place of its trims
              </Secondary>
              <WordButton onPress={() => onTry(made)}>Look at it</WordButton>
              <WordButton
                onPress={() => {
                  onTry(null);
                  match.reset();
                }}
              >
                Leave it
              </WordButton>
            </Actions>
          )}
        </>
      )}
      {match.error && <Notice>{wordsFor(match.error)}</Notice>}
    </Block>
  );
}
