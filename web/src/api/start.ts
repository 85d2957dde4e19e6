/** The page that one begins at. */
import { queryOptions } from "@tanstack/react-query";
import { api, got } from "./client";

export const start = queryOptions({
  queryKey: ["start"],
  queryFn: ({ signal }) => got(api.GET("/api/start", { signal })),
  staleTime: 0,
});

/** Anything there is, by words of its name. */
export const searchEverything = (words: string) =>
  queryOptions({
    queryKey: ["search", words],
    queryFn: ({ signal }) => got(api.GET("/api/search", { params: { query: { words } }, signal })),
    enabled: words !== "",
    staleTime: 0,
  });
