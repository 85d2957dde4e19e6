import { queryOptions } from "@tanstack/react-query";
import { useChange } from "./change";
import { api, got } from "./client";
import type { Step } from "./types";

export const presets = queryOptions({
  queryKey: ["presets"],
  queryFn: ({ signal }) => got(api.GET("/api/presets", { signal })),
});
export const preset = (id: number) =>
  queryOptions({
    queryKey: ["preset", id],
    queryFn: ({ signal }) => got(api.GET("/api/presets/{pk}", { params: { path: { pk: id } }, signal })),
  });
export const recents = queryOptions({
  queryKey: ["recents"],
  queryFn: ({ signal }) => got(api.GET("/api/presets/recent", { signal })),
});
export const rememberSettings = (steps: readonly Step[]) =>
  got(api.POST("/api/presets/recent", { body: { steps: [...steps] } }));

export interface PresetFields {
  readonly name: string;
  readonly category: string;
  readonly note: string;
}
export const useSavePresetVersion = () =>
  useChange(
    ({ id, steps, note }: { id: number; steps: readonly Step[]; note: string }) =>
      got(api.POST("/api/presets/{pk}/versions", { params: { path: { pk: id } }, body: { steps: [...steps], note } })),
    ["presets", "preset", "shelf", "described", "review"],
  );
export const useKeepPreset = () =>
  useChange(
    ({ steps, ...fields }: PresetFields & { steps: readonly Step[] }) =>
      got(api.POST("/api/presets", { body: { ...fields, steps: [...steps] } })),
    ["presets", "shelf"],
  );
