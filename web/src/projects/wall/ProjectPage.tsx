import { useQuery } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import { createPortal } from "react-dom";
import { Link, useNavigate, useParams } from "react-router";
import styled from "styled-components";
import { wordsFor } from "../../api/client";
import { useLive } from "../../api/order";
import { deliveries, project as projectQuery } from "../../api/projects";
import type { Project, Shot } from "../../api/types";
import { useActions, type Action } from "../../browser/actions";
import { useTopSlot } from "../../frame/TopBar";
import { GuestSheet } from "../../guests/GuestSheet";
import { useGuestVerdicts } from "../../guests/GuestVerdicts";
import { tallyOf } from "../../guests/tally";
import { Primary, Secondary, WordButton } from "../../kit/Button";
import { Check } from "../../kit/Check";
import { Choice } from "../../kit/Choice";
import { Hint } from "../../kit/Hint";
import { Notice } from "../../kit/Notice";
import { SurroundChoice } from "../../kit/SurroundChoice";
import { AddShots } from "../adding/AddShots";
import { TimelineSheet } from "../adding/TimelineSheet";
import { CheckSheet } from "../checking/CheckSheet";
import { DeliverSheet } from "../deliver/DeliverSheet";
import { ProjectSheet } from "../settings/ProjectSheet";
import { CardsOf } from "../cards/CardPicture";
import { Chosen } from "./Chosen";
import { partToggled, pressed } from "./choosing";
import { LookTray } from "./LookTray";
import { SceneHead } from "./SceneHead";
import { ShotCard } from "./ShotCard";
import { useGrading, type Putting } from "./useGrading";
import { useWallDrop } from "./useWallDrop";

const Page = styled.main`
  display: grid;
  grid-template-rows: auto minmax(0, 1fr) auto;
  grid-template-columns: minmax(0, 1fr) auto;
  min-height: 0;
  height: 100%;
  background: ${(p) => p.theme.surround.field};
  color: ${(p) => p.theme.surround.ink};
`;
const Head = styled.header`
  display: flex;
  align-items: center;
  gap: 16px;
  min-height: 56px;
  padding: 8px 22px;
  grid-column: 1 / -1;
  h1 {
    font-size: ${(p) => p.theme.tokens.size.title};
    font-weight: 600;
  }
  > :last-child {
    margin-left: auto;
  }
`;
const Ways = styled.span`
  display: flex;
  gap: 16px;
  white-space: nowrap;
  a,
  button {
    color: inherit;
    font-weight: inherit;
    text-decoration: underline;
  }
`;
const Sizes = styled(Choice)`
  button {
    color: ${(p) => p.theme.surround.ink};
    white-space: nowrap;
  }
  button[data-selected] {
    background: ${(p) => p.theme.surround.pill};
    color: ${(p) => p.theme.surround.pillInk};
  }
` as typeof Choice;
const Newer = styled.span`
  display: flex;
  align-items: center;
  gap: 8px;
`;
const Wall = styled.div`
  overflow-y: auto;
  padding: 0 22px 30px;
`;
const Shots = styled.div<{ $width: number }>`
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(${(p) => p.$width}px, 1fr));
  gap: 16px 14px;
`;
const Foot = styled.footer`
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 6px 12px;
  grid-column: 1 / -1;
  min-height: 64px;
  padding: 8px 22px;
  background: ${(p) => p.theme.tokens.glaze};
  color: ${(p) => p.theme.tokens.ink};
  border-top: 1px solid ${(p) => p.theme.tokens.line};
  > b {
    font-weight: 600;
    white-space: nowrap;
  }
`;
const Side = styled.div`
  width: 312px;
  min-height: 0;
  display: grid;
`;
const Quiet = styled.div`
  padding: 10px 0;
`;
const Begin = styled.span`
  display: flex;
  gap: 10px;
  margin-top: 14px;
`;
type Size = "small" | "middle" | "large";
type Opened = "settings" | "adding" | "timeline" | "misfits" | "deliver" | "guests" | null;
const WIDTHS: Readonly<Record<Size, number>> = { small: 128, middle: 208, large: 380 };

/** What can be done with the whole project, for those who may. */
function actionsOf(project: Project | undefined, open: (sheet: Opened) => void): readonly Action[] {
  if (!project?.may_work) return [];
  const ways: readonly (readonly [string, Opened, boolean])[] = [
    ["About the project", "settings", project.may_lead],
    ["Misfits", "misfits", project.shots.length > 0],
    ["Read a timeline", "timeline", true],
    ["Bring shots in", "adding", true],
    ["Show to guests", "guests", project.may_lead && project.shots.length > 0],
    ["Deliver", "deliver", project.shots.length > 0],
  ];
  return ways.filter(([, , offered]) => offered).map(([name, sheet]) => ({ name, run: () => open(sheet) }));
}

/** Shots under the same looks as the chosen ones. */
function alike(shots: readonly Shot[], chosen: readonly Shot[]): number[] {
  const looksOf = (shot: Shot) =>
    shot.layers
      .flatMap((one) => (one.role === "look" ? [`${String(one.entry)}:${String(one.version)}:${one.member}`] : []))
      .join();
  const wanted = new Set(chosen.map(looksOf));
  return shots.filter((one) => wanted.has(looksOf(one))).map((one) => one.id);
}

/** A project as a wall: its shots scene by scene through their looks; looks are tried and put on all that are chosen. */
export function ProjectPage() {
  const id = Number(useParams().id);
  const { data: project, error } = useQuery(projectQuery(id));
  const grading = useGrading(id);
  const { data: past = [] } = useQuery(deliveries(id));
  const said = useGuestVerdicts({ project: id });
  const [size, setSize] = useState<Size>("middle");
  const [marked, setMarked] = useState<ReadonlySet<number>>(new Set());
  const [last, setLast] = useState<number | null>(null);
  const [tried, setTried] = useState<Putting | null>(null);
  const [open, setOpen] = useState<Opened>(null);
  const [stack, setStack] = useState(false);
  const [versions, setVersions] = useState<"pinned" | "newest">("pinned");
  const slot = useTopSlot();
  const navigate = useNavigate();
  const [timeline, setTimeline] = useState<File | null>(null);
  const close = () => {
    setOpen(null);
    setTimeline(null);
  };
  useLive();
  useActions(actionsOf(project, setOpen));
  const all = project?.shots;
  // Ctrl or Cmd A is all shots, not all words of the page; in a field it stays what it is there.
  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      const isElsewhere =
        event.target instanceof HTMLElement && event.target.closest("input, textarea, [role='dialog']");
      if (event.key.toLowerCase() !== "a" || !(event.ctrlKey || event.metaKey) || isElsewhere || !all) return;
      event.preventDefault();
      setMarked(new Set(all.map((one) => one.id)));
    };
    window.addEventListener("keydown", onKey);
    return () => window.removeEventListener("keydown", onKey);
  }, [all]);
  const drop = useWallDrop({
    project,
    grading,
    chosen: marked,
    isBusy: open !== null,
    stack,
    onTimeline: (file) => {
      setTimeline(file);
      setOpen("timeline");
    },
  });
  const trouble = error ?? grading.error;
  if (!project)
    return (
      <Page>
        <Head>{error ? <Notice>{wordsFor(error)}</Notice> : "Opening the project…"}</Head>
        <Quiet>{error && <Link to="/projects">To the projects</Link>}</Quiet>
      </Page>
    );
  const order = project.shots.map((one) => one.id);
  const chosen = project.shots.filter((one) => marked.has(one.id));
  const ids = chosen.map((one) => one.id);
  const newer = project.shots.filter((one) => one.layers.some((layer) => layer.newer !== null)).map((one) => one.id);
  const reach = `${String(ids.length)} ${ids.length === 1 ? "shot" : "shots"}`;
  return (
    <CardsOf key={id} project={id}>
      <Page
        {...drop.handlers}
        onKeyDown={(event) => {
          if (event.key === "Escape") setMarked(new Set());
        }}
      >
        {slot &&
          project.may_work &&
          createPortal(
            <>
              {project.may_lead && <Secondary onPress={() => setOpen("settings")}>About the project</Secondary>}
              {project.shots.length > 0 && (
                <>
                  <Hint text="Shots that stand out from the others of their scene: lighter, warmer, richer, or with skin turned">
                    <Secondary onPress={() => setOpen("misfits")}>Misfits</Secondary>
                  </Hint>
                  <Secondary onPress={() => setOpen("timeline")}>Read a timeline</Secondary>
                  <Secondary onPress={() => setOpen("adding")}>Bring shots in</Secondary>
                </>
              )}
              <Primary isDisabled={project.shots.length === 0} onPress={() => setOpen("deliver")}>
                Deliver
              </Primary>
            </>,
            slot,
          )}
        <Head>
          <h1>{project.name}</h1>
          <span>
            {project.shots.length} {project.shots.length === 1 ? "shot" : "shots"}
          </span>
          <Sizes
            label="Size of shots"
            value={size}
            options={[
              ["small", "Contact sheet"],
              ["middle", "Middle"],
              ["large", "Large"],
            ]}
            onChange={setSize}
          />
          <SurroundChoice />
          {newer.length > 0 && (
            <Newer>
              <Sizes
                label="Versions seen"
                value={versions}
                options={[
                  ["pinned", "Pinned versions"],
                  ["newest", `Newest, on ${String(newer.length)}`],
                ]}
                onChange={setVersions}
              />
              {versions === "newest" && project.may_work && (
                <Secondary
                  onPress={() => {
                    grading.newest(newer);
                    setVersions("pinned");
                  }}
                >
                  Take it on all {newer.length}
                </Secondary>
              )}
            </Newer>
          )}
          <Ways>
            {project.may_lead && project.shots.length > 0 && (
              <WordButton onPress={() => setOpen("guests")}>Show to guests</WordButton>
            )}
            {past.length > 0 && (
              <Link to={`/projects/${String(id)}/deliveries/${String(past[0]?.number)}`}>
                {past.length} {past.length === 1 ? "delivery" : "deliveries"}
              </Link>
            )}
          </Ways>
        </Head>
        <Wall>
          {trouble && <Notice>{wordsFor(trouble)}</Notice>}
          {drop.said && <Notice tone="word">{drop.said}</Notice>}
          {drop.veil}
          {project.shots.length === 0 && (
            <Quiet>
              There are no shots yet.
              {project.may_work && (
                <>
                  {" "}
                  Pictures and clips of the studio become shots of a scene; a timeline says where each belongs.
                  <Begin>
                    <Primary onPress={() => setOpen("adding")}>Bring shots in</Primary>
                    <Secondary onPress={() => setOpen("timeline")}>Read a timeline</Secondary>
                  </Begin>
                </>
              )}
            </Quiet>
          )}
          {project.scenes.map((scene) => {
            const shots = project.shots.filter((one) => one.scene === scene.id);
            return (
              <section key={scene.id} aria-label={scene.name} data-scene>
                <SceneHead
                  project={project}
                  scene={scene}
                  count={shots.length}
                  grading={grading}
                  onChoose={() =>
                    setMarked((now) =>
                      partToggled(
                        now,
                        shots.map((one) => one.id),
                      ),
                    )
                  }
                />
                <Shots $width={WIDTHS[size]}>
                  {shots.map((shot) => (
                    <ShotCard
                      key={shot.id}
                      project={id}
                      shot={shot}
                      tried={marked.has(shot.id) ? tried : null}
                      stack={stack}
                      newest={versions === "newest"}
                      isChosen={marked.has(shot.id)}
                      guests={tallyOf(said.filter((one) => one.shot === shot.id && !one.earlier))}
                      onChoose={(how) => {
                        setMarked((now) => pressed(now, order, last, shot.id, how));
                        if (!how.startsWith("stretch")) setLast(shot.id);
                      }}
                    />
                  ))}
                </Shots>
              </section>
            );
          })}
        </Wall>
        {project.may_work && chosen.length > 0 && (
          <Side>
            <Chosen project={project} chosen={chosen} grading={grading} />
          </Side>
        )}
        {project.may_work && (chosen.length > 0 || grading.done) && (
          <Foot role="group" aria-label="What is chosen">
            {chosen.length > 0 && <b>{chosen.length} chosen</b>}
            {chosen.length > 0 && (
              <>
                <LookTray
                  shot={chosen[0]}
                  reach={reach}
                  tried={tried}
                  stack={stack}
                  onTry={setTried}
                  onPut={(entry) => grading.put(ids, entry, stack)}
                />
                <Check isOn={stack} onChange={setStack}>
                  Stack on what is there
                </Check>
                <Secondary onPress={() => grading.approve(ids, !chosen.every((one) => one.approved))}>
                  {chosen.every((one) => one.approved) ? "Not approved" : `Approve ${reach}`}
                </Secondary>
                <Secondary onPress={() => setMarked(new Set(alike(project.shots, chosen)))}>
                  All that look like this
                </Secondary>
              </>
            )}
            {grading.done && (
              <span role="status">
                {grading.done.words} {grading.done.back && <WordButton onPress={grading.done.back}>Undo</WordButton>}
              </span>
            )}
          </Foot>
        )}
        {open === "settings" && <ProjectSheet project={project} onClose={close} />}
        {open === "adding" && <AddShots project={project} onClose={close} onTaken={grading.broughtIn} />}
        {open === "timeline" && (
          <TimelineSheet project={project} given={timeline} onClose={close} onTaken={grading.broughtIn} />
        )}
        {open === "misfits" && <CheckSheet project={project} onClose={close} />}
        {open === "guests" && <GuestSheet shows={{ project: id }} name={project.name} onClose={close} />}
        {open === "deliver" && (
          <DeliverSheet
            project={project}
            chosen={chosen}
            onClose={close}
            onAsked={(number) => void navigate(`/projects/${String(id)}/deliveries/${String(number)}`)}
          />
        )}
      </Page>
    </CardsOf>
  );
}
