/** Packs that leave the studio. */
import { queryOptions } from "@tanstack/react-query";
import { useChange } from "./change";
import { api, got } from "./client";
import type { PackChoice } from "./types";

export const packPlan = (choice: PackChoice) =>
  queryOptions({
    queryKey: ["packing", choice.entries, choice.reason],
    queryFn: ({ signal }) => got(api.POST("/api/packing/plan", { body: choice, signal })),
  });
export const usePack = () =>
  useChange((choice: PackChoice) => got(api.POST("/api/packing", { body: choice })), ["jobs"]);
