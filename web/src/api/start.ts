/** The page that one begins at. */
import { queryOptions } from "@tanstack/react-query";
import { api, got } from "./client";

export const start = queryOptions({
  queryKey: ["start"],
  queryFn: ({ signal }) => got(api.GET("/api/start", { signal })),
  staleTime: 0,
});
