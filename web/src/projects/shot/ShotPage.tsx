import { useQuery } from "@tanstack/react-query";
import { useCallback, useState } from "react";
import { Link, useParams } from "react-router";
import styled from "styled-components";
import { wordsFor } from "../../api/client";
import { useLive } from "../../api/order";
import { pictures as picturesQuery } from "../../api/pictures";
import { project as projectQuery } from "../../api/projects";
import type { Project, Shot } from "../../api/types";
import { WordButton } from "../../kit/Button";
import { Notice } from "../../kit/Notice";
import { Chain } from "../chain/Chain";
import { WithChooser, type Choosing } from "../chain/PartChooser";
import { useSharedDraft, type SharedDraft } from "../chain/useSharedDraft";
import { Match } from "../checking/Match";
import { Misfit } from "../checking/Misfit";
import { AtFrame, useIsPlaying } from "./AtFrame";
import { Done, Notes } from "./Notes";
import { Block } from "./parts";
import { Poster } from "./Poster";
import { Reference } from "./Reference";
import { ShotScopes } from "./ShotScopes";
import { Head, ShotStage } from "./ShotStage";
import { useAlone } from "./useAlone";
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
  height: 100%;
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
  const alone = useAlone();
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
  return <Opened key={shot.id} project={project} shot={shot} alone={alone} />;
}

interface OpenedProps {
  readonly project: Project;
  readonly shot: Shot;
  readonly alone: ReturnType<typeof useAlone>;
}

function Opened({ project, shot, alone }: OpenedProps) {
  const draft = useShotDraft(project, shot);
  const shared = useSharedDraft(project, draft.told);
  const [choosing, setChoosing] = useState<Choosing | null>(null);
  const seen = { layers: draft.seen, shared: shared.seen, isMoving: draft.isMoving || shared.isMoving };
  const { player, canvas } = useShotPlayer(project.id, shot, seen);
  const { data: pictures = [] } = useQuery(picturesQuery);
  const isPlaying = useIsPlaying(player);
  const leave = useCallback(() => setChoosing(null), []);
  const mayWork = project.may_work;
  return (
    <Page>
      <ShotStage project={project} shot={shot} player={player} canvas={canvas} alone={alone} />
      <WithChooser project={project.id} shot={shot} choosing={choosing} onClose={leave}>
        <Column>
          <Kept draft={draft} shared={shared} mayWork={mayWork} />
          <AtFrame player={player}>
            {(frame) => (
              <ShotScopes
                project={project.id}
                shot={shot}
                layers={draft.seen}
                shared={shared.seen}
                frame={shot.moving ? frame : null}
                delivery={project.delivery}
                isPlaying={isPlaying}
              />
            )}
          </AtFrame>
          <Chain project={project} shot={shot} draft={draft} shared={shared} onChoose={setChoosing} />
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
      </WithChooser>
    </Page>
  );
}

/** What went wrong, and whether the last change is kept yet. */
function Kept({ draft, shared, mayWork }: { draft: ShotDraft; shared: SharedDraft; mayWork: boolean }) {
  const error = draft.error ?? shared.error;
  const isKeeping = draft.isKeeping || shared.isKeeping;
  return (
    <>
      {error && (
        <Block>
          <Notice>{wordsFor(error)}</Notice>
        </Block>
      )}
      {draft.last !== null && mayWork && (
        <Block>
          <p role="status">
            {isKeeping ? "Keeping it…" : "Kept."}{" "}
            {/* Not before all is kept: what is under way would come back over what was taken back. */}
            <WordButton isDisabled={isKeeping || draft.isTakingBack} onPress={draft.takeBack}>
              Undo
            </WordButton>
          </p>
        </Block>
      )}
    </>
  );
}
