/** Projects: their shots, and what lies on them. */
import { queryOptions } from "@tanstack/react-query";
import { useChange } from "./change";
import { api, got } from "./client";

const at = (pk: number) => ({ params: { path: { pk } } });
const STALE = ["projects", "described"] as const;

export const projects = queryOptions({
  queryKey: ["projects"],
  queryFn: ({ signal }) => got(api.GET("/api/projects", { signal })),
});
export const project = (id: number) =>
  queryOptions({
    queryKey: ["projects", id],
    queryFn: ({ signal }) => got(api.GET("/api/projects/{pk}", { ...at(id), signal })),
  });
export const useMakeProject = () =>
  useChange(
    (given: { name: string; code: string; delivery: string }) =>
      got(api.POST("/api/projects", { body: { ...given, note: "", closed: false } })),
    STALE,
  );
export const useAddShots = (id: number) =>
  useChange(
    (given: { scene: string; pictures: number[] }) =>
      got(api.POST("/api/projects/{pk}/shots", { ...at(id), body: given })),
    STALE,
  );
export const useApproveShots = (id: number) =>
  useChange(
    (given: { shots: number[]; approved: boolean }) =>
      got(api.PATCH("/api/projects/{pk}/shots", { ...at(id), body: given })),
    STALE,
  );
export const usePutLook = (id: number) =>
  useChange(
    (given: { shots: number[]; entry: number; stack: boolean }) =>
      got(api.POST("/api/projects/{pk}/looks", { ...at(id), body: { ...given, strength: 1 } })),
    STALE,
  );
export const useTakeOff = (id: number) =>
  useChange((shots: number[]) => got(api.POST("/api/projects/{pk}/looks/off", { ...at(id), body: { shots } })), STALE);
export const useSetStrength = (id: number) =>
  useChange(
    (given: { shots: number[]; strength: number }) =>
      got(api.POST("/api/projects/{pk}/looks/strength", { ...at(id), body: given })),
    STALE,
  );
export const useTakeNewest = (id: number) =>
  useChange(
    (shots: number[]) => got(api.POST("/api/projects/{pk}/looks/newest", { ...at(id), body: { shots } })),
    STALE,
  );
export const useUndoGrade = (id: number) =>
  useChange(
    (number: number) =>
      got(api.POST("/api/projects/{pk}/looks/undo/{number}", { params: { path: { pk: id, number } } })),
    STALE,
  );
