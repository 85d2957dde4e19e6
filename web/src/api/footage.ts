/** Clips, sequences and media folders. */
import { queryOptions } from "@tanstack/react-query";
import { useChange } from "./change";
import { api, asForm, got } from "./client";
import type { components } from "./schema";

export type Footage = components["schemas"]["FootageOut"];
const at = (pk: number) => ({ params: { path: { pk } } });
const STALE = ["footage", "pictures", "jobs", "projects", "shot"] as const;

export const footageOf = (pk: number) =>
  queryOptions({
    queryKey: ["footage", pk],
    queryFn: ({ signal }) => got(api.GET("/api/footage/{pk}", { ...at(pk), signal })),
  });
export const mediaFolders = queryOptions({
  queryKey: ["media"],
  queryFn: ({ signal }) => got(api.GET("/api/footage/folders", { signal })),
});
export const mediaFolder = (name: string, path: string) =>
  queryOptions({
    queryKey: ["media", name, path],
    queryFn: ({ signal }) =>
      got(api.GET("/api/footage/folders/{name}", { params: { path: { name }, query: { path } }, signal })),
    enabled: name !== "",
  });
/** Stills, clips and frames together, as they were dropped. */
export const useTakeIn = () =>
  useChange(
    ({ files, hold }: { files: readonly File[]; hold: boolean }) =>
      got(api.POST("/api/footage", asForm({ files, hold: String(hold) }))),
    STALE,
  );
export const useTakeFromFolder = () =>
  useChange(
    ({ name, ...body }: { name: string; paths: string[]; hold: boolean }) =>
      got(api.POST("/api/footage/folders/{name}", { params: { path: { name } }, body })),
    STALE,
  );
export const useChangeFootage = () =>
  useChange(
    ({ id, ...body }: { id: number } & components["schemas"]["FootageChange"]) =>
      got(api.PATCH("/api/footage/{pk}", { ...at(id), body })),
    STALE,
  );
export const useMakeProxy = () => useChange((id: number) => got(api.POST("/api/footage/{pk}/proxy", at(id))), STALE);
