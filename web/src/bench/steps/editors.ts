/** Step editors, one file a kind beside this one, found by their default export. */
import type { ComponentType } from "react";
import type { Step, StepSketch } from "../../api/types";

export interface EditorProps<S extends Step = Step> {
  readonly step: S;
  /** Change the step; edits with the same gesture count as one until `done`. */
  readonly change: (name: string, next: (step: S) => S, gesture?: string) => void;
  readonly done: () => void;
  readonly sketch: StepSketch | undefined;
  /** Counts (4, 256) of red, green, blue, luma of what reaches this step. */
  readonly reaching: readonly (readonly number[])[] | undefined;
}

export interface Editor<S extends Step = Step> {
  readonly kind: S["kind"];
  readonly title: string;
  /** The parameters of a step just added. */
  readonly fresh: () => S;
  readonly Editor: ComponentType<EditorProps<S>>;
}

export function defineEditor<S extends Step>(editor: Editor<S>): Editor {
  return editor as unknown as Editor;
}

const modules = import.meta.glob<{ default: Editor }>("./*.tsx", { eager: true });
export const editors: Readonly<Record<string, Editor>> = Object.fromEntries(Object.values(modules).map(({ default: editor }) => [editor.kind, editor]));
