/** Where looks break: the last report of each, and asking for another. */
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
