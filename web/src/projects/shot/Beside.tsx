import { previewOf } from "../../api/projects";
import type { Project, Shot } from "../../api/types";

export type Beside = "alone" | "plain" | "before" | "after" | "reference" | "newest";

/** What may be held beside a shot. */
export const waysOf = (shot: Shot): readonly (readonly [Beside, string])[] => [
  ["alone", "Alone"],
  ["plain", "Without"],
  ["before", "Before it"],
  ["after", "After it"],
  ["reference", "Reference"],
  ...(shot.layers.some((one) => one.newer !== null) ? ([["newest", "Newer version"]] as const) : []),
];

function nothingBeside(beside: Beside): string {
  if (beside === "reference") return "No reference is chosen yet; choose a picture at the right.";
  return beside === "before" ? "This is the first shot." : "This is the last shot.";
}

/** What is held beside the shot: its address and its name. */
function besideOf(
  project: Project,
  shot: Shot,
  beside: Beside,
  frame: number,
): { source: string; name: string } | null {
  const at = project.shots.indexOf(shot);
  const here = shot.first === null ? {} : { frame };
  if (beside === "plain")
    return {
      source: previewOf(project.id, shot, { large: true, plain: true, ...here }),
      name: "Without trims and look",
    };
  if (beside === "newest")
    return {
      source: previewOf(project.id, shot, { large: true, newest: true, ...here }),
      name: "Through the newer version",
    };
  if (beside === "reference")
    return shot.reference === null
      ? null
      : { source: `/api/pictures/${String(shot.reference)}/frame.png`, name: "Reference" };
  const other = beside === "before" ? project.shots[at - 1] : project.shots[at + 1];
  return other ? { source: previewOf(project.id, other, { large: true }), name: other.code } : null;
}

interface Props {
  readonly project: Project;
  readonly shot: Shot;
  readonly beside: Beside;
  readonly frame: number;
}

/** Another picture next to the shot, or why there is none. */
export function BesideFigure({ project, shot, beside, frame }: Props) {
  const other = besideOf(project, shot, beside, frame);
  return (
    <figure>
      {other ? <img src={other.source} alt={other.name} /> : <p>{nothingBeside(beside)}</p>}
      {other && (
        <figcaption>
          <bdi>{other.name}</bdi>
        </figcaption>
      )}
    </figure>
  );
}
