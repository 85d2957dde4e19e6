import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { createPortal } from "react-dom";
import { Link, useParams } from "react-router";
import styled from "styled-components";
import { wordsFor } from "../api/client";
import {
  project as projectQuery,
  useApproveShots,
  usePutLook,
  useSetStrength,
  useTakeNewest,
  useTakeOff,
  useUndoGrade,
} from "../api/projects";
import { useLive } from "../api/order";
import type { Entry, Shot } from "../api/types";
import { useTopSlot } from "../frame/TopBar";
import { Secondary, WordButton } from "../kit/Button";
import { Choice } from "../kit/Choice";
import { Notice } from "../kit/Notice";
import { NumberBox } from "../kit/NumberBox";
import { SurroundChoice } from "../kit/SurroundChoice";
import { AddShots } from "./AddShots";
import { partToggled, stretched, toggled } from "./choosing";
import { LookTray } from "./LookTray";
import { ShotCard } from "./ShotCard";

const Page = styled.main`
  display: grid;
  grid-template-rows: auto minmax(0, 1fr) auto;
  grid-template-columns: minmax(0, 1fr);
  min-height: 0;
  height: 100%;
  background: ${(p) => p.theme.surround.field};
  color: ${(p) => p.theme.surround.ink};
`;
const Head = styled.header`
  display: flex;
  align-items: center;
  gap: 16px;
  padding: 12px 22px;
  h1 {
    font-size: ${(p) => p.theme.tokens.size.title};
    font-weight: 600;
  }
  > :last-child {
    margin-left: auto;
  }
`;
const Sizes = styled(Choice<Size>)`
  button {
    color: ${(p) => p.theme.surround.ink};
  }
`;
const Lightbox = styled.div`
  overflow-y: auto;
  padding: 0 22px 30px;
`;
const SceneName = styled.button`
  border: 0;
  background: none;
  color: inherit;
  font: inherit;
  font-weight: 600;
  padding: 12px 0 8px;
  cursor: pointer;
  small {
    font-weight: 400;
    color: ${(p) => p.theme.surround.soft};
    padding-left: 8px;
  }
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
const Strength = styled.span`
  display: grid;
  grid-template-columns: auto 48px auto;
  align-items: center;
  gap: 6px;
  margin-left: 10px;
`;
const Quiet = styled.p`
  padding: 10px 0;
`;
type Size = "small" | "middle" | "large";
const WIDTHS: Readonly<Record<Size, number>> = { small: 128, middle: 208, large: 380 };

/** The one strength of the topmost looks of these shots; null where they differ. */
function strengthOf(shots: readonly Shot[]): number | null {
  const found = new Set(shots.flatMap((one) => one.layers.at(-1)?.strength ?? []));
  const [only] = found;
  return found.size === 1 && only !== undefined ? only : null;
}

/** A project as a lightbox: its shots scene by scene through their looks; looks are tried and put on all that are chosen. */
export function ProjectPage() {
  const id = Number(useParams().id);
  const { data: project, error } = useQuery(projectQuery(id));
  const put = usePutLook(id);
  const off = useTakeOff(id);
  const strength = useSetStrength(id);
  const newest = useTakeNewest(id);
  const approve = useApproveShots(id);
  const undo = useUndoGrade(id);
  const [size, setSize] = useState<Size>("middle");
  const [marked, setMarked] = useState<ReadonlySet<number>>(new Set());
  const [last, setLast] = useState<number | null>(null);
  const [tried, setTried] = useState<Entry | null>(null);
  const [adding, setAdding] = useState(false);
  const [done, setDone] = useState<{ words: string; undo: number | null } | null>(null);
  const slot = useTopSlot();
  useLive();
  const trouble =
    error ?? put.error ?? off.error ?? strength.error ?? newest.error ?? approve.error ?? undo.error ?? null;
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
  const shared = strengthOf(chosen);
  const told = (what: string) => ({
    onSuccess: ({ count, undo: number }: { count: number; undo: number | null }) => {
      for (const one of [put, off, strength, newest, approve, undo]) if (one.isError) one.reset();
      setTried(null);
      setDone({ words: `${what} ${String(count)} ${count === 1 ? "shot" : "shots"}.`, undo: number });
    },
  });

  return (
    <Page
      onKeyDown={(event) => {
        if (event.key === "Escape") setMarked(new Set());
      }}
    >
      {slot &&
        project.may_work &&
        createPortal(<Secondary onPress={() => setAdding(true)}>Bring shots in</Secondary>, slot)}
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
      </Head>
      <Lightbox>
        {trouble && <Notice>{wordsFor(trouble)}</Notice>}
        {project.shots.length === 0 && (
          <Quiet>
            There are no shots yet.
            {project.may_work && " Bring some in: pictures of the studio become shots of a scene."}
          </Quiet>
        )}
        {project.scenes.map((scene) => {
          const shots = project.shots.filter((one) => one.scene === scene.id);
          return (
            <section key={scene.id} aria-label={scene.name}>
              <SceneName
                type="button"
                onClick={() =>
                  setMarked((now) =>
                    partToggled(
                      now,
                      shots.map((one) => one.id),
                    ),
                  )
                }
              >
                {scene.name} <small>{shots.length}</small>
              </SceneName>
              <Shots $width={WIDTHS[size]}>
                {shots.map((shot) => (
                  <ShotCard
                    key={shot.id}
                    project={id}
                    shot={shot}
                    tried={marked.has(shot.id) ? tried : null}
                    isChosen={marked.has(shot.id)}
                    onChoose={(stretch) => {
                      setMarked((now) => (stretch ? stretched(now, order, last, shot.id) : toggled(now, shot.id)));
                      setLast(shot.id);
                    }}
                  />
                ))}
              </Shots>
            </section>
          );
        })}
      </Lightbox>
      {project.may_work && (chosen.length > 0 || done) && (
        <Foot role="group" aria-label="What is chosen">
          <b>{chosen.length} chosen</b>
          {chosen.length > 0 && (
            <>
              <LookTray
                onTry={setTried}
                onPut={(entry) =>
                  put.mutate({ shots: ids, entry: entry.id, stack: false }, told(`${entry.name} is on`))
                }
              />
              {chosen.some((one) => one.layers.length > 0) && (
                <>
                  <Strength>
                    Strength
                    <NumberBox
                      label={shared === null ? "Strength, percent, mixed" : "Strength, percent"}
                      value={(shared ?? 1) * 100}
                      low={0}
                      high={100}
                      step={1}
                      digits={0}
                      neutral={100}
                      onChange={(value) =>
                        strength.mutate({ shots: ids, strength: value / 100 }, told("Strength changed on"))
                      }
                    />
                    <span>{shared === null ? "% (mixed)" : "%"}</span>
                  </Strength>
                  <Secondary onPress={() => off.mutate(ids, told("Taken off"))}>Take off</Secondary>
                </>
              )}
              {chosen.some((one) => one.layers.some((layer) => layer.newer !== null)) && (
                <Secondary onPress={() => newest.mutate(ids, told("Newest version on"))}>Take the newest</Secondary>
              )}
              <Secondary onPress={() => approve.mutate({ shots: ids, approved: !chosen.every((one) => one.approved) })}>
                {chosen.every((one) => one.approved) ? "Not approved" : "Approve"}
              </Secondary>
            </>
          )}
          {done && (
            <span role="status">
              {done.words}{" "}
              {done.undo !== null && (
                <WordButton
                  onPress={() => {
                    const { undo: number } = done;
                    if (number !== null)
                      undo.mutate(number, {
                        onSuccess: ({ left }) =>
                          setDone({
                            words:
                              left.length === 0
                                ? "Taken back."
                                : `Taken back, but for ${left.join(", ")}: changed since by somebody.`,
                            undo: null,
                          }),
                      });
                  }}
                >
                  Take it back
                </WordButton>
              )}
            </span>
          )}
        </Foot>
      )}
      {adding && <AddShots project={project} onClose={() => setAdding(false)} />}
    </Page>
  );
}
