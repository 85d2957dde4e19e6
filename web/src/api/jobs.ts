import { queryOptions } from "@tanstack/react-query";
import { useChange } from "./change";
import { api, got } from "./client";
import type { Job } from "./types";

const at = (pk: number) => ({ params: { path: { pk } } });

export const isActive = (job: Job) => job.state === "waiting" || job.state === "running";

export const jobs = queryOptions({
  queryKey: ["jobs"],
  queryFn: ({ signal }) => got(api.GET("/api/jobs", { signal })),
  refetchInterval: (query) => (query.state.data?.some(isActive) ? 700 : 20_000),
});
export const job = (id: number | null) =>
  queryOptions({
    queryKey: ["job", id],
    queryFn: ({ signal }) => got(api.GET("/api/jobs/{pk}", { ...at(id ?? 0), signal })),
    enabled: id !== null,
    refetchInterval: (query) => (query.state.data === undefined || isActive(query.state.data) ? 400 : false),
  });
export const useCancelJob = () =>
  useChange((id: number) => got(api.POST("/api/jobs/{pk}/cancel", at(id))), ["jobs", "job"]);
