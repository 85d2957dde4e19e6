/** The catalogue: pages of entries, how many each choice would show, and what is the same for entries of every kind. */
import { infiniteQueryOptions, queryOptions } from "@tanstack/react-query";
import { useChange } from "./change";
import { api, got } from "./client";
import type { EntryChange, Kind } from "./types";

export interface Wanted {
  readonly search: string;
  readonly kind: "" | Kind;
  readonly category: string;
}

const asked = ({ search, kind, category }: Wanted) => ({ q: search, kind, category });

export const entries = (wanted: Wanted, size = 60) =>
  infiniteQueryOptions({
    queryKey: ["shelf", "entries", wanted, size],
    queryFn: ({ signal, pageParam }) =>
      got(api.GET("/api/shelf/entries", { params: { query: { ...asked(wanted), cursor: pageParam, size } }, signal })),
    initialPageParam: "",
    getNextPageParam: (page) => page.cursor || undefined,
  });
/** The first entries of a search, for lists to choose from. */
export const firstEntries = (wanted: Wanted, size = 60) =>
  queryOptions({
    queryKey: ["shelf", "first", wanted, size],
    queryFn: ({ signal }) =>
      got(api.GET("/api/shelf/entries", { params: { query: { ...asked(wanted), size } }, signal })),
  });
export const counts = (wanted: Wanted) =>
  queryOptions({
    queryKey: ["shelf", "counts", wanted],
    queryFn: ({ signal }) => got(api.GET("/api/shelf/counts", { params: { query: asked(wanted) }, signal })),
  });
export const categories = queryOptions({
  queryKey: ["shelf", "categories"],
  queryFn: ({ signal }) => got(api.GET("/api/catalogue/categories", { signal })),
});

/** Everything that shows entries. */
const SHOWN = ["shelf", "lut", "look", "preset", "presets", "described"] as const;
const at = (kind: Kind, pk: number) => ({ params: { path: { kind, pk } } });

export const described = (kind: Kind, id: number) =>
  queryOptions({
    queryKey: ["described", kind, id],
    queryFn: ({ signal }) => got(api.GET("/api/catalogue/{kind}/{pk}", { ...at(kind, id), signal })),
  });
export const useChangeEntry = () =>
  useChange(
    ({ kind, id, ...change }: { kind: Kind; id: number } & EntryChange) =>
      got(api.PATCH("/api/catalogue/{kind}/{pk}", { ...at(kind, id), body: change })),
    SHOWN,
  );
export const useMarkFavourite = () =>
  useChange(
    ({ kind, id, favourite }: { kind: Kind; id: number; favourite: boolean }) =>
      got(api.PUT("/api/catalogue/{kind}/{pk}/favourite", { ...at(kind, id), body: { favourite } })),
    ["presets", "shelf"],
  );
export const useDeleteEntry = () =>
  useChange(
    ({ kind, id }: { kind: Kind; id: number }) => got(api.DELETE("/api/catalogue/{kind}/{pk}", at(kind, id))),
    ["shelf", "presets"],
  );
export const useRestoreEntry = () =>
  useChange(
    ({ kind, id }: { kind: Kind; id: number }) => got(api.POST("/api/catalogue/{kind}/{pk}/restore", at(kind, id))),
    ["shelf", "presets"],
  );
export const useGrade = () =>
  useChange(
    (given: { entry: number; picture: number; strength: number; format: string; encoding: string }) =>
      got(api.POST("/api/shelf/grade", { body: given })),
    ["jobs"],
  );
