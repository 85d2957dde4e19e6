/** Keeping order on the Shelf: views by name, categories, duplicates, the bin; and whether anything has changed. */
import { queryOptions, useQuery, useQueryClient } from "@tanstack/react-query";
import { useEffect, useRef } from "react";
import { useChange } from "./change";
import { api, got } from "./client";
import type { Kind } from "./types";

const OFTEN = 4000;
/** Everything that others may change while one looks. */
const LIVE = ["shelf", "described", "look", "lut", "preset", "boards", "review", "views", "bin", "projects"] as const;

export const views = queryOptions({
  queryKey: ["views"],
  queryFn: ({ signal }) => got(api.GET("/api/views", { signal })),
});
export const useKeepView = () =>
  useChange(
    (given: { name: string; address: string; shared: boolean }) => got(api.POST("/api/views", { body: given })),
    ["views"],
  );
export const useDeleteView = () =>
  useChange((id: number) => got(api.DELETE("/api/views/{pk}", { params: { path: { pk: id } } })), ["views"]);

export const useMakeCategory = () =>
  useChange((path: string) => got(api.POST("/api/categories", { body: { path } })), ["shelf"]);
export const useMoveCategory = () =>
  useChange(
    (given: { path: string; above: string; name: string }) => got(api.POST("/api/categories/move", { body: given })),
    ["shelf", "described"],
  );
export const useRemoveCategory = () =>
  useChange((path: string) => got(api.POST("/api/categories/remove", { body: { path } })), ["shelf"]);

export const duplicates = (within: number) =>
  queryOptions({
    queryKey: ["duplicates", within],
    queryFn: ({ signal }) => got(api.GET("/api/duplicates", { params: { query: { within } }, signal })),
  });
export const useMerge = () =>
  useChange(
    (given: { keep: number; others: number[] }) => got(api.POST("/api/duplicates/merge", { body: given })),
    ["duplicates", "shelf", "bin", "boards"],
  );
export const useKeepApart = () =>
  useChange((entries: number[]) => got(api.POST("/api/duplicates/apart", { body: { entries } })), ["duplicates"]);

export const bin = queryOptions({
  queryKey: ["bin"],
  queryFn: ({ signal }) => got(api.GET("/api/bin", { signal })),
});
export const activity = (kind: Kind, id: number) =>
  queryOptions({
    queryKey: ["described", kind, id, "activity"],
    queryFn: ({ signal }) =>
      got(api.GET("/api/catalogue/{kind}/{pk}/activity", { params: { path: { kind, pk: id } }, signal })),
  });

const stamp = queryOptions({
  queryKey: ["stamp"],
  queryFn: async ({ signal }) => (await got(api.GET("/api/stamp", { signal }))).stamp ?? "",
  refetchInterval: OFTEN,
});

/** What others do comes into sight by itself. */
export function useLive() {
  const client = useQueryClient();
  const { data } = useQuery(stamp);
  const last = useRef<string | undefined>(undefined);
  useEffect(() => {
    if (last.current !== undefined && data !== undefined && last.current !== data)
      for (const key of LIVE) void client.invalidateQueries({ queryKey: [key] });
    last.current = data ?? last.current;
  }, [data, client]);
}
