/** The API, described for those who write programs. */
import { queryOptions } from "@tanstack/react-query";
import { api, got } from "./client";

export const reference = queryOptions({
  queryKey: ["reference"],
  queryFn: ({ signal }) => got(api.GET("/api/reference", { signal })),
  staleTime: Infinity,
});
