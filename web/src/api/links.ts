/** Links that let somebody in once. */
import { queryOptions } from "@tanstack/react-query";
import { useChange } from "./change";
import { api, got } from "./client";

export const link = (code: string) =>
  queryOptions({
    queryKey: ["link", code],
    queryFn: ({ signal }) => got(api.GET("/api/links/{code}", { params: { path: { code } }, signal })),
    staleTime: Infinity,
    retry: false,
  });
export const useLink = (code: string) =>
  useChange(
    (body: { password: string; username: string; full_name: string; studio: string }) =>
      got(api.POST("/api/links/{code}", { params: { path: { code } }, body })),
    [],
  );
