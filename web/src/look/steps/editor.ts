/** What a kind of step and its editor are: of each kind two files in kinds/, found by their default exports. */
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

/** What is known of a kind of step before its editor is fetched. */
export interface Kind<S extends Step = Step> {
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
  /** Its editor has an `OnPicture` too. */
  readonly drawsOnPicture?: true;
}

export interface Editor extends Kind {
  readonly Editor: ComponentType<EditorProps>;
  readonly OnPicture?: ComponentType<OnPictureProps>;
}

export function defineKind<S extends Step>(kind: Kind<S>): Kind {
  return kind as unknown as Kind;
}
