/** Looks: drafts, versions, history, and the words about a look that need not be saved. */
import { queryOptions } from "@tanstack/react-query";
import { steady, useChange } from "./change";
import { api, asForm, got } from "./client";
import type { FamilyMember, GradedWork, Look, Step, TowardsAsk } from "./types";

const at = (pk: number) => ({ params: { path: { pk } } });

export const stepKinds = queryOptions({
  queryKey: ["step-kinds"],
  queryFn: ({ signal }) => got(api.GET("/api/looks/step-kinds", { signal })),
  ...steady,
});
export const fetchLook = (id: number, signal?: AbortSignal) =>
  got(api.GET("/api/looks/{pk}", { ...at(id), signal: signal ?? null }));
export const fetchVersion = (id: number, number: number, signal?: AbortSignal): Promise<Look> =>
  got(api.GET("/api/looks/{pk}/versions/{number}", { params: { path: { pk: id, number } }, signal: signal ?? null }));
/** A version as it is for good. */
export const lookVersion = (id: number, number: number) =>
  queryOptions({
    queryKey: ["look", id, "version", number],
    queryFn: ({ signal }) => fetchVersion(id, number, signal),
    staleTime: Infinity,
  });
export const describeDifferences = (before: Look, after: Look, signal?: AbortSignal): Promise<string[]> =>
  got(api.POST("/api/looks/differences", { body: { before, after }, signal: signal ?? null }));
/** In what each of a look's family differs from its recipe, in words; of a look that is being worked at. */
export const familyTold = (look: Look) =>
  queryOptions({
    queryKey: ["family-told", look],
    queryFn: ({ signal }) => got(api.POST("/api/looks/family", { body: { look, beside: "" }, signal })),
  });
export interface Between {
  readonly look: Look;
  readonly first: string;
  readonly second: string;
  readonly at: number;
  readonly name: string;
}
export const findBetween = (body: Between, signal?: AbortSignal): Promise<FamilyMember> =>
  got(api.POST("/api/looks/family/between", { body, signal: signal ?? null }));
/** The family of a version; null: of the one that is put on shots. */
export const familyOf = (id: number, version: number | null) =>
  queryOptions({
    queryKey: ["family", id, version],
    queryFn: ({ signal }) =>
      got(
        api.GET("/api/looks/{pk}/family", {
          params: { path: { pk: id }, query: version === null ? {} : { version } },
          signal,
        }),
      ),
  });

export const look = (id: number) =>
  queryOptions({ queryKey: ["look", id], queryFn: ({ signal }) => fetchLook(id, signal), staleTime: 0, gcTime: 0 });
export const versionLook = (id: number, version: number | null) =>
  queryOptions({
    queryKey: ["version-look", id, version],
    queryFn: ({ signal }) => fetchVersion(id, version ?? 0, signal),
    enabled: version !== null,
    ...steady,
  });
export const history = (id: number) =>
  queryOptions({
    queryKey: ["history", id],
    queryFn: ({ signal }) => got(api.GET("/api/looks/{pk}/history", { ...at(id), signal })),
    staleTime: 0,
  });

/** revision: the draft that it was made from; another one there by now is a Problem 409 */
export const saveDraft = (id: number, look: Look, revision: number) =>
  got(api.PUT("/api/looks/{pk}/draft", { ...at(id), body: { look, revision } }));
/** That this page has the look open, or leaves it; answers who else has. A page that goes away may still say so. */
export const tellPresence = (id: number, body: { page: string; edited: boolean; leaving: boolean }) =>
  got(api.POST("/api/looks/{pk}/presence", { ...at(id), body, keepalive: body.leaving }));

/** Steps behind those that a look has. */
export async function addToLook(id: number, steps: readonly Step[]) {
  const { draft, revision } = await fetchLook(id);
  const look = { ...draft, steps: [...(draft.steps ?? []), ...steps] };
  return saveDraft(id, look, revision);
}

/** A look file, or one with its LUTs, as a look of one's own. */
export const useBringInLook = () =>
  useChange((file: File) => got(api.POST("/api/looks/file", asForm({ file }))), ["shelf"]);
export const useMakeLook = () => useChange((given: Look) => got(api.POST("/api/looks", { body: given })), ["shelf"]);
/** revision: the draft that is meant, as this page shows it. */
export const useSaveVersion = (id: number) =>
  useChange(
    (given: { note: string; revision: number }) =>
      got(api.POST("/api/looks/{pk}/versions", { ...at(id), body: given })),
    ["shelf", "review"],
  );
export const useBranch = (id: number) =>
  useChange(
    (number: number) =>
      got(api.POST("/api/looks/{pk}/versions/{number}/branch", { params: { path: { pk: id, number } } })),
    ["shelf"],
  );

/** What brings a look towards a picture whose colours are wanted. */
export const useTowards = () =>
  useChange((given: TowardsAsk) => got(api.POST("/api/looks/towards", { body: given })), []);
/** The pictures through a look as it stands, as files, in a job. */
export const useGradePictures = () =>
  useChange((given: GradedWork) => got(api.POST("/api/looks/graded", { body: given })), ["jobs"]);
