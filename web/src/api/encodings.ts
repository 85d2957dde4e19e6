import { queryOptions } from "@tanstack/react-query";
import { steady, useChange } from "./change";
import { api, got } from "./client";
import type { components } from "./schema";

type Schemas = components["schemas"];
export type Encoding = Schemas["EncodingOut"];
export type OwnEncoding = Schemas["OwnEncoding"];
export type CurveDrawn = Schemas["CurveOut"];

export const encodings = queryOptions({
  queryKey: ["encodings"],
  queryFn: ({ signal }) => got(api.GET("/api/encodings", { signal })),
  ...steady,
});

export const useAddEncoding = () =>
  useChange((definition: OwnEncoding) => got(api.POST("/api/encodings", { body: definition })), ["encodings"]);

export const useRemoveEncoding = () =>
  useChange(
    (id: string) => got(api.DELETE("/api/encodings/{encoding_id}", { params: { path: { encoding_id: id } } })),
    ["encodings"],
  );

export const drawCurve = (definition: OwnEncoding, signal?: AbortSignal): Promise<CurveDrawn> =>
  got(api.POST("/api/encodings/curve", { body: definition, ...(signal ? { signal } : {}) }));
