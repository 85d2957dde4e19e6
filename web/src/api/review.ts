/** The way of versions: what waits, how each came where it is, remarks, and what one is told. */
import { queryOptions } from "@tanstack/react-query";
import { useChange } from "./change";
import { api, got } from "./client";
import type { EntryState, Kind, NoticeAbout } from "./types";

const STALE = ["review", "shelf", "described", "notices"] as const;
const of = (kind: Kind, pk: number, number: number) => ({ params: { path: { kind, pk, number } } });

export const queue = queryOptions({
  queryKey: ["review", "queue"],
  queryFn: ({ signal }) => got(api.GET("/api/review/queue", { signal })),
  refetchInterval: 30_000,
});
export const reviews = (kind: Kind, id: number) =>
  queryOptions({
    queryKey: ["review", kind, id],
    queryFn: ({ signal }) => got(api.GET("/api/review/{kind}/{pk}", { params: { path: { kind, pk: id } }, signal })),
    refetchInterval: 30_000,
  });
export const notices = queryOptions({
  queryKey: ["notices"],
  queryFn: ({ signal }) => got(api.GET("/api/notices", { signal })),
  refetchInterval: 20_000,
});

export const useMove = (kind: Kind, id: number) =>
  useChange(
    ({ number, ...body }: { number: number; to: EntryState; words: string }) =>
      got(api.POST("/api/review/{kind}/{pk}/{number}", { ...of(kind, id, number), body })),
    STALE,
  );
export const usePublishMany = () =>
  useChange(
    (versions: readonly number[]) =>
      got(api.POST("/api/review/publish", { body: { versions: [...versions], words: "" } })),
    STALE,
  );
export const useSendBack = () =>
  useChange(
    ({ kind, entry, number, words }: { kind: Kind; entry: number; number: number; words: string }) =>
      got(
        api.POST("/api/review/{kind}/{pk}/{number}", { ...of(kind, entry, number), body: { to: "sent back", words } }),
      ),
    STALE,
  );
export interface NewPin {
  readonly number: number;
  readonly words: string;
  readonly picture?: number;
  readonly x?: number;
  readonly y?: number;
  readonly answers?: number;
}
export const useAddPin = (kind: Kind, id: number) =>
  useChange(
    ({ number, ...body }: NewPin) =>
      got(api.POST("/api/review/{kind}/{pk}/{number}/pins", { ...of(kind, id, number), body })),
    ["review"],
  );
export const useSettlePin = () =>
  useChange(
    ({ id, settled }: { id: number; settled: boolean }) =>
      got(api.POST("/api/review/pins/{pk}/settle", { params: { path: { pk: id } }, body: { settled } })),
    ["review"],
  );
export const useClearNotices = () =>
  useChange(
    (body: { about: NoticeAbout | null; up_to: number }) => got(api.POST("/api/notices/clear", { body })),
    ["notices"],
  );
export const useSeen = () =>
  useChange((upTo: number) => got(api.POST("/api/notices/seen", { body: { up_to: upTo } })), ["notices"]);
