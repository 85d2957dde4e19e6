/** Boards: kept, changed, judged; and entries by their numbers, for those that are not kept. */
import { queryOptions } from "@tanstack/react-query";
import { useChange } from "./change";
import { api, got } from "./client";
import type { Verdict } from "./types";

export const boards = queryOptions({
  queryKey: ["boards"],
  queryFn: ({ signal }) => got(api.GET("/api/boards", { signal })),
});
export const board = (id: number | null) =>
  queryOptions({
    queryKey: ["boards", id],
    queryFn: ({ signal }) => got(api.GET("/api/boards/{pk}", { params: { path: { pk: id ?? 0 } }, signal })),
    enabled: id !== null,
  });
export const chosenEntries = (ids: readonly number[]) =>
  queryOptions({
    queryKey: ["shelf", "chosen", ids],
    queryFn: ({ signal }) =>
      ids.length === 0
        ? Promise.resolve([])
        : got(api.GET("/api/shelf/entries/chosen", { params: { query: { entry: [...ids] } }, signal })),
  });

export const useKeepBoard = () =>
  useChange(
    (given: { name: string; entries: number[]; pictures: number[] }) => got(api.POST("/api/boards", { body: given })),
    ["boards"],
  );
export interface BoardChange {
  readonly seen: number;
  readonly name?: string;
  readonly entries?: number[];
  readonly pictures?: number[];
  readonly hide_names?: boolean;
}
export const useChangeBoard = (id: number) =>
  useChange(
    (body: BoardChange) => got(api.PATCH("/api/boards/{pk}", { params: { path: { pk: id } }, body })),
    ["boards"],
  );
export const useJudge = (id: number) =>
  useChange(
    ({ entry, ...body }: { entry: number; choice: Verdict["choice"]; note: string }) =>
      got(api.PUT("/api/boards/{pk}/verdicts/{entry}", { params: { path: { pk: id, entry } }, body })),
    ["boards"],
  );
export const useDeleteBoard = () =>
  useChange((id: number) => got(api.DELETE("/api/boards/{pk}", { params: { path: { pk: id } } })), ["boards"]);
export const useRestoreBoard = () =>
  useChange((id: number) => got(api.POST("/api/boards/{pk}/restore", { params: { path: { pk: id } } })), ["boards"]);
