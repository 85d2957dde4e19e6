import { useQuery } from "@tanstack/react-query";
import { Link, useParams } from "react-router";
import styled from "styled-components";
import { wordsFor } from "../../api/client";
import { useLive } from "../../api/order";
import { pictures as picturesQuery } from "../../api/pictures";
import { project as projectQuery, shotDetail } from "../../api/projects";
import type { Project, Shot } from "../../api/types";
import { WordButton } from "../../kit/Button";
import { Notice } from "../../kit/Notice";
import { Match } from "../checking/Match";
import { Misfit } from "../checking/Misfit";
import { TrimsPanel } from "../trims/TrimsPanel";
import { AtFrame, useIsPlaying } from "./AtFrame";
import { Encodings } from "./Encodings";
import { Done, Notes } from "./Notes";
import { Block } from "./parts";
import { Poster } from "./Poster";
import { Reference } from "./Reference";
import { ShotScopes } from "./ShotScopes";
import { Head, ShotStage } from "./ShotStage";
import { Source } from "./Source";
import { Stack } from "./Stack";
import { useShotDraft, type ShotDraft } from "./useShotDraft";
import { useShotPlayer } from "./View";

const Page = styled.main`
  display: grid;
  grid-template-columns: minmax(0, 1fr) 340px;
  min-height: 0;
  height: 100%;
  background: ${(p) => p.theme.surround.field};
  color: ${(p) => p.theme.surround.ink};
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
  const draft = useShotDraft(project, shot);
  const { player, canvas } = useShotPlayer(project.id, shot, draft.layers, draft.isMoving);
  const { data: pictures = [] } = useQuery(picturesQuery);
  const { data: detail } = useQuery(shotDetail(project.id, shot.id));
  const isPlaying = useIsPlaying(player);
  const mayWork = project.may_work;
  return (
    <Page>
      <ShotStage project={project} shot={shot} player={player} canvas={canvas} />
      <Column>
        <Kept draft={draft} mayWork={mayWork} />
        <AtFrame player={player}>
          {(frame) => (
            <ShotScopes
              project={project.id}
              shot={shot}
              layers={draft.layers}
              frame={shot.moving ? frame : null}
              delivery={project.delivery}
              isPlaying={isPlaying}
            />
          )}
        </AtFrame>
        <Source project={project.id} shot={shot} mayWork={mayWork} onDone={draft.told} />
        <Block aria-label="Trims before the look">
          <h2>Trims before the look</h2>
          {mayWork ? (
            <TrimsPanel
              encoding={shot.encoding}
              steps={draft.trims}
              picture={pictures.find((one) => one.id === shot.picture)}
              isKeeping={draft.isKeepingTrims}
              onMove={draft.lookAtTrims}
              onRest={draft.keepTrims}
            />
          ) : (
            <p>{draft.trims.length === 0 ? "None." : draft.trims.map((one) => one.kind).join(", ")}</p>
          )}
        </Block>
        <Stack
          shot={shot}
          layers={draft.layers ?? draft.stored}
          mayWork={mayWork}
          onMove={draft.look}
          onRest={draft.take}
          onNewest={draft.takeNewest}
        />
        <Misfit
          project={project.id}
          shot={shot}
          layers={draft.stored}
          mayWork={mayWork}
          onTry={draft.look}
          onTake={draft.take}
        />
        {mayWork && (
          <Match project={project} shot={shot} layers={draft.stored} onTry={draft.look} onTake={draft.take} />
        )}
        <Encodings junctions={detail?.line ?? []} />
        {mayWork && <Reference project={project} shot={shot} pictures={pictures} onDone={draft.told} />}
        {mayWork && shot.moving && (
          <AtFrame player={player}>
            {(frame) => <Poster project={project.id} shot={shot} frame={frame} onDone={draft.told} />}
          </AtFrame>
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

/** What went wrong, and whether the last change is kept yet. */
function Kept({ draft, mayWork }: { draft: ShotDraft; mayWork: boolean }) {
  return (
    <>
      {draft.error && (
        <Block>
          <Notice>{wordsFor(draft.error)}</Notice>
        </Block>
      )}
      {draft.last !== null && mayWork && (
        <Block>
          <p role="status">
            {draft.isKeeping ? "Keeping it…" : "Kept."}{" "}
            {/* Not before all is kept: what is under way would come back over what was taken back. */}
            <WordButton isDisabled={draft.isKeeping || draft.isTakingBack} onPress={draft.takeBack}>
              Take it back
            </WordButton>
          </p>
        </Block>
      )}
    </>
  );
}
