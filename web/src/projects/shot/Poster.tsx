import { useChangeShot } from "../../api/projects";
import type { Shot } from "../../api/types";
import { wordsFor } from "../../api/client";
import { Secondary } from "../../kit/Button";
import { Notice } from "../../kit/Notice";
import { Block } from "./parts";
import type { Done } from "./useShotDraft";

interface Props {
  readonly project: number;
  readonly shot: Shot;
  readonly frame: number;
  readonly onDone: (done: Done) => void;
}

/** Which frame of a clip stands for it on the wall. */
export function Poster({ project, shot, frame, onDone }: Props) {
  const change = useChangeShot(project);
  return (
    <Block aria-label="On the wall">
      <h2>On the wall</h2>
      {change.error && <Notice>{wordsFor(change.error)}</Notice>}
      <Secondary
        isDisabled={frame === shot.poster}
        onPress={() => change.mutate({ shot: shot.id, poster: frame }, { onSuccess: onDone })}
      >
        {frame === shot.poster ? "Shown by this frame" : "Show it by this frame"}
      </Secondary>
    </Block>
  );
}
