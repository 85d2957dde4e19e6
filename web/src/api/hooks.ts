/** Addresses of the team's programs that are told of what happens. */
import { queryOptions } from "@tanstack/react-query";
import { useChange } from "./change";
import { api, got } from "./client";
import type { HookEvent } from "./types";

export const hooks = queryOptions({
  queryKey: ["hooks"],
  queryFn: ({ signal }) => got(api.GET("/api/hooks", { signal })),
});
const WAITING = 3000;
/** The last fifty; asked for again as long as one waits. */
export const calls = (pk: number) =>
  queryOptions({
    queryKey: ["hooks", pk, "calls"],
    queryFn: ({ signal }) => got(api.GET("/api/hooks/{pk}/calls", { params: { path: { pk } }, signal })),
    refetchInterval: ({ state }) => (state.data?.some((one) => one.state === "waiting") ? WAITING : false),
  });
const at = (pk: number) => ({ params: { path: { pk } } });
export interface HookGiven {
  readonly name: string;
  readonly url: string;
  readonly events: HookEvent[];
}
export const useAddHook = () => useChange((body: HookGiven) => got(api.POST("/api/hooks", { body })), ["hooks"]);
export const useChangeHook = () =>
  useChange(
    ({ pk, ...body }: { pk: number; is_on?: boolean }) => got(api.PATCH("/api/hooks/{pk}", { ...at(pk), body })),
    ["hooks"],
  );
export const useRemoveHook = () => useChange((pk: number) => got(api.DELETE("/api/hooks/{pk}", at(pk))), ["hooks"]);
export const useTryHook = () => useChange((pk: number) => got(api.POST("/api/hooks/{pk}/try", at(pk))), ["hooks"]);
