/** How the studio runs, for its admins. */
import { queryOptions } from "@tanstack/react-query";
import { useChange } from "./change";
import { api, got } from "./client";

export const room = queryOptions({
  queryKey: ["running", "room"],
  queryFn: ({ signal }) => got(api.GET("/api/studio/room", { signal })),
});
export const everybodysJobs = queryOptions({
  queryKey: ["running", "jobs"],
  queryFn: ({ signal }) => got(api.GET("/api/studio/jobs", { signal })),
  refetchInterval: 5_000,
});
export const well = queryOptions({
  queryKey: ["running", "well"],
  queryFn: ({ signal }) => got(api.GET("/api/studio/well", { signal })),
  refetchInterval: 30_000,
});
export const useCancelAnybodys = () =>
  useChange(
    (job: number) => got(api.POST("/api/studio/jobs/{job}/cancel", { params: { path: { job } } })),
    ["running", "jobs"],
  );
