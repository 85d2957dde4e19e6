import { useQuery } from "@tanstack/react-query";
import { ChevronLeft, ChevronRight } from "lucide-react";
import { useCallback, useEffect, useMemo, useRef, useState, useSyncExternalStore } from "react";
import { Link, useNavigate, useParams, useSearchParams } from "react-router";
import styled from "styled-components";
import { wordsFor } from "../../api/client";
import { encodings as encodingsQuery } from "../../api/encodings";
import { useLive } from "../../api/order";
import { pictures as picturesQuery } from "../../api/pictures";
import {
  givenOf,
  previewOf,
  project as projectQuery,
  shotDetail,
  trimsOf,
  useChangeShot,
  useChangeShots,
  useSetLayers,
  useSetTrims,
  useTakeNewest,
  useUndoGrade,
  type LayerGiven,
} from "../../api/projects";
import type { Project, Shot, Step } from "../../api/types";
import { Secondary, WordButton } from "../../kit/Button";
import { Choice } from "../../kit/Choice";
import { Notice } from "../../kit/Notice";
import { Picker } from "../../kit/Picker";
import { SurroundChoice } from "../../kit/SurroundChoice";
import { PlayBar } from "../../play/PlayBar";
import { Match } from "../checking/Match";
import { Misfit } from "../checking/Misfit";
import { TrimsPanel } from "../trims/TrimsPanel";
import { same } from "../trims/useTrims";
import { Done, Notes } from "./Notes";
import { Block } from "./parts";
import { Source } from "./Source";
import { Stack } from "./Stack";
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
const Junctions = styled.ol`
  list-style: none;
  margin: 0;
  padding: 0;
  display: grid;
  gap: 2px;
  li {
    display: flex;
    justify-content: space-between;
    gap: 10px;
  }
  li + li {
    border-top: 1px solid ${(p) => p.theme.tokens.line};
    padding-top: 2px;
  }
`;
type Beside = "alone" | "plain" | "before" | "after" | "reference" | "newest";

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
  const undo = useUndoGrade(project.id);
  const change = useChangeShot(project.id);
  const [last, setLast] = useState<number | null>(null);
  const stored = useMemo(() => givenOf(shot), [shot]);
  const trims = useMemo(() => trimsOf(shot), [shot]);
  const at = project.shots.indexOf(shot);
  const [previous, next] = [project.shots[at - 1], project.shots[at + 1]];
  const scene = project.scenes.find((one) => one.id === shot.scene)?.name ?? "";
  const picture = pictures.find((one) => one.id === shot.picture);
  const frame = useFrame(player);
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
  const other = besideOf(project, shot, beside, frame);
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
            options={[
              ["alone", "Alone"],
              ["plain", "Without"],
              ["before", "Before it"],
              ["after", "After it"],
              ["reference", "Reference"],
              ...(shot.layers.some((one) => one.newer !== null) ? ([["newest", "Newer version"]] as const) : []),
            ]}
            onChange={(way) => setSearch(way === "alone" ? {} : { beside: way }, { replace: true })}
          />
          <SurroundChoice />
        </Head>
        <Stage $two={beside !== "alone"}>
          <figure>
            <ShotCanvas canvas={canvas} label={`${shot.code} through its look`} />
            {beside !== "alone" && <figcaption>{shot.code}</figcaption>}
          </figure>
          {beside !== "alone" && (
            <figure>
              {other ? <img src={other.source} alt={other.name} /> : <p>{nothingBeside(beside)}</p>}
              {other && <figcaption>{other.name}</figcaption>}
            </figure>
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
              Kept.{" "}
              <WordButton onPress={() => undo.mutate(last, { onSuccess: () => setLast(null) })}>
                Take it back
              </WordButton>
            </p>
          </Block>
        )}
        <Source project={project.id} shot={shot} mayWork={project.may_work} />
        <Block aria-label="Trims before the look">
          <h2>Trims before the look</h2>
          {project.may_work ? (
            <TrimsPanel
              encoding={shot.encoding}
              steps={trims}
              picture={picture}
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
        <Block aria-label="Encodings">
          <h2>Encodings on the way</h2>
          <Line junctions={detail?.line ?? []} />
        </Block>
        {project.may_work && (
          <ReferenceOf project={project} shot={shot} pictures={pictures.map(({ id, name }) => ({ id, name }))} />
        )}
        {project.may_work && shot.moving && (
          <Block aria-label="On the wall">
            <h2>On the wall</h2>
            <Secondary
              isDisabled={frame === shot.poster}
              onPress={() => change.mutate({ shot: shot.id, poster: frame })}
            >
              {frame === shot.poster ? "Shown by this frame" : "Show it by this frame"}
            </Secondary>
          </Block>
        )}
        <Notes
          project={project.id}
          shot={shot.id}
          frame={shot.moving ? frame : null}
          numbered={shot.moving?.first ?? 0}
          onFrame={(number) => player?.seek(number)}
        />
        <Done project={project.id} shot={shot.id} />
      </Column>
    </Page>
  );
}

const KEPT_AFTER = 300;

/** Does it once nothing more comes for a moment; at once when the page is left. */
function useSoon(run: (layers: LayerGiven[]) => void): (layers: LayerGiven[]) => void {
  const waiting = useRef<LayerGiven[] | null>(null);
  const timer = useRef<ReturnType<typeof setTimeout>>(undefined);
  const current = useRef(run);
  useEffect(() => {
    current.current = run;
  });
  const flush = useCallback(() => {
    clearTimeout(timer.current);
    if (waiting.current) current.current(waiting.current);
    waiting.current = null;
  }, []);
  useEffect(() => flush, [flush]);
  return useCallback(
    (layers) => {
      waiting.current = layers;
      clearTimeout(timer.current);
      timer.current = setTimeout(flush, KEPT_AFTER);
    },
    [flush],
  );
}

/** The shot's own steps in a stack that is looked at. */
const stepsOf = (layers: readonly LayerGiven[]): readonly Step[] =>
  (layers.find((one) => one.role === "before" && one.entry === null)?.steps ?? []) as unknown as Step[];

const still = () => () => undefined;

/** Where the player stands. */
function useFrame(player: ReturnType<typeof useShotPlayer>["player"]): number {
  return useSyncExternalStore(player?.state.subscribe ?? still, () => player?.state.get().frame ?? 0);
}

function nothingBeside(beside: Beside): string {
  if (beside === "reference") return "No reference is chosen yet; choose a picture at the right.";
  return beside === "before" ? "This is the first shot." : "This is the last shot.";
}

/** What is held beside the shot: its address and its name. */
function besideOf(
  project: Project,
  shot: Shot,
  beside: Beside,
  frame: number,
): { source: string; name: string } | null {
  const at = project.shots.indexOf(shot);
  const here = shot.first === null ? {} : { frame };
  if (beside === "plain")
    return {
      source: previewOf(project.id, shot, { large: true, plain: true, ...here }),
      name: "Without trims and look",
    };
  if (beside === "newest")
    return {
      source: previewOf(project.id, shot, { large: true, newest: true, ...here }),
      name: "Through the newer version",
    };
  if (beside === "reference")
    return shot.reference === null
      ? null
      : { source: `/api/pictures/${String(shot.reference)}/frame.png`, name: "Reference" };
  const other = beside === "before" ? project.shots[at - 1] : project.shots[at + 1];
  return other ? { source: previewOf(project.id, other, { large: true }), name: other.code } : null;
}

function Arrows({ project, previous, next }: { project: Project; previous: Shot | undefined; next: Shot | undefined }) {
  const navigate = useNavigate();
  const to = (shot: Shot) => `/projects/${String(project.id)}/shots/${String(shot.id)}`;
  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      if (event.target instanceof HTMLInputElement || event.defaultPrevented) return;
      const way = event.key === "PageUp" ? previous : event.key === "PageDown" ? next : undefined;
      if (way) void navigate(to(way));
    };
    window.addEventListener("keydown", onKey);
    return () => window.removeEventListener("keydown", onKey);
  });
  return (
    <span>
      <Link to={`/projects/${String(project.id)}`}>{project.name}</Link>
      {previous && (
        <Link to={to(previous)} aria-label={`Shot before: ${previous.code}`} title="Page up">
          <ChevronLeft size={16} />
        </Link>
      )}
      {next && (
        <Link to={to(next)} aria-label={`Shot after: ${next.code}`} title="Page down">
          <ChevronRight size={16} />
        </Link>
      )}
    </span>
  );
}

function Line({ junctions }: { junctions: readonly { encoding: string; what: string }[] }) {
  const { data: encodings = [] } = useQuery(encodingsQuery);
  const nameOf = (id: string) => encodings.find((one) => one.id === id)?.name ?? id;
  return (
    <Junctions>
      {junctions.map((one, index) => (
        <li key={index}>
          <span>{nameOf(one.encoding)}</span>
          <small>{one.what}</small>
        </li>
      ))}
    </Junctions>
  );
}

interface ReferenceProps {
  readonly project: Project;
  readonly shot: Shot;
  readonly pictures: readonly { readonly id: number; readonly name: string }[];
}

/** A picture that the shot is held beside: a still, or one from outside. */
function ReferenceOf({ project, shot, pictures }: ReferenceProps) {
  const change = useChangeShots(project.id);
  return (
    <Block aria-label="Reference">
      <h2>Reference</h2>
      <Picker
        label="Held beside this shot"
        value={shot.reference === null ? "" : String(shot.reference)}
        options={[{ id: "", name: "None" }, ...pictures.map((one) => ({ id: String(one.id), name: one.name }))]}
        onChange={(id) => change.mutate({ shots: [shot.id], reference: id === "" ? null : Number(id) })}
      />
      {change.error && <Notice>{wordsFor(change.error)}</Notice>}
    </Block>
  );
}
