/** Projects: their shots, what lies on them, and how they are seen. */
import { queryOptions } from "@tanstack/react-query";
import { useChange } from "./change";
import { api, asForm, callCounts, callFiles, got } from "./client";
import type { components } from "./schema";
import type { ProjectLine, Shot, Step } from "./types";

type Schemas = components["schemas"];
export type LayerGiven = Schemas["LayerIn"];
export type SharedGiven = Schemas["SharedIn"];
export type SharedLayerGiven = Schemas["SharedLayerIn"];
export type ProjectChange = Schemas["ProjectChange"];

const at = (pk: number) => ({ params: { path: { pk } } });
const STALE = ["projects", "described", "shot"] as const;

export const projects = queryOptions({
  queryKey: ["projects"],
  queryFn: ({ signal }) => got(api.GET("/api/projects", { signal })),
});
export const project = (id: number) =>
  queryOptions({
    queryKey: ["projects", id],
    queryFn: ({ signal }) => got(api.GET("/api/projects/{pk}", { ...at(id), signal })),
  });
export const shotDetail = (id: number, shot: number) =>
  queryOptions({
    queryKey: ["shot", id, shot],
    queryFn: ({ signal }) =>
      got(api.GET("/api/projects/{pk}/shots/{shot}", { params: { path: { pk: id, shot } }, signal })),
  });
/** Corrections in its chain that come after something that lost detail of it. */
export const shotAdvice = (id: number, shot: Shot) =>
  queryOptions({
    queryKey: ["shot", id, shot.id, "advice", shot.shows],
    queryFn: ({ signal }) =>
      got(api.GET("/api/projects/{pk}/shots/{shot}/advice", { params: { path: { pk: id, shot: shot.id } }, signal })),
  });
export const shotActivity = (id: number, shot: number) =>
  queryOptions({
    queryKey: ["shot", id, shot, "activity"],
    queryFn: ({ signal }) =>
      got(api.GET("/api/projects/{pk}/shots/{shot}/activity", { params: { path: { pk: id, shot } }, signal })),
  });

export interface Seen {
  readonly large?: boolean;
  readonly newest?: boolean;
  readonly plain?: boolean;
  readonly frame?: number;
}

/** Address of a shot's picture; another one whenever it would look different. */
export function previewOf(project: number, shot: Shot, seen: Seen = {}): string {
  const asked = Object.entries(seen)
    .map(([name, value]) => `&${name}=${String(value)}`)
    .join("");
  const state = `${shot.shows}${asked}`;
  return `/api/projects/${String(project)}/shots/${String(shot.id)}/preview.jpg?state=${encodeURIComponent(state)}${asked}`;
}

/** A frame and some after it, through layers that are only looked at, or through what lies on the shot. */
export async function fetchFrames(
  project: number,
  shot: number,
  asked: {
    layers: readonly LayerGiven[] | null;
    shared: SharedGiven | null;
    frame: number | null;
    more: number;
    width: number;
    dragging: boolean;
    playing: boolean;
  },
  signal: AbortSignal,
): Promise<ImageBitmap[]> {
  const files = await callFiles(`${ofShot(project, shot)}/frame`, asked, signal);
  return Promise.all(
    partsOf(files).map((one) => createImageBitmap(one ?? new Blob(), { colorSpaceConversion: "none" })),
  );
}

const partsOf = ({ data, sizes }: { data: ArrayBuffer; sizes: readonly number[] }): (Blob | null)[] => {
  let at = 0;
  return sizes.map((size) => {
    at += size;
    return size === 0 ? null : new Blob([data.slice(at - size, at)], { type: "image/jpeg" });
  });
};

/** How cards are seen: through what lies on the shots, through the newest versions of it, or with a look tried on them. */
export interface CardSeen {
  readonly newest: boolean;
  readonly trying: number | null;
  /** Which of its family; empty for the recipe. */
  readonly member: string;
  readonly stack: boolean;
}

/** The cards of several shots, in their order; null for one that cannot be shown. */
export async function fetchPreviews(
  project: number,
  shots: readonly number[],
  seen: CardSeen,
  signal: AbortSignal,
): Promise<readonly (Blob | null)[]> {
  return partsOf(await callFiles(`/projects/${String(project)}/previews`, { shots, ...seen }, signal));
}

interface ScopeAsked {
  readonly layers: readonly LayerGiven[] | null;
  readonly shared: SharedGiven | null;
  readonly frame: number | null;
}
const ofShot = (project: number, shot: number) => `/projects/${String(project)}/shots/${String(shot)}`;

export const fetchHistograms = (project: number, shot: number, asked: ScopeAsked, signal: AbortSignal) =>
  got(
    api.POST("/api/projects/{pk}/shots/{shot}/histograms", {
      params: { path: { pk: project, shot } },
      body: { layers: asked.layers && [...asked.layers], shared: asked.shared, frame: asked.frame },
      signal,
    }),
  );
/** plain: of the shot with nothing on it */
export const fetchTrace = (
  project: number,
  shot: number,
  asked: ScopeAsked & { kind: "waveform" | "parade" | "vectorscope"; plain?: boolean },
  signal: AbortSignal,
) => callCounts(`${ofShot(project, shot)}/trace`, asked, signal);

/** The stack of a shot as it is sent back. */
export const givenOf = (shot: Shot): LayerGiven[] =>
  shot.layers.map(({ role, entry, version, member, steps, strength, enabled }) =>
    entry === null
      ? { role, steps, strength, enabled, entry: null, version: null }
      : { role, entry, version, member, steps: null, strength, enabled },
  );

/** A shot's own steps before its look. */
export const trimsOf = (shot: Shot): readonly Step[] =>
  (shot.layers.find((one) => one.role === "before" && one.entry === null)?.steps ?? []) as unknown as Step[];

export const people = queryOptions({
  queryKey: ["people"],
  queryFn: ({ signal }) => got(api.GET("/api/people", { signal })),
});
/** Changes of one project go in order: a later one never comes to rest under an earlier one. */
const useProjectChange = <Given, Result>(id: number, run: (given: Given) => Promise<Result>) =>
  useChange(run, STALE, `project ${String(id)}`);

export const useMakeProject = () =>
  useChange(
    (given: { name: string; code: string; delivery: string }) =>
      got(api.POST("/api/projects", { body: { ...given, note: "", closed: false } })),
    STALE,
  );
export const useChangeProject = (id: number) =>
  useProjectChange(id, (body: ProjectChange) => got(api.PATCH("/api/projects/{pk}", { ...at(id), body })));
export const useDeleteProject = () =>
  useChange((id: number) => got(api.DELETE("/api/projects/{pk}", at(id))), ["projects"]);
export const useRestoreProject = () =>
  useChange((id: number) => got(api.POST("/api/projects/{pk}/restore", at(id))), ["projects"]);

export const useAddShots = (id: number) =>
  useProjectChange(id, (shots: { picture: number; scene: string; code: string }[]) =>
    got(api.POST("/api/projects/{pk}/shots", { ...at(id), body: { shots } })),
  );
/** Scene and shot of each picture out of its name. */
export const namedByPattern = (id: number, pictures: readonly number[], pattern: string) =>
  queryOptions({
    queryKey: ["projects", id, "pattern", pattern, pictures],
    queryFn: ({ signal }) =>
      got(api.POST("/api/projects/{pk}/pattern", { ...at(id), body: { pictures: [...pictures], pattern }, signal })),
    enabled: pictures.length > 0,
    retry: false,
    gcTime: 0,
  });
export const useChangeShots = (id: number) =>
  useProjectChange(id, (body: Schemas["ShotsChange"]) =>
    got(api.PATCH("/api/projects/{pk}/shots", { ...at(id), body })),
  );
export const useChangeShot = (id: number) =>
  useProjectChange(id, ({ shot, ...body }: { shot: number } & Schemas["ShotChange"]) =>
    got(api.PATCH("/api/projects/{pk}/shots/{shot}", { params: { path: { pk: id, shot } }, body })),
  );
export const useMoveShots = (id: number) =>
  useProjectChange(id, (body: Schemas["ShotsMove"]) =>
    got(api.POST("/api/projects/{pk}/shots/move", { ...at(id), body })),
  );
export const useTakeOut = (id: number) =>
  useProjectChange(id, (shots: number[]) =>
    got(api.POST("/api/projects/{pk}/shots/out", { ...at(id), body: { shots } })),
  );
export const useBringBack = (id: number) =>
  useProjectChange(id, (shots: number[]) =>
    got(api.POST("/api/projects/{pk}/shots/back", { ...at(id), body: { shots } })),
  );
export const useRenameScene = (id: number) =>
  useProjectChange(id, ({ scene, name }: { scene: number; name: string }) =>
    got(api.PATCH("/api/projects/{pk}/scenes/{scene}", { params: { path: { pk: id, scene } }, body: { name } })),
  );
export const useOrderScenes = (id: number) =>
  useProjectChange(id, (scenes: number[]) =>
    got(api.PUT("/api/projects/{pk}/scenes", { ...at(id), body: { scenes } })),
  );

export const usePutLook = (id: number) =>
  useProjectChange(id, (given: { shots: number[]; entry: number; member: string; stack: boolean }) =>
    got(api.POST("/api/projects/{pk}/looks", { ...at(id), body: { ...given, strength: 1 } })),
  );
export const useTakeOff = (id: number) =>
  useProjectChange(id, (shots: number[]) =>
    got(api.POST("/api/projects/{pk}/looks/off", { ...at(id), body: { shots } })),
  );
export const useSetStrength = (id: number) =>
  useProjectChange(id, (given: { shots: number[]; strength: number }) =>
    got(api.POST("/api/projects/{pk}/looks/strength", { ...at(id), body: given })),
  );
export const useTakeNewest = (id: number) =>
  useProjectChange(id, (shots: number[]) =>
    got(api.POST("/api/projects/{pk}/looks/newest", { ...at(id), body: { shots } })),
  );
export const useSetTrims = (id: number) =>
  useProjectChange(id, ({ shots, steps, add }: { shots: number[]; steps: readonly Step[]; add: boolean }) =>
    got(api.POST("/api/projects/{pk}/trims", { ...at(id), body: { shots, steps: [...steps] as never, add } })),
  );
export const useCopyTrims = (id: number) =>
  useProjectChange(id, (body: { shots: number[]; source: number; add: boolean }) =>
    got(api.POST("/api/projects/{pk}/trims/copy", { ...at(id), body })),
  );
export const useSetLayers = (id: number) =>
  useProjectChange(id, (body: { shots: number[]; layers: LayerGiven[] }) =>
    got(api.PUT("/api/projects/{pk}/layers", { ...at(id), body })),
  );
/** Everything that lies in one place for many shots. */
export const useSetShared = (id: number) =>
  useProjectChange(id, (body: SharedGiven) => got(api.PUT("/api/projects/{pk}/shared", { ...at(id), body })));
/** A layer for many acts on these shots, or does not. */
export const useSwitchShared = (id: number) =>
  useProjectChange(id, (body: { layer: number; shots: number[]; enabled: boolean }) =>
    got(api.POST("/api/projects/{pk}/shared/switch", { ...at(id), body })),
  );
export const useUndo = (id: number) =>
  useProjectChange(id, (number: number) =>
    got(api.POST("/api/projects/{pk}/undo/{number}", { params: { path: { pk: id, number } } })),
  );
export const useAddNote = (id: number, shot: number) =>
  useProjectChange(id, (body: { words: string; frame: number | null }) =>
    got(api.POST("/api/projects/{pk}/shots/{shot}/notes", { params: { path: { pk: id, shot } }, body })),
  );
export const useRemoveNote = (id: number) =>
  useProjectChange(id, (note: number) =>
    got(api.DELETE("/api/projects/{pk}/notes/{note}", { params: { path: { pk: id, note } } })),
  );

export type DeliveryChoice = Schemas["DeliveryChoice"];
export type DeliveryLine = Schemas["DeliveryOut"];
export type Delivery = Schemas["DeliveryDetail"];
export type DeliveredFile = Schemas["DeliveredFile"];
export type Tolerances = Schemas["TolerancesIn"];

export const deliveries = (id: number) =>
  queryOptions({
    queryKey: ["deliveries", id],
    queryFn: ({ signal }) => got(api.GET("/api/projects/{pk}/deliveries", { ...at(id), signal })),
    refetchInterval: (query) =>
      query.state.data?.some((one) => one.job?.state === "running" || one.job?.state === "waiting") ? 900 : false,
  });
export const delivery = (id: number, number: number) =>
  queryOptions({
    queryKey: ["deliveries", id, number],
    queryFn: ({ signal }) =>
      got(api.GET("/api/projects/{pk}/deliveries/{number}", { params: { path: { pk: id, number } }, signal })),
    refetchInterval: (query) => {
      const state = query.state.data?.job?.state;
      return state === "running" || state === "waiting" ? 900 : false;
    },
  });
export const estimate = (id: number, choice: DeliveryChoice) =>
  queryOptions({
    queryKey: ["deliveries", id, "estimate", choice],
    queryFn: ({ signal }) =>
      got(api.POST("/api/projects/{pk}/deliveries/estimate", { ...at(id), body: choice, signal })),
    retry: false,
    gcTime: 0,
  });
export const useDeliver = (id: number) =>
  useChange(
    (body: DeliveryChoice) => got(api.POST("/api/projects/{pk}/deliveries", { ...at(id), body })),
    ["deliveries", "jobs"],
  );
export const keptChoices = queryOptions({
  queryKey: ["delivery-choices"],
  queryFn: ({ signal }) => got(api.GET("/api/delivery-choices", { signal })),
});
export const useKeepChoice = () =>
  useChange(
    (body: { name: string; choice: DeliveryChoice }) => got(api.POST("/api/delivery-choices", { body })),
    ["delivery-choices"],
  );
export const useForgetChoice = () =>
  useChange((pk: number) => got(api.DELETE("/api/delivery-choices/{pk}", at(pk))), ["delivery-choices"]);
/** Where a shot of a delivery is as it left; it never changes. */
export const deliveredPicture = (project: number, number: number, place: number) =>
  `/api/projects/${String(project)}/deliveries/${String(number)}/shots/${String(place)}/preview.jpg`;
export const useRestartJob = () =>
  useChange(
    (job: number) => got(api.POST("/api/jobs/{pk}/restart", at(job))),
    ["deliveries", "jobs", "job", "projects"],
  );

export const misfits = (id: number) =>
  queryOptions({
    queryKey: ["projects", id, "misfits"],
    queryFn: ({ signal }) => got(api.GET("/api/projects/{pk}/misfits", { ...at(id), signal })),
  });
export const remedies = (id: number, shot: number, shows: string) =>
  queryOptions({
    queryKey: ["shot", id, shot, "remedies", shows],
    queryFn: ({ signal }) =>
      got(api.GET("/api/projects/{pk}/shots/{shot}/remedies", { params: { path: { pk: id, shot } }, signal })),
  });
export const useCheck = (id: number) => useChange(() => got(api.POST("/api/projects/{pk}/misfits", at(id))), ["jobs"]);
export const useSetTolerances = (id: number) =>
  useProjectChange(id, (body: Tolerances) => got(api.PUT("/api/projects/{pk}/tolerances", { ...at(id), body })));
export const useMatch = (id: number, shot: number) =>
  useChange(
    (body: { shot: number | null; picture: number | null }) =>
      got(api.POST("/api/projects/{pk}/shots/{shot}/match", { params: { path: { pk: id, shot } }, body })),
    [],
  );
/** What a timeline holds; of a large one the job that reads it. */
export const useLookAtTimeline = (id: number) =>
  useChange(
    ({ file, rate }: { file: File; rate: string }) =>
      got(api.POST("/api/projects/{pk}/timeline/look", { ...at(id), ...asForm({ file, rate }) })),
    [],
  );
/** What a job has read, once it is done. */
export const largeTimeline = (id: number, job: number | null) =>
  queryOptions({
    queryKey: ["timeline", id, job],
    queryFn: ({ signal }) =>
      got(api.GET("/api/projects/{pk}/timeline/read/{job}", { params: { path: { pk: id, job: job ?? 0 } }, signal })),
    enabled: job !== null,
  });
/** A timeline, or the job that has read it. */
export type TimelineSource = { file: File } | { job: string };
export const useTakeTimeline = (id: number) =>
  useProjectChange(id, (given: TimelineSource & { rate: string; scene: string }) =>
    got(api.POST("/api/projects/{pk}/timeline", { ...at(id), ...asForm(given) })),
  );
/** A shot of a project's strip, small. */
export const stripShotOf = (project: number, shot: ProjectLine["strip"][number]) =>
  `/api/projects/${String(project)}/shots/${String(shot.shot)}/preview.jpg?state=${encodeURIComponent(shot.shows)}`;
