/** Everybody in the studio, what is asked of them, and what they did. */
import { infiniteQueryOptions, queryOptions } from "@tanstack/react-query";
import { useChange } from "./change";
import { api, got } from "./client";
import type { components } from "./schema";
import type { Role, Scope } from "./types";

const STALE = ["team", "session", "activity"] as const;
const of = (username: string) => ({ params: { path: { username } } });

export const team = queryOptions({
  queryKey: ["team"],
  queryFn: ({ signal }) => got(api.GET("/api/team", { signal })),
});
export const account = (username: string) =>
  queryOptions({
    queryKey: ["team", username],
    queryFn: ({ signal }) => got(api.GET("/api/team/{username}", { ...of(username), signal })),
  });
export const studio = queryOptions({
  queryKey: ["studio"],
  queryFn: ({ signal }) => got(api.GET("/api/studio", { signal })),
});

export const useInvite = () =>
  useChange(
    (body: { role: Role; full_name: string; email: string }) => got(api.POST("/api/team/invites", { body })),
    STALE,
  );
export const useTakeInviteBack = () =>
  useChange((pk: number) => got(api.DELETE("/api/team/invites/{pk}", { params: { path: { pk } } })), STALE);
export const useAddService = () =>
  useChange(
    (body: { name: string; full_name: string; role: Role }) => got(api.POST("/api/team/services", { body })),
    STALE,
  );
export const useChangeAccount = (username: string) =>
  useChange(
    (body: { role?: Role; is_active?: boolean; full_name?: string; email?: string }) =>
      got(api.PATCH("/api/team/{username}", { ...of(username), body })),
    STALE,
  );
export const useUnlock = (username: string) =>
  useChange(() => got(api.POST("/api/team/{username}/unlock", of(username))), STALE);
export const usePasswordLink = (username: string) =>
  useChange(() => got(api.POST("/api/team/{username}/link", of(username))), STALE);
export const useForgetFactor = (username: string) =>
  useChange(() => got(api.DELETE("/api/team/{username}/second-factor", of(username))), STALE);
export const useEndSessionOf = (username: string) =>
  useChange(
    (pk: number) => got(api.DELETE("/api/team/{username}/sessions/{pk}", { params: { path: { username, pk } } })),
    STALE,
  );
export const useHandOver = (username: string) =>
  useChange(
    (to: string) => got(api.POST("/api/team/{username}/hand-over", { ...of(username), body: { to } })),
    [...STALE, "shelf", "described", "boards", "projects", "pictures"],
  );
export const useMakeTokenFor = (username: string) =>
  useChange(
    (body: { name: string; scopes: Scope[]; until: string }) =>
      got(api.POST("/api/team/{username}/tokens", { ...of(username), body })),
    STALE,
  );
export const useRevokeTokenOf = (username: string) =>
  useChange(
    (pk: number) => got(api.DELETE("/api/team/{username}/tokens/{pk}", { params: { path: { username, pk } } })),
    STALE,
  );
export const useChangeStudio = () =>
  useChange(
    (body: components["schemas"]["StudioIn"]) => got(api.PATCH("/api/studio", { body })),
    ["studio", "session"],
  );

export interface WantedActivity {
  readonly action?: string;
  readonly words?: string;
  readonly since?: string;
  readonly until?: string;
}
export const activity = (wanted: WantedActivity) =>
  infiniteQueryOptions({
    queryKey: ["activity", wanted],
    queryFn: ({ signal, pageParam }) =>
      got(
        api.GET("/api/activity", {
          params: { query: { ...wanted, ...(pageParam === null ? {} : { before: pageParam }) } },
          signal,
        }),
      ),
    initialPageParam: null as number | null,
    getNextPageParam: (page) => (page.has_more ? (page.lines.at(-1)?.id ?? null) : null),
  });
export const exportOf = (wanted: WantedActivity) =>
  `/api/activity.csv?${new URLSearchParams(wanted as Record<string, string>).toString()}`;
