import { useQuery } from "@tanstack/react-query";
import { useMemo, useState, useSyncExternalStore } from "react";
import { Link, useParams, useSearchParams } from "react-router";
import styled from "styled-components";
import { wordsFor } from "../../api/client";
import { useLive } from "../../api/order";
import { pictures as picturesQuery } from "../../api/pictures";
import {
  givenOf,
  project as projectQuery,
  shotDetail,
  trimsOf,
  useChangeShot,
  useSetLayers,
  useSetTrims,
  useTakeNewest,
  useUndo,
  type LayerGiven,
} from "../../api/projects";
import type { Project, Shot, Step } from "../../api/types";
import { Secondary, WordButton } from "../../kit/Button";
import { Choice } from "../../kit/Choice";
import { Notice } from "../../kit/Notice";
import { SurroundChoice } from "../../kit/SurroundChoice";
import { PlayBar } from "../../play/PlayBar";
import { Match } from "../checking/Match";
import { Misfit } from "../checking/Misfit";
import { TrimsPanel } from "../trims/TrimsPanel";
import { same } from "../trims/useTrims";
import { Arrows } from "./Arrows";
import { BesideFigure, waysOf, type Beside } from "./Beside";
import { Encodings } from "./Encodings";
import { Done, Notes } from "./Notes";
import { Block } from "./parts";
import { Reference } from "./Reference";
import { ShotScopes } from "./ShotScopes";
import { Source } from "./Source";
import { Stack } from "./Stack";
import { useSoon } from "./useSoon";
import { ShotCanvas, useShotPlayer } from "./View";

const Page = styled.main`
  display: grid;
  grid-template-columns: minmax(0, 1fr) 340px;
  min-height: 0;
  height: 100%;
  background: ${(p) => p.theme.surround.field};
  color: ${(p) => p.theme.surround.ink};
`;
const Left = styled.div`
  display: grid;
  grid-template-rows: auto minmax(0, 1fr) auto;
  min-width: 0;
  min-height: 0;
`;
const Head = styled.header`
  display: flex;
  align-items: center;
  gap: 14px;
  min-width: 0;
  padding: 10px 18px;
  h1 {
    font-size: ${(p) => p.theme.tokens.size.title};
    font-weight: 600;
    overflow: hidden;
    text-overflow: ellipsis;
    white-space: nowrap;
    min-width: 0;
  }
  a {
    color: inherit;
  }
  > span:first-child {
    display: flex;
    align-items: center;
    gap: 4px;
    white-space: nowrap;
  }
  > :last-child {
    margin-left: auto;
  }
`;
const Ways = styled(Choice<Beside>)`
  button {
    color: ${(p) => p.theme.surround.ink};
    white-space: nowrap;
  }
  button[data-selected] {
    background: ${(p) => p.theme.surround.pill};
    color: ${(p) => p.theme.surround.pillInk};
  }
`;
const Stage = styled.div<{ $two: boolean }>`
  display: grid;
  grid-template-columns: ${(p) => (p.$two ? "minmax(0, 1fr) minmax(0, 1fr)" : "minmax(0, 1fr)")};
  gap: 12px;
  padding: 0 18px 14px;
  min-height: 0;
  > figure {
    margin: 0;
    min-height: 0;
    min-width: 0;
    display: grid;
    grid-template-rows: minmax(0, max-content) auto;
    gap: 6px;
    justify-items: center;
    align-content: center;
  }
  img {
    max-width: 100%;
    max-height: 100%;
    min-height: 0;
    object-fit: contain;
  }
  figcaption {
    color: ${(p) => p.theme.surround.soft};
    font-size: ${(p) => p.theme.tokens.size.small};
  }
`;
const Column = styled.div`
  overflow-y: auto;
  min-height: 0;
  background: ${(p) => p.theme.tokens.glaze};
  color: ${(p) => p.theme.tokens.ink};
  border-left: 1px solid ${(p) => p.theme.tokens.line};
`;

/** One shot, as large as there is room, with everything that reaches the eye beside it. */
export function ShotPage() {
  const params = useParams();
  const { data: project, error } = useQuery(projectQuery(Number(params.id)));
  const shot = project?.shots.find((one) => one.id === Number(params.shot));
  useLive();
  if (!project || !shot)
    return (
      <Page>
        <Head>
          {error ? (
            <Notice>{wordsFor(error)}</Notice>
          ) : project ? (
            <Link to={`/projects/${String(project.id)}`}>This shot was taken out. To the project</Link>
          ) : (
            "Opening the shot…"
          )}
        </Head>
      </Page>
    );
  return <Opened key={shot.id} project={project} shot={shot} />;
}

function Opened({ project, shot }: { project: Project; shot: Shot }) {
  const [search, setSearch] = useSearchParams();
  const beside = (search.get("beside") ?? "alone") as Beside;
  // What is looked at while it is not yet kept: nothing of the project is touched meanwhile.
  const [draft, setDraft] = useState<{ layers: LayerGiven[]; isMoving: boolean } | null>(null);
  const layers = draft?.layers ?? null;
  const { player, canvas } = useShotPlayer(project.id, shot, layers, draft?.isMoving ?? false);
  const { data: pictures = [] } = useQuery(picturesQuery);
  const { data: detail } = useQuery(shotDetail(project.id, shot.id));
  const setTrims = useSetTrims(project.id);
  const setLayers = useSetLayers(project.id);
  const newest = useTakeNewest(project.id);
  const undo = useUndo(project.id);
  const change = useChangeShot(project.id);
  const [last, setLast] = useState<number | null>(null);
  const stored = useMemo(() => givenOf(shot), [shot]);
  const trims = useMemo(() => trimsOf(shot), [shot]);
  const at = project.shots.indexOf(shot);
  const [previous, next] = [project.shots[at - 1], project.shots[at + 1]];
  const scene = project.scenes.find((one) => one.id === shot.scene)?.name ?? "";
  const picture = pictures.find((one) => one.id === shot.picture);
  const isPlaying = useIsPlaying(player);
  const told = ({ undo: number }: { undo: number | null }) => {
    if (number !== null) setLast(number);
  };
  const keepSoon = useSoon((some: LayerGiven[]) =>
    setLayers.mutate(
      { shots: [shot.id], layers: some },
      {
        onSuccess: (done) => {
          // What was changed since goes on being looked at.
          setDraft((now) => (now?.layers === some ? null : now));
          told(done);
        },
      },
    ),
  );
  const take = (some: LayerGiven[]) => {
    setDraft({ layers: some, isMoving: false });
    keepSoon(some);
  };
  const withTrims = (steps: readonly Step[]): LayerGiven[] => {
    const others = stored.filter((one) => one.role !== "before" || one.entry !== null);
    return steps.length === 0
      ? others
      : [
          { role: "before", entry: null, version: null, steps: [...steps] as never, strength: 1, enabled: true },
          ...others,
        ];
  };
  const trouble = setTrims.error ?? setLayers.error ?? newest.error ?? undo.error ?? change.error;
  const isKeeping = (draft !== null && !trouble) || setTrims.isPending || setLayers.isPending;
  return (
    <Page>
      <Left>
        <Head>
          <Arrows project={project} previous={previous} next={next} />
          <h1 title={`${scene}, ${shot.code}`}>{shot.code}</h1>
          <span>{scene}</span>
          <Ways
            label="Beside it"
            value={beside}
            options={waysOf(shot)}
            onChange={(way) => setSearch(way === "alone" ? {} : { beside: way }, { replace: true })}
          />
          <SurroundChoice />
        </Head>
        <Stage $two={beside !== "alone"}>
          <figure>
            <ShotCanvas canvas={canvas} label={`${shot.code} through its look`} />
            {beside !== "alone" && (
              <figcaption>
                <bdi>{shot.code}</bdi>
              </figcaption>
            )}
          </figure>
          {beside !== "alone" && (
            <AtFrame player={player}>
              {(frame) => <BesideFigure project={project} shot={shot} beside={beside} frame={frame} />}
            </AtFrame>
          )}
        </Stage>
        {player && shot.moving && shot.first !== null && shot.last !== null && (
          <PlayBar
            player={player}
            first={shot.first}
            last={shot.last}
            rate={shot.moving.rate}
            numbered={shot.moving.first}
            timecode={shot.moving.timecode}
          />
        )}
      </Left>
      <Column>
        {trouble && (
          <Block>
            <Notice>{wordsFor(trouble)}</Notice>
          </Block>
        )}
        {last !== null && project.may_work && (
          <Block>
            <p role="status">
              {isKeeping ? "Keeping it…" : "Kept."}{" "}
              {/* Not before all is kept: what is under way would come back over what was taken back. */}
              <WordButton
                isDisabled={isKeeping || undo.isPending}
                onPress={() => undo.mutate(last, { onSuccess: () => setLast(null) })}
              >
                Take it back
              </WordButton>
            </p>
          </Block>
        )}
        <AtFrame player={player}>
          {(frame) => (
            <ShotScopes
              project={project.id}
              shot={shot}
              layers={layers}
              frame={shot.moving ? frame : null}
              delivery={project.delivery}
              isPlaying={isPlaying}
            />
          )}
        </AtFrame>
        <Source project={project.id} shot={shot} mayWork={project.may_work} onDone={told} />
        <Block aria-label="Trims before the look">
          <h2>Trims before the look</h2>
          {project.may_work ? (
            <TrimsPanel
              encoding={shot.encoding}
              steps={trims}
              picture={picture}
              isKeeping={setTrims.isPending}
              onMove={(steps, isMoving) => setDraft({ layers: withTrims(steps), isMoving })}
              onRest={(steps) =>
                setTrims.mutate(
                  { shots: [shot.id], steps, add: false },
                  {
                    onSuccess: (done) => {
                      setDraft((now) => (now && same(stepsOf(now.layers), steps) ? null : now));
                      told(done);
                    },
                  },
                )
              }
            />
          ) : (
            <p>{trims.length === 0 ? "None." : trims.map((one) => one.kind).join(", ")}</p>
          )}
        </Block>
        <Stack
          shot={shot}
          layers={layers ?? stored}
          mayWork={project.may_work}
          onMove={(some, isMoving) => setDraft({ layers: some, isMoving })}
          onRest={take}
          onNewest={() => newest.mutate([shot.id], { onSuccess: told })}
        />
        <Misfit
          project={project.id}
          shot={shot}
          layers={stored}
          mayWork={project.may_work}
          onTry={(some) => setDraft(some && { layers: some, isMoving: false })}
          onTake={take}
        />
        {project.may_work && (
          <Match
            project={project}
            shot={shot}
            layers={stored}
            onTry={(some) => setDraft(some && { layers: some, isMoving: false })}
            onTake={take}
          />
        )}
        <Encodings junctions={detail?.line ?? []} />
        {project.may_work && <Reference project={project} shot={shot} pictures={pictures} onDone={told} />}
        {project.may_work && shot.moving && (
          <Block aria-label="On the wall">
            <h2>On the wall</h2>
            <AtFrame player={player}>
              {(frame) => (
                <Secondary
                  isDisabled={frame === shot.poster}
                  onPress={() => change.mutate({ shot: shot.id, poster: frame }, { onSuccess: told })}
                >
                  {frame === shot.poster ? "Shown by this frame" : "Show it by this frame"}
                </Secondary>
              )}
            </AtFrame>
          </Block>
        )}
        <AtFrame player={player}>
          {(frame) => (
            <Notes
              project={project.id}
              shot={shot.id}
              frame={shot.moving ? frame : null}
              numbered={shot.moving?.first ?? 0}
              onFrame={(number) => player?.seek(number)}
            />
          )}
        </AtFrame>
        <Done project={project.id} shot={shot.id} />
      </Column>
    </Page>
  );
}

/** The shot's own steps in a stack that is looked at. */
const stepsOf = (layers: readonly LayerGiven[]): readonly Step[] =>
  (layers.find((one) => one.role === "before" && one.entry === null)?.steps ?? []) as unknown as Step[];

const still = () => () => undefined;

function useIsPlaying(player: ReturnType<typeof useShotPlayer>["player"]): boolean {
  return useSyncExternalStore(player?.state.subscribe ?? still, () => player?.state.get().isPlaying ?? false);
}

interface AtFrameProps {
  readonly player: ReturnType<typeof useShotPlayer>["player"];
  readonly children: (frame: number) => React.ReactNode;
}

/** What depends on where the player stands; the rest of the page is not drawn anew for every frame. */
const AtFrame = ({ player, children }: AtFrameProps) => children(useFrame(player));

/** Where the player stands. */
function useFrame(player: ReturnType<typeof useShotPlayer>["player"]): number {
  return useSyncExternalStore(player?.state.subscribe ?? still, () => player?.state.get().frame ?? 0);
}
