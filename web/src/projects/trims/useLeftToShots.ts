import { useQueries } from "@tanstack/react-query";
import { lookVersion } from "../../api/looks";
import type { Look, Shot, Step } from "../../api/types";
import { flat } from "../../look/arrange";
import { isTrim } from "./offered";

/** Of a look, what is to be set for each shot and can be as a trim. */
const leftBy = (look: Look): readonly Step[] =>
  flat(look.steps ?? []).filter((step) => step.per_shot && isTrim(step.kind));

/** What the looks on a shot leave to it, in their order; nothing while nobody may trim it. */
export function useLeftToShots(shot: Shot | undefined, mayWork: boolean): readonly Step[] {
  const pinned = (shot?.layers ?? []).flatMap(({ role, kind, entry, version }) =>
    mayWork && role === "look" && kind === "look" && entry !== null && version !== null
      ? [lookVersion(entry, version)]
      : [],
  );
  return useQueries({ queries: pinned, combine: together });
}

function together(found: readonly { readonly data: Look | undefined }[]): readonly Step[] {
  return found.flatMap(({ data }) => (data ? leftBy(data) : []));
}
