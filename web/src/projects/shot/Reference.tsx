import { wordsFor } from "../../api/client";
import { useChangeShots } from "../../api/projects";
import type { Project, Shot } from "../../api/types";
import { Notice } from "../../kit/Notice";
import { Picker } from "../../kit/Picker";
import { Block } from "./parts";

interface Props {
  readonly project: Project;
  readonly shot: Shot;
  readonly pictures: readonly { readonly id: number; readonly name: string }[];
  readonly onDone: (done: { undo: number | null }) => void;
}

/** A picture that the shot is held beside: a still, or one from outside. */
export function Reference({ project, shot, pictures, onDone }: Props) {
  const change = useChangeShots(project.id);
  return (
    <Block aria-label="Reference">
      <h2>Reference</h2>
      <Picker
        label="Held beside this shot"
        value={shot.reference === null ? "" : String(shot.reference)}
        options={[{ id: "", name: "None" }, ...pictures.map((one) => ({ id: String(one.id), name: one.name }))]}
        onChange={(id) =>
          change.mutate({ shots: [shot.id], reference: id === "" ? null : Number(id) }, { onSuccess: onDone })
        }
      />
      {change.error && <Notice>{wordsFor(change.error)}</Notice>}
    </Block>
  );
}
