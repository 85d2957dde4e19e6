/** Of what a look is brought towards a picture: pictures, and as what they are read where that is not what they say. */
import type { Picture, Project } from "../../api/types";

export interface Subject {
  readonly id: number;
  readonly readAs?: string | undefined;
}

export const MOST = 24;

export const subjectsOf = (pictures: readonly Picture[], readAs: Readonly<Record<number, string>>): Subject[] =>
  pictures.slice(0, MOST).map(({ id }) => ({ id, readAs: readAs[id] }));

/** The pictures of a scene's shots, each once; of more than can be asked for an even choice. */
export function subjectsOfScene({ shots }: Pick<Project, "shots">, scene: number): Subject[] {
  const found = new Map<number, Subject>();
  for (const shot of shots) {
    if (shot.scene !== scene || found.has(shot.picture)) continue;
    found.set(shot.picture, { id: shot.picture, readAs: shot.encoding_said ? shot.encoding : undefined });
  }
  const every = Math.max(1, Math.ceil(found.size / MOST));
  return [...found.values()].filter((_, index) => index % every === 0);
}
