/** Who is signed in, and what they may do. */
import { queryOptions, useQuery } from "@tanstack/react-query";
import { useChange } from "./change";
import { api, callAuth, got, Problem } from "./client";
import { askKey, type KeyRequest } from "./keys";
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
/** The second step of signing in: a code from an app, or one that was kept for when that is lost. */
export const useSignInByCode = () =>
  useChange(
    async (code: string) => {
      const { status } = await callAuth("POST", "2fa/authenticate", { code });
      if (status === 401) throw new Problem(401, "This took too long. Sign in once more from the beginning.");
    },
    ["session"],
  );
/** With a key, as the second step, or in place of a password. */
export const useSignInByKey = (step: "second" | "alone") =>
  useChange(async () => {
    const path = step === "second" ? "webauthn/authenticate" : "webauthn/login";
    const { data } = await callAuth("GET", path);
    const credential = await askKey((data as { request_options: KeyRequest }).request_options);
    await callAuth("POST", path, { credential });
  }, ["session"]);
/** Where one goes on to come in by the studio's accounts elsewhere. */
export const useElsewhere = () => useChange(() => got(api.POST("/api/session/elsewhere")), []);
export const useForgotten = () => useChange((name: string) => got(api.POST("/api/forgotten", { body: { name } })), []);
export const useSignOut = () => useChange(() => got(api.DELETE("/api/session")), ["session"]);
