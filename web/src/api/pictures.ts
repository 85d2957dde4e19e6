import { queryOptions } from "@tanstack/react-query";
import { useChange } from "./change";
import { api, asForm, got } from "./client";
import type { Job, Picture } from "./types";

export const pictures = queryOptions({
  queryKey: ["pictures"],
  queryFn: ({ signal }) => got(api.GET("/api/pictures", { signal })),
});
export const pictureSets = queryOptions({
  queryKey: ["picture-sets"],
  queryFn: ({ signal }) => got(api.GET("/api/pictures/sets", { signal })),
});

const at = (pk: number) => ({ params: { path: { pk } } });

/** A large picture is brought in, or read anew, by a job. */
export const isJob = (answer: Picture | Job): answer is Job => "progress" in answer;

export const useBringInPicture = () =>
  useChange(
    ({ file, encoding }: { file: File; encoding: string }) =>
      got<Picture | Job>(api.POST("/api/pictures", asForm({ file, encoding }))),
    ["pictures", "jobs"],
  );
export const useChangePicture = () =>
  useChange(
    ({ id, ...change }: { id: number; name?: string; encoding?: string; white?: number }) =>
      got<Picture | Job>(api.PATCH("/api/pictures/{pk}", { ...at(id), body: change })),
    ["pictures", "jobs"],
  );
export const useDeletePicture = () =>
  useChange((id: number) => got(api.DELETE("/api/pictures/{pk}", at(id))), ["pictures"]);
export const useRestorePicture = () =>
  useChange((id: number) => got(api.POST("/api/pictures/{pk}/restore", at(id))), ["pictures"]);

export const useSavePictureSet = () =>
  useChange(
    (given: { name: string; pictures: readonly number[] }) =>
      got(api.POST("/api/pictures/sets", { body: { name: given.name, pictures: [...given.pictures] } })),
    ["picture-sets"],
  );
export const useDeletePictureSet = () =>
  useChange((id: number) => got(api.DELETE("/api/pictures/sets/{pk}", at(id))), ["picture-sets"]);

/** A frame only to look at things on: it goes with the session unless it is kept. */
export const useLookAtFrame = () =>
  useChange(
    (file: File) => got<Picture | Job>(api.POST("/api/pictures/frames", asForm({ file }))),
    ["pictures", "jobs"],
  );
export const useKeepFrame = () =>
  useChange((id: number) => got(api.POST("/api/pictures/{pk}/keep", at(id))), ["pictures"]);

/** Where a small part of a picture is. state: another address whenever it looks otherwise, where that is known */
export const discOf = (picture: number, state = "") =>
  `/api/pictures/${String(picture)}/disc.jpg${state && `?${state}`}`;
