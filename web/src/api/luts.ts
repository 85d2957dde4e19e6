/** LUTs of the Shelf: what they hold, their health, and the tools on them. */
import { queryOptions } from "@tanstack/react-query";
import { steady, useChange } from "./change";
import { api, asForm, got } from "./client";
import type { ToolChoice } from "./types";

const at = (pk: number) => ({ params: { path: { pk } } });

export const lut = (id: number) =>
  queryOptions({
    queryKey: ["lut", id],
    queryFn: ({ signal }) => got(api.GET("/api/luts/{pk}", { ...at(id), signal })),
  });
export const health = (id: number) =>
  queryOptions({
    queryKey: ["health", id],
    queryFn: ({ signal }) => got(api.GET("/api/luts/{pk}/health", { ...at(id), signal })),
    ...steady,
  });
export const tools = queryOptions({
  queryKey: ["tools"],
  queryFn: ({ signal }) => got(api.GET("/api/tools", { signal })),
  ...steady,
});

/** A file becomes a LUT of the Shelf; one that is there already is found again. What it is for is guessed. */
/** isPrivate: only who brings it in sees it, until they say otherwise. */
export const useBringInLut = ({ isPrivate = false } = {}) =>
  useChange(
    (file: File) => got(api.POST("/api/luts", asForm({ file, ...(isPrivate ? { private: "true" } : {}) }))),
    ["lut", "shelf"],
  );
/** Say what a LUT expects and gives. */
export const useCorrectEnds = () =>
  useChange(
    ({ id, ...ends }: { id: number; expects?: string; gives?: string }) =>
      got(api.PATCH("/api/luts/{pk}", { ...at(id), body: ends })),
    ["lut", "shelf"],
  );
export const useTool = (id: number) =>
  useChange(
    (given: { choice: ToolChoice; name: string }) => got(api.POST("/api/luts/{pk}/tool", { ...at(id), body: given })),
    ["jobs"],
  );
export const usePackFiles = (lut: number) =>
  useChange(() => got(api.POST("/api/lut-files/of/{lut}/zip", { params: { path: { lut } } })), ["jobs"]);
