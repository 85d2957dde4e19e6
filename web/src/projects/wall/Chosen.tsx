import { useQuery } from "@tanstack/react-query";
import { useCallback, useState } from "react";
import { Link } from "react-router";
import styled from "styled-components";
import { pictures as picturesQuery } from "../../api/pictures";
import { trimsOf } from "../../api/projects";
import type { Project, Shot } from "../../api/types";
import { Secondary, WordButton } from "../../kit/Button";
import { NumberBox } from "../../kit/NumberBox";
import { PlainList } from "../../kit/PlainList";
import { TextBox } from "../../kit/TextBox";
import { named } from "../../look/named";
import { WithChooser, type Choosing } from "../chain/PartChooser";
import { ForMany } from "./ForMany";
import { Actions, Block } from "../shot/parts";
import { EncodingOf, RollOf } from "../shot/Source";
import { TrimsPanel } from "../trims/TrimsPanel";
import { useLeftToShots } from "../trims/useLeftToShots";
import { same } from "../trims/useTrims";
import type { Grading } from "./useGrading";

const Column = styled.aside`
  height: 100%;
  overflow-y: auto;
  min-height: 0;
  background: ${(p) => p.theme.tokens.glaze};
  color: ${(p) => p.theme.tokens.ink};
  border-left: 1px solid ${(p) => p.theme.tokens.line};
`;
const Strength = styled.div`
  display: grid;
  grid-template-columns: minmax(0, 1fr) 44px auto;
  align-items: center;
  gap: 6px;
`;

/** The one strength of the topmost looks of these shots; null where they differ. */
export function strengthOf(shots: readonly Shot[]): number | null {
  const found = new Set(shots.flatMap((one) => one.layers.findLast((layer) => layer.role === "look")?.strength ?? []));
  const [only] = found;
  return found.size === 1 && only !== undefined ? only : null;
}

/** The looks on these shots in words, each with how many it lies on. */
function looksOn(shots: readonly Shot[]): [string, number][] {
  const counts = new Map<string, number>();
  for (const shot of shots) {
    const words = shot.layers
      .filter((one) => one.entry !== null && one.enabled)
      .map((one) => named(one.name, one.member));
    const name = words.join(" + ") || "No look";
    counts.set(name, (counts.get(name) ?? 0) + 1);
  }
  return [...counts].sort((a, b) => b[1] - a[1]);
}

interface Props {
  readonly project: Project;
  readonly chosen: readonly Shot[];
  readonly grading: Grading;
}

/** What reaches the eye of the chosen shots, from the light down: what they are in, trims, look, what comes after. */
export function Chosen({ project, chosen, grading }: Props) {
  const { data: pictures = [] } = useQuery(picturesQuery);
  const [scene, setScene] = useState("");
  const [choosing, setChoosing] = useState<Choosing | null>(null);
  const leave = useCallback(() => setChoosing(null), []);
  const ids = chosen.map((one) => one.id);
  const [first] = chosen;
  const left = useLeftToShots(first, true);
  if (!first) return null;
  const trims = chosen.map(trimsOf);
  const [own = []] = trims;
  const isSame = trims.every((one) => same(one, own));
  const shared = strengthOf(chosen);
  const hasLook = chosen.some((one) => one.layers.some((layer) => layer.role === "look"));
  const newer = chosen.filter((one) => one.layers.some((layer) => layer.newer !== null));
  return (
    <WithChooser project={project.id} shot={first} choosing={choosing} onClose={leave}>
      <Column aria-label="What reaches the eye">
        <Block aria-label="Chosen shots">
          <h2>{chosen.length === 1 ? first.code : `${String(chosen.length)} shots`}</h2>
          {chosen.length === 1 && (
            <Link to={`/projects/${String(project.id)}/shots/${String(first.id)}`}>Open this shot</Link>
          )}
        </Block>
        <Block aria-label="Source">
          <h2>Source</h2>
          <EncodingOf project={project.id} shots={chosen} mayWork onDone={grading.encodingSaid} />
          <RollOf key={ids.join()} project={project.id} shots={chosen} mayWork onDone={grading.rollSaid} />
        </Block>
        <Block aria-label="Trims before the look">
          <h2>Trims before the look</h2>
          {isSame ? (
            <TrimsPanel
              key={ids.join()}
              encoding={first.encoding}
              steps={own}
              picture={pictures.find((one) => one.id === first.picture)}
              withExposure
              left={left}
              isKeeping={grading.isTrimming}
              onMove={() => undefined}
              onRest={(steps) => grading.trims(ids, steps, false)}
            />
          ) : (
            <>
              <p>Mixed: each keeps its own until all get those of one.</p>
              <PlainList>
                {chosen
                  .filter((_, index) => (trims[index] ?? []).length > 0)
                  .slice(0, 6)
                  .map((shot) => (
                    <li key={shot.id}>
                      {shot.code}
                      <Actions>
                        <WordButton onPress={() => grading.copy(ids, shot.id, false)}>Give these to all</WordButton>
                        <WordButton onPress={() => grading.copy(ids, shot.id, true)}>Add them to all</WordButton>
                      </Actions>
                    </li>
                  ))}
              </PlainList>
            </>
          )}
        </Block>
        <Block aria-label="Look">
          <h2>Look</h2>
          <PlainList>
            {looksOn(chosen).map(([name, count]) => (
              <li key={name}>
                {name}
                {chosen.length > 1 && <small> on {count}</small>}
              </li>
            ))}
          </PlainList>
          {hasLook && (
            <>
              <Strength>
                <span>Strength{shared === null ? " (mixed)" : ""}</span>
                <NumberBox
                  label={shared === null ? "Strength, percent, mixed" : "Strength, percent"}
                  value={(shared ?? 1) * 100}
                  low={0}
                  high={100}
                  step={1}
                  digits={0}
                  neutral={100}
                  onChange={(value) => grading.strength(ids, value / 100)}
                />
                <span>%</span>
              </Strength>
              <Actions>
                <WordButton onPress={() => grading.off(ids)}>Take off</WordButton>
                {newer.length > 0 && (
                  <WordButton onPress={() => grading.newest(newer.map((one) => one.id))}>
                    Take the newest on {newer.length}
                  </WordButton>
                )}
              </Actions>
            </>
          )}
        </Block>
        <ForMany project={project} chosen={chosen} grading={grading} onChoose={setChoosing} />
        <Block aria-label="In the story">
          <h2>In the story</h2>
          <TextBox label="Move to scene" value={scene} onChange={setScene} maxLength={80} />
          <Actions>
            <Secondary isDisabled={scene.trim() === ""} onPress={() => grading.move(ids, scene)}>
              Move {chosen.length}
            </Secondary>
            <WordButton onPress={() => grading.takeOut(ids)}>Take out of the project</WordButton>
          </Actions>
        </Block>
      </Column>
    </WithChooser>
  );
}
