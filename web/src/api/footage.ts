/** Clips, sequences and media folders. */
import { queryOptions } from "@tanstack/react-query";
import { useChange } from "./change";
import { isClip } from "../kit/endings";
import { api, asForm, got, wordsFor } from "./client";
import type { components } from "./schema";

export type Footage = components["schemas"]["FootageOut"];
export type Gaps = NonNullable<components["schemas"]["PathsIn"]["gaps"]>;
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
/** A clip of so many bytes goes by itself, so that it can be stopped by itself; smaller ones go together. */
const BY_ITSELF = 20_000_000;

/** What is sent at once: stills and frames together, since what they are is told by all of their names; then clips. */
export function inLoads<One extends Pick<File, "name" | "size">>(files: readonly One[]): readonly (readonly One[])[] {
  const clips = files.filter((one) => isClip(one.name));
  const small = clips.filter((one) => one.size < BY_ITSELF);
  const others = files.filter((one) => !isClip(one.name));
  return [others, small, ...clips.filter((one) => one.size >= BY_ITSELF).map((one) => [one])].filter(
    (load) => load.length > 0,
  );
}

/**
 * Stills, clips and frames, as they were dropped. What may belong together is sent together; a clip is whole by itself, and one that is
 * stopped or refused keeps no other from coming in.
 */
export const useTakeIn = () =>
  useChange(async ({ files, gaps }: { files: readonly File[]; gaps: Gaps }) => {
    const loads = inLoads(files);
    const taken = { pictures: [] as number[], left_out: [] as string[] };
    for (const load of loads) {
      try {
        const answer = await got(api.POST("/api/footage", asForm({ files: load, gaps })));
        taken.pictures.push(...answer.pictures);
        taken.left_out.push(...answer.left_out);
      } catch (error) {
        if (loads.length === 1) throw error;
        taken.left_out.push(wordsFor(error));
      }
    }
    return taken;
  }, STALE);
export const useTakeFromFolder = () =>
  useChange(
    ({ name, ...body }: { name: string; paths: string[]; gaps: Gaps }) =>
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
