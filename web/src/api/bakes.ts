/** Baking: the formats there are, how well each will do, and what was baked from a look. */
import { queryOptions } from "@tanstack/react-query";
import { steady, useChange } from "./change";
import { api, got } from "./client";
import type { BakeChoice, FormatChoice, Look } from "./types";

const at = (pk: number) => ({ params: { path: { pk } } });

export const formats = queryOptions({
  queryKey: ["formats"],
  queryFn: ({ signal }) => got(api.GET("/api/bake/formats", { signal })),
  ...steady,
});
export interface FidelityAsk {
  readonly look: Look;
  readonly choice: BakeChoice;
  readonly format: FormatChoice;
  readonly picture: number | null;
  readonly sizes: readonly number[];
  readonly tolerance: number;
}
export const fidelity = (ask: FidelityAsk) =>
  queryOptions({
    queryKey: ["fidelity", ask],
    queryFn: ({ signal }) => got(api.POST("/api/bake/fidelity", { body: { ...ask, sizes: [...ask.sizes] }, signal })),
    staleTime: 300_000,
    retry: false,
  });
export const bakes = (id: number) =>
  queryOptions({
    queryKey: ["bakes", id],
    queryFn: ({ signal }) => got(api.GET("/api/bake/looks/{pk}", { ...at(id), signal })),
  });
export const useBake = (id: number) =>
  useChange(
    (given: { version: number; choice: BakeChoice }) =>
      got(api.POST("/api/bake/looks/{pk}", { ...at(id), body: given })),
    ["jobs", "shelf", "bakes"],
  );
