import { useQuery } from "@tanstack/react-query";
import { encodings as encodingsQuery } from "../../api/encodings";
import { session } from "../../api/session";
import type { Look, Picture, Step } from "../../api/types";
import { useBench, useBenchPart } from "../../look/useBench";

type View = NonNullable<Look["view"]>;

const words: Record<View, string> = { soft: "seen softly", plain: "seen plainly" };
const meanings: Record<View, string> = {
  soft: "light above white is drawn in, so that it is seen",
  plain: "a scene's light of 1 is white, and what lies above it is not seen",
};

/** The encodings that a look's steps name, those in groups too. */
function namedIn(steps: readonly Step[]): string[] {
  return steps.flatMap((step) => [
    ...(step.kind === "convert" ? [step.to ?? ""] : []),
    ...(step.kind === "lut" ? [step.expects ?? "", step.gives ?? ""] : []),
    ...(step.kind === "group" ? namedIn(step.steps ?? []) : []),
  ]);
}

/** By which view the look is seen, where that matters: where light of a scene takes part. Pressed, it is seen by the other one. */
export function SeenBy({ picture }: { picture: Picture | undefined }) {
  const { store, mayEdit } = useBench();
  const look = useBenchPart((state) => state.look);
  const { data: encodings = [] } = useQuery(encodingsQuery);
  const { data: studio } = useQuery(session);
  const scenes = new Set(encodings.filter((one) => one.referred === "scene").map((one) => one.id));
  const taking = [look.input ?? "srgb", look.output ?? "srgb", picture?.encoding ?? "", ...namedIn(look.steps ?? [])];
  if (!taking.some((one) => scenes.has(one))) return null;
  const view: View = look.view ?? "plain";
  const other: View = view === "soft" ? "plain" : "soft";
  const usual =
    studio?.view && studio.view !== view ? `; elsewhere in this studio pictures are ${words[studio.view]}` : "";
  const said = `${words[view]}: ${meanings[view]}${usual}`;
  if (!mayEdit)
    return (
      <span title={said} data-testid="seen-by">
        {words[view]}
      </span>
    );
  return (
    <button
      type="button"
      title={said}
      aria-label={`The look is ${said}. Change to ${words[other]}`}
      onClick={() =>
        store.edit(`See ${other === "soft" ? "softly" : "plainly"}`, (before) => ({ ...before, view: other }))
      }
      data-testid="seen-by"
    >
      {words[view]}
      {usual && ` (studio: ${view === "soft" ? "plainly" : "softly"})`}
    </button>
  );
}
