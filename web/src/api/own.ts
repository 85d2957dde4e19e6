/** Oneself: name, password, second factors, sessions, tokens. */
import { queryOptions } from "@tanstack/react-query";
import { useChange } from "./change";
import { api, callAuth, got } from "./client";
import { makeKey, type KeyCreation } from "./keys";
import type { NoticeAbout, Scope } from "./types";

export const own = queryOptions({
  queryKey: ["own"],
  queryFn: ({ signal }) => got(api.GET("/api/own", { signal })),
});
export const ownSessions = queryOptions({
  queryKey: ["own", "sessions"],
  queryFn: ({ signal }) => got(api.GET("/api/own/sessions", { signal })),
});
export const ownTokens = queryOptions({
  queryKey: ["own", "tokens"],
  queryFn: ({ signal }) => got(api.GET("/api/own/tokens", { signal })),
});

export const useDescribeOwn = () =>
  useChange(
    (body: { full_name?: string; email?: string; told_of?: NoticeAbout[]; is_mailed?: boolean; is_new?: false }) =>
      got(api.PATCH("/api/own", { body })),
    ["own", "session", "team"],
  );
export const useChangePassword = () =>
  useChange((body: { current: string; new: string }) => got(api.POST("/api/own/password", { body })), ["own"]);
export const useEndSession = () =>
  useChange((pk: number) => got(api.DELETE("/api/own/sessions/{pk}", { params: { path: { pk } } })), ["own"]);
export const useEndOthers = () => useChange(() => got(api.DELETE("/api/own/sessions")), ["own"]);
export const useMakeToken = () =>
  useChange(
    (body: { name: string; scopes: Scope[]; until: string }) => got(api.POST("/api/own/tokens", { body })),
    ["own"],
  );
export const useRevokeToken = () =>
  useChange((pk: number) => got(api.DELETE("/api/own/tokens/{pk}", { params: { path: { pk } } })), ["own"]);

/** A second factor that is set up. name, id: of a key */
export interface SetUp {
  readonly type: "totp" | "recovery_codes" | "webauthn";
  readonly id?: number;
  readonly name?: string;
  readonly created_at: number;
  readonly last_used_at: number | null;
  readonly unused_code_count?: number;
}
export const factors = queryOptions({
  queryKey: ["own", "factors"],
  queryFn: async () => ((await callAuth("GET", "factors")).data ?? []) as readonly SetUp[],
});

const STALE = ["own", "session"] as const;

/** Says once more who one is, before a factor is changed. */
export const useSayAgain = () => useChange((password: string) => callAuth("POST", "reauthenticate", { password }), []);
/** A new secret for a code app, which counts once a code of it was given. Drawn at /api/own/code.svg */
export const useNewSecret = () =>
  useChange(async () => ((await callAuth("GET", "factors/totp")).meta as { secret: string }).secret, []);
export const useTakeCodeApp = () => useChange((code: string) => callAuth("POST", "factors/totp", { code }), STALE);
export const useRemoveCodeApp = () => useChange(() => callAuth("DELETE", "factors/totp"), STALE);
export const useAddKey = () =>
  useChange(async (name: string) => {
    const { data } = await callAuth("GET", "factors/webauthn?passwordless");
    const credential = await makeKey((data as { creation_options: KeyCreation }).creation_options);
    return callAuth("POST", "factors/webauthn", { name, credential });
  }, STALE);
export const useRemoveKey = () =>
  useChange((id: number) => callAuth("DELETE", "factors/webauthn", { authenticators: [id] }), STALE);
/** Ten new ones, told this once; those of before are void. */
export const useNewRecoveryCodes = () =>
  useChange(
    async () =>
      ((await callAuth("POST", "factors/recovery-codes", {})).data as { unused_codes: readonly string[] }).unused_codes,
    STALE,
  );
