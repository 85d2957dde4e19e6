/** Who is signed in, and what they may do. */
import { queryOptions, useQuery } from "@tanstack/react-query";
import { useChange } from "./change";
import { api, got } from "./client";
import type { Ability } from "./types";

export const session = queryOptions({
  queryKey: ["session"],
  queryFn: ({ signal }) => got(api.GET("/api/session", { signal })),
  staleTime: 60_000,
});

/** For admins: what lists leave out because it cannot be read. */
export const unreadable = queryOptions({
  queryKey: ["session", "unreadable"],
  queryFn: ({ signal }) => got(api.GET("/api/unreadable", { signal })),
});

/** May the person do this anywhere? What they may not do is not offered to them. */
export function useMay(ability: Ability): boolean {
  const { data } = useQuery(session);
  return data?.may?.includes(ability) ?? false;
}

export const useSignIn = () =>
  useChange(
    (given: { username: string; password: string }) => got(api.POST("/api/session", { body: given })),
    ["session"],
  );
export const useSignOut = () => useChange(() => got(api.DELETE("/api/session")), ["session"]);
