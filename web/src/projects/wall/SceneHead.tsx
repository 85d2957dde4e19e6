import { useState } from "react";
import styled from "styled-components";
import type { Project } from "../../api/types";
import { Secondary, WordButton } from "../../kit/Button";
import { Flyout } from "../../kit/Flyout";
import { TextBox } from "../../kit/TextBox";
import { movedBy } from "./choosing";
import type { Grading } from "./useGrading";

const Head = styled.div`
  display: flex;
  align-items: baseline;
  gap: 10px;
  padding: 12px 0 8px;
`;
const Name = styled.button`
  border: 0;
  background: none;
  color: inherit;
  font: inherit;
  font-weight: 600;
  padding: 0;
  cursor: pointer;
  small {
    font-weight: 400;
    color: ${(p) => p.theme.surround.soft};
    padding-left: 8px;
  }
`;
const Quiet = styled(WordButton)`
  color: ${(p) => p.theme.surround.soft};
`;
const Places = styled.div`
  display: flex;
  gap: 8px;
`;

/** The name of a scene, which chooses its shots; beside it what the scene is called and where it stands in the story. */
export function SceneHead({
  project,
  scene,
  count,
  grading,
  onChoose,
}: {
  project: Project;
  scene: Project["scenes"][number];
  count: number;
  grading: Grading;
  onChoose: () => void;
}) {
  return (
    <Head>
      <Name type="button" onClick={onChoose}>
        <bdi>{scene.name}</bdi> <small>{count}</small>
      </Name>
      {project.may_work && (
        <Flyout
          label={`Scene ${scene.name}`}
          button={<Quiet aria-label={`Change the scene ${scene.name}`}>Change</Quiet>}
        >
          {(close) => <SceneChange project={project} scene={scene} grading={grading} onDone={close} />}
        </Flyout>
      )}
    </Head>
  );
}

function SceneChange({
  project,
  scene,
  grading,
  onDone,
}: {
  project: Project;
  scene: Project["scenes"][number];
  grading: Grading;
  onDone: () => void;
}) {
  const [name, setName] = useState(scene.name);
  const order = project.scenes.map((one) => one.id);
  const at = order.indexOf(scene.id);
  const move = (by: number) => {
    grading.orderScenes(movedBy(order, at, by));
    onDone();
  };
  const wanted = name.trim();
  const isNew = wanted !== "" && wanted !== scene.name;
  const rename = () => {
    if (isNew) grading.renameScene(scene.id, wanted);
    onDone();
  };
  return (
    <>
      <form
        onSubmit={(event) => {
          event.preventDefault();
          rename();
        }}
      >
        <TextBox label="Name of the scene" value={name} onChange={setName} maxLength={80} />
      </form>
      <Places>
        <Secondary isDisabled={!isNew} onPress={rename}>
          Rename
        </Secondary>
        <Secondary isDisabled={at <= 0} onPress={() => move(-1)}>
          Earlier
        </Secondary>
        <Secondary isDisabled={at === order.length - 1} onPress={() => move(1)}>
          Later
        </Secondary>
      </Places>
    </>
  );
}
