/** Step editors, one file a kind beside this one, found by their default export. */
import type { ComponentType } from "react";
import type { Picture, Step, StepSketch } from "../../api/types";

export interface EditorProps<S extends Step = Step> {
  readonly step: S;
  /** Change the step; edits with the same gesture count as one until `done`. */
  readonly change: (name: string, next: (step: S) => S, gesture?: string) => void;
  readonly done: () => void;
  readonly sketch: StepSketch | undefined;
  /** Counts (4, 256) of red, green, blue, luma of what reaches this step. */
  readonly reaching: readonly (readonly number[])[] | undefined;
  /** The picture in view. */
  readonly picture: Picture | undefined;
}

/** What an editor draws on the picture, over its whole area. */
export interface OnPictureProps<S extends Step = Step> extends Pick<EditorProps<S>, "step" | "change" | "done"> {
  /** Width of the picture by its height. */
  readonly ratio: number;
}

export interface Editor<S extends Step = Step> {
  readonly kind: S["kind"];
  readonly title: string;
  /** What it is for, in a few words. */
  readonly purpose: string;
  /** The parameters of a step just added. */
  readonly fresh: () => S;
  /** Settings that show what it can do, where a fresh one is at neutral. */
  readonly example?: Partial<S>;
  /** What it does, small, where lines do not say it: drawn in 34 x 26. */
  readonly Spark?: ComponentType<{ readonly step: S; readonly lines: StepSketch["lines"] }>;
  readonly Editor: ComponentType<EditorProps<S>>;
  readonly OnPicture?: ComponentType<OnPictureProps<S>>;
}

export function defineEditor<S extends Step>(editor: Editor<S>): Editor {
  return editor as unknown as Editor;
}
