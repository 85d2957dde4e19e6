import styled from "styled-components";
import { wordsFor } from "../../api/client";
import type { Project, Shot } from "../../api/types";
import { Check } from "../../kit/Check";
import { Notice } from "../../kit/Notice";
import { PlainList } from "../../kit/PlainList";
import type { Choosing } from "../chain/PartChooser";
import { nameOfShared, placesOf, type SharedPlace } from "../chain/parts";
import { PutOnMany } from "../chain/PutOnMany";
import { badgeOf } from "../chain/SharedParts";
import { useSharedDraft } from "../chain/useSharedDraft";
import { Block } from "../shot/parts";
import type { Grading } from "./useGrading";

const Line = styled.li`
  display: grid;
  gap: 2px;
  padding: 4px 0;
`;

interface Props {
  readonly project: Project;
  readonly chosen: readonly Shot[];
  readonly grading: Grading;
  readonly onChoose: (choosing: Choosing) => void;
}

/** What lies on more shots than one and reaches the chosen ones; off for these, or on again. */
export function ForMany({ project, chosen, grading, onChoose }: Props) {
  const draft = useSharedDraft(project, grading.forMany);
  const [first] = chosen;
  if (!first) return null;
  const reaching = new Map<string, SharedPlace>();
  for (const shot of chosen)
    for (const place of Object.values(placesOf(project, shot)))
      if (place && place.layers.length > 0) reaching.set(place.key, place);
  return (
    <Block aria-label="For more shots">
      <h2>For more shots</h2>
      <PlainList>
        {[...reaching.values()].flatMap((place) =>
          place.layers.map((layer) => {
            const reached = chosen.filter((shot) =>
              Object.values(placesOf(project, shot)).some((one) => one?.key === place.key),
            );
            const off = reached.filter((shot) => layer.off_on.includes(shot.id));
            return (
              <Line key={layer.id}>
                <Check
                  isOn={off.length === 0}
                  onChange={(on) =>
                    draft.turn(
                      layer.id,
                      reached.map((one) => one.id),
                      on,
                    )
                  }
                >
                  {nameOfShared(layer)}
                </Check>
                <small>
                  {badgeOf(place)}
                  {off.length > 0 && off.length < reached.length && `, off on ${String(off.length)} of these`}
                </small>
              </Line>
            );
          }),
        )}
      </PlainList>
      {draft.error && <Notice>{wordsFor(draft.error)}</Notice>}
      <PutOnMany places={placesOf(project, first)} draft={draft} onChoose={onChoose} />
    </Block>
  );
}
