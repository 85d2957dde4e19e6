import { Loading } from "../../frame/Loading";
import type { EditorProps } from "./editor";
import { editors } from "./editors";

/** The editor of a step, by its kind; nothing for a kind that has none. */
export function StepEditor(props: EditorProps) {
  const editor = editors[props.step.kind];
  return (
    editor && (
      <Loading what="this editor">
        <editor.Editor {...props} />
      </Loading>
    )
  );
}
