import { queryOptions } from "@tanstack/react-query";
import { steady } from "./change";
import { api, got } from "./client";

export const encodings = queryOptions({
  queryKey: ["encodings"],
  queryFn: ({ signal }) => got(api.GET("/api/encodings", { signal })),
  ...steady,
});
