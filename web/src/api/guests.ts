/** Links for people without an account, and what guests say. */
import { queryOptions } from "@tanstack/react-query";
import { useChange } from "./change";
import { api, got } from "./client";
import type { GuestLinkGiven } from "./types";

/** Of a board or a project; of neither: one's own, and for curators everybody's. */
export interface LinksOf {
  readonly board?: number;
  readonly project?: number;
}
export const guestLinks = (query: LinksOf) =>
  queryOptions({
    queryKey: ["guests", "links", query],
    queryFn: ({ signal }) => got(api.GET("/api/guests/links", { params: { query }, signal })),
  });
export const useMakeGuestLink = () =>
  useChange((body: GuestLinkGiven) => got(api.POST("/api/guests/links", { body })), ["guests"]);
export const useRevokeGuestLink = () =>
  useChange((pk: number) => got(api.DELETE("/api/guests/links/{pk}", { params: { path: { pk } } })), ["guests"]);

export interface SaidOf extends LinksOf {
  readonly entry?: number;
  readonly shot?: number;
}
export const guestVerdicts = (query: SaidOf) =>
  queryOptions({
    queryKey: ["guests", "verdicts", query],
    queryFn: ({ signal }) => got(api.GET("/api/guests/verdicts", { params: { query }, signal })),
  });
