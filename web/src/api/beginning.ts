/** The first hour of a studio, for its admins. */
import { queryOptions } from "@tanstack/react-query";
import { useChange } from "./change";
import { api, got } from "./client";

export const beginning = queryOptions({
  queryKey: ["studio", "beginning"],
  queryFn: ({ signal }) => got(api.GET("/api/studio/beginning", { signal })),
});
export interface Taken {
  readonly pictures: boolean;
  readonly looks: boolean;
  readonly categories: boolean;
}
/** Takes of what is offered what is said; a worker brings it in. */
export const useBegin = () =>
  useChange((body: Taken) => got(api.POST("/api/studio/beginning", { body })), ["studio", "jobs"]);
export const useSetDelivery = () =>
  useChange((delivery: string) => got(api.PUT("/api/studio/delivery", { body: { delivery } })), ["studio"]);
