/** Where looks break: the last report of each, asking for another, and what each measure may be at most. */
import { queryOptions } from "@tanstack/react-query";
import { useChange } from "./change";
import { api, got } from "./client";

const of = (pk: number) => ({ params: { path: { pk } } });

export const stress = (look: number) =>
  queryOptions({
    queryKey: ["stress", look],
    queryFn: ({ signal }) => got(api.GET("/api/stress/looks/{pk}", { ...of(look), signal })),
  });
export const useTestLook = (look: number) =>
  useChange(
    (body: { readonly pictures: readonly number[]; readonly project: number | null }) =>
      got(api.POST("/api/stress/looks/{pk}", { ...of(look), body: { ...body, pictures: [...body.pictures] } })),
    ["jobs"],
  );
export const stressLimits = queryOptions({
  queryKey: ["stress", "limits"],
  queryFn: ({ signal }) => got(api.GET("/api/stress/limits", { signal })),
});
/** All of them; those that are left out are the usual ones again. */
export const useSetStressLimits = () =>
  useChange(
    (limits: Readonly<Record<string, number>>) => got(api.PUT("/api/stress/limits", { body: { limits } })),
    ["stress"],
  );
