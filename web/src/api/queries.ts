/** Server data: key, fetcher and abort signal of each query together; each change beside the queries it makes stale. */
import { queryOptions, useMutation, useQueryClient } from "@tanstack/react-query";
import { call } from "./client";
import type { BakeChoice, ChartChoice, EditorChoice, Encoding, Entry, Fidelity, Format, FormatChoice, Health, Job, KeptRow, Look, LookLine, LookOut, Lut, PackRow, PairFit, PastVersion, Person, Picture, PictureSet, Preset, Reading, Recent, Step, StepKind, ToolChoice, Version } from "./types";

const steady = { staleTime: Infinity } as const;

export const session = queryOptions({
  queryKey: ["session"],
  queryFn: ({ signal }) => call<{ person: Person | null }>("/session", { signal }),
  staleTime: 60_000,
});
export const encodings = queryOptions({ queryKey: ["encodings"], queryFn: ({ signal }) => call<Encoding[]>("/encodings", { signal }), ...steady });
export const stepKinds = queryOptions({ queryKey: ["step-kinds"], queryFn: ({ signal }) => call<StepKind[]>("/looks/step-kinds", { signal }), ...steady });
export const pictures = queryOptions({ queryKey: ["pictures"], queryFn: ({ signal }) => call<Picture[]>("/pictures", { signal }) });
export const pictureSets = queryOptions({ queryKey: ["picture-sets"], queryFn: ({ signal }) => call<PictureSet[]>("/pictures/sets", { signal }) });
export const presets = queryOptions({ queryKey: ["presets"], queryFn: ({ signal }) => call<Preset[]>("/presets", { signal }) });
export const recents = queryOptions({ queryKey: ["recents"], queryFn: ({ signal }) => call<Recent[]>("/presets/recent", { signal }) });
export const luts = queryOptions({ queryKey: ["luts"], queryFn: ({ signal }) => call<Lut[]>("/luts", { signal }) });
export const versionLook = (id: number, version: number | null) =>
  queryOptions({ queryKey: ["version-look", id, version], queryFn: ({ signal }) => call<Look>(`/looks/${id}/versions/${version}`, { signal }), enabled: version !== null, ...steady });
export const history = (id: number) => queryOptions({ queryKey: ["history", id], queryFn: ({ signal }) => call<PastVersion[]>(`/looks/${id}/history`, { signal }), staleTime: 0 });
export const looks = queryOptions({ queryKey: ["looks"], queryFn: ({ signal }) => call<LookLine[]>("/looks", { signal }) });
export const look = (id: number) =>
  queryOptions({ queryKey: ["look", id], queryFn: ({ signal }) => call<LookOut>(`/looks/${id}`, { signal }), staleTime: 0, gcTime: 0 });
export const lut = (id: number) => queryOptions({ queryKey: ["lut", id], queryFn: ({ signal }) => call<Lut>(`/luts/${id}`, { signal }) });
export const shelf = (search: string, kind: string) =>
  queryOptions({
    queryKey: ["shelf", search, kind],
    queryFn: ({ signal }) => call<Entry[]>(`/shelf?${new URLSearchParams({ q: search, kind })}`, { signal }),
  });
const active = (jobs: readonly Job[] | undefined) => jobs?.some((job) => job.state === "waiting" || job.state === "running") ?? false;
export const jobs = queryOptions({
  queryKey: ["jobs"],
  queryFn: ({ signal }) => call<Job[]>("/jobs", { signal }),
  refetchInterval: (query) => (active(query.state.data) ? 700 : 20_000),
});
export const job = (id: number | null) =>
  queryOptions({
    queryKey: ["job", id],
    queryFn: ({ signal }) => call<Job>(`/jobs/${id}`, { signal }),
    enabled: id !== null,
    refetchInterval: (query) => (query.state.data === undefined || active([query.state.data]) ? 400 : false),
  });

function useChange<Given, Result>(run: (given: Given) => Promise<Result>, stale: readonly string[]) {
  const client = useQueryClient();
  return useMutation({
    mutationFn: run,
    onSuccess: () => Promise.all(stale.map((key) => client.invalidateQueries({ queryKey: [key] }))),
  });
}

export const useSignIn = () =>
  useChange((given: { username: string; password: string }) => call<{ person: Person }>("/session", { method: "POST", body: given }), ["session"]);
export const useSignOut = () => useChange(() => call<undefined>("/session", { method: "DELETE" }), ["session"]);

export const useMakeLook = () => useChange((given: Look) => call<LookOut>("/looks", { method: "POST", body: given }), ["looks", "shelf"]);
export const useSaveVersion = (id: number) =>
  useChange((note: string) => call<Version>(`/looks/${id}/versions`, { method: "POST", body: { note } }), ["looks", "shelf"]);
export const useBranch = (id: number) => useChange((version: number) => call<LookOut>(`/looks/${id}/versions/${version}/branch`, { method: "POST" }), ["looks", "shelf"]);

export interface PresetFields {
  readonly name: string;
  readonly category: string;
  readonly note: string;
}
export const useKeepPreset = () => useChange((given: PresetFields & { steps: readonly Step[] }) => call<Preset>("/presets", { method: "POST", body: given }), ["presets"]);
export const useChangePreset = () => useChange(({ id, ...fields }: PresetFields & { id: number }) => call<Preset>(`/presets/${id}`, { method: "PATCH", body: fields }), ["presets"]);
export const useMarkPreset = () =>
  useChange(({ id, favourite }: { id: number; favourite: boolean }) => call<Preset>(`/presets/${id}/favourite`, { method: "PUT", body: { favourite } }), ["presets"]);
export const useDeletePreset = () => useChange((id: number) => call<undefined>(`/presets/${id}`, { method: "DELETE" }), ["presets"]);
export const useRestorePreset = () => useChange((id: number) => call<Preset>(`/presets/${id}/restore`, { method: "POST" }), ["presets"]);

export const formats = queryOptions({ queryKey: ["formats"], queryFn: ({ signal }) => call<Format[]>("/bake/formats", { signal }), ...steady });
export interface FidelityAsk {
  readonly look: Look;
  readonly choice: BakeChoice;
  readonly format: FormatChoice;
  readonly picture: number | null;
  readonly sizes: readonly number[];
  readonly tolerance: number;
}
export const fidelity = (ask: FidelityAsk) =>
  queryOptions({ queryKey: ["fidelity", ask], queryFn: ({ signal }) => call<Fidelity>("/bake/fidelity", { method: "POST", body: ask, signal }), staleTime: 300_000, retry: false });
export const useBake = (id: number) =>
  useChange((given: { version: number; choice: BakeChoice }) => call<Job>(`/looks/${id}/bake`, { method: "POST", body: given }), ["jobs", "shelf", "luts"]);
export const useCancelJob = () => useChange((id: number) => call<Job>(`/jobs/${id}/cancel`, { method: "POST" }), ["jobs", "job"]);

export const health = (id: number) => queryOptions({ queryKey: ["health", id], queryFn: ({ signal }) => call<Health>(`/luts/${id}/health`, { signal }), ...steady });
export const useTool = (id: number) =>
  useChange((given: { choice: ToolChoice; name: string }) => call<Lut>(`/luts/${id}/tool`, { method: "POST", body: given }), ["shelf", "luts", "lut"]);

export const packRows = (id: number | null) =>
  queryOptions({ queryKey: ["pack", id], queryFn: ({ signal }) => call<PackRow[]>(`/packs/${id}`, { signal }), enabled: id !== null, ...steady });
export const useSendPack = () =>
  useChange((given: readonly { file: File; path: string }[]) => {
    const form = new FormData();
    for (const one of given) form.append("files", one.file);
    form.append("paths", JSON.stringify(given.map((one) => one.path)));
    return call<Job>("/packs", { method: "POST", body: form });
  }, ["jobs"]);
export const useKeepRows = () =>
  useChange(({ job: id, rows }: { job: number; rows: readonly KeptRow[] }) => call<Lut[]>(`/packs/${id}/keep`, { method: "POST", body: { rows } }), ["shelf", "luts"]);

export const reading = (id: number | null) =>
  queryOptions({ queryKey: ["reading", id], queryFn: ({ signal }) => call<Reading>(`/charts/${id}`, { signal }), enabled: id !== null, ...steady });
export const useSendChart = () =>
  useChange(({ file, chart, known }: { file: File; chart: ChartChoice; known: boolean }) => call<Job>("/charts/read", { method: "POST", body: upload(file, { chart: JSON.stringify(chart), known: String(known) }) }), ["jobs"]);
export const useStandin = () =>
  useChange((given: { chart: ChartChoice; editor: EditorChoice }) => call<Job>("/charts/standin", { method: "POST", body: given }), ["jobs"]);
export const pairFit = (id: number | null) =>
  queryOptions({ queryKey: ["pair", id], queryFn: ({ signal }) => call<PairFit>(`/pairs/${id}`, { signal }), enabled: id !== null, ...steady });
export const useSendPair = () =>
  useChange(({ original, recoloured, encoding, size }: { original: File; recoloured: File; encoding: string; size: number }) => {
    const form = new FormData();
    form.append("original", original);
    form.append("recoloured", recoloured);
    form.append("encoding", encoding);
    form.append("size", String(size));
    return call<Job>("/pairs", { method: "POST", body: form });
  }, ["jobs"]);
export const useKeepResult = () =>
  useChange(({ job: id, ...given }: { job: number; which: "smooth" | "raw" | "fit"; name: string; rights: string }) => call<Lut>(`/results/${id}/keep`, { method: "POST", body: given }), ["shelf", "luts"]);

function upload(file: File, fields: Record<string, string>): FormData {
  const form = new FormData();
  form.append("file", file);
  for (const [name, value] of Object.entries(fields)) form.append(name, value);
  return form;
}

export const useBringInPicture = () =>
  useChange(({ file, encoding }: { file: File; encoding: string }) => call<Picture>("/pictures", { method: "POST", body: upload(file, { encoding }) }), ["pictures"]);
export const useChangePicture = () =>
  useChange(({ id, ...change }: { id: number; name?: string; encoding?: string }) => call<Picture>(`/pictures/${id}`, { method: "PATCH", body: change }), ["pictures"]);
export const useDeletePicture = () => useChange((id: number) => call<undefined>(`/pictures/${id}`, { method: "DELETE" }), ["pictures"]);
export const useRestorePicture = () => useChange((id: number) => call<Picture>(`/pictures/${id}/restore`, { method: "POST" }), ["pictures"]);

export const useSavePictureSet = () => useChange((given: { name: string; pictures: readonly number[] }) => call<PictureSet>("/pictures/sets", { method: "POST", body: given }), ["picture-sets"]);
export const useDeletePictureSet = () => useChange((id: number) => call<undefined>(`/pictures/sets/${id}`, { method: "DELETE" }), ["picture-sets"]);

export const useChangeLut = () =>
  useChange(
    ({ id, ...change }: { id: number; name?: string; expects?: string; gives?: string; rights?: string; note?: string; category?: string }) => call<Lut>(`/luts/${id}`, { method: "PATCH", body: change }),
    ["lut", "shelf", "luts"],
  );
export const useDeleteEntry = () =>
  useChange(({ kind, id }: { kind: Entry["kind"]; id: number }) => call<undefined>(`/${kind}s/${id}`, { method: "DELETE" }), ["shelf", "looks"]);
export const useRestoreEntry = () =>
  useChange(({ kind, id }: { kind: Entry["kind"]; id: number }) => call<unknown>(`/${kind}s/${id}/restore`, { method: "POST" }), ["shelf", "looks"]);
export const useGrade = () =>
  useChange(
    (given: { kind: Entry["kind"]; id: number; picture: number; strength: number; format: string; encoding: string }) => call<Job>("/shelf/grade", { method: "POST", body: given }),
    ["jobs"],
  );
