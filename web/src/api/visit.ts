/** What somebody without an account sees and says, by a link. */
import { queryOptions } from "@tanstack/react-query";
import { useChange } from "./change";
import { api, got } from "./client";
import type { ShownThing } from "./types";

const at = (code: string) => ({ params: { path: { code } } });
export const door = (code: string) =>
  queryOptions({
    queryKey: ["visit", "door", code],
    queryFn: ({ signal }) => got(api.GET("/api/guest/{code}", { ...at(code), signal })),
    retry: false,
  });
export const useComeIn = (code: string) =>
  useChange(
    (body: { name: string; password: string }) => got(api.POST("/api/guest/{code}", { ...at(code), body })),
    ["visit"],
  );
export const shown = (code: string) =>
  queryOptions({
    queryKey: ["visit", "shown", code],
    queryFn: ({ signal }) => got(api.GET("/api/guest/{code}/shown", { ...at(code), signal })),
  });

const of = (code: string, { kind, id: pk }: ShownThing) => ({ params: { path: { code, kind, pk } } });
export const useJudgeShown = (code: string) =>
  useChange(
    ({ thing, choice }: { thing: ShownThing; choice: ShownThing["choice"] }) =>
      got(api.PUT("/api/guest/{code}/{kind}/{pk}/verdict", { ...of(code, thing), body: { choice } })),
    ["visit"],
    "verdicts of a guest",
  );
export interface Remarked {
  readonly thing: ShownThing;
  readonly words: string;
  readonly picture: number | null;
  /** Of a shot that moves. */
  readonly frame: number | null;
  readonly place: { readonly x: number; readonly y: number } | null;
}
export const useRemarkShown = (code: string) =>
  useChange(
    ({ thing, words, picture, frame, place }: Remarked) =>
      got(
        api.POST("/api/guest/{code}/{kind}/{pk}/remarks", {
          ...of(code, thing),
          body: { words, frame, ...(place ? { ...place, picture } : {}) },
        }),
      ),
    ["visit"],
  );
export const useTakeBackRemark = (code: string) =>
  useChange(
    (pk: number) => got(api.DELETE("/api/guest/{code}/remarks/{pk}", { params: { path: { code, pk } } })),
    ["visit"],
  );

/** Address of one of its pictures. picture: that an entry is seen on; a shot is one itself; frame: of one that moves */
export function frameOf(
  code: string,
  thing: ShownThing,
  picture: number | null,
  large: boolean,
  frame: number | null = null,
): string {
  const asked = new URLSearchParams({ state: thing.shows });
  if (picture !== null) asked.set("picture", String(picture));
  if (large) asked.set("large", "true");
  if (frame !== null) asked.set("frame", String(frame));
  return `/api/guest/${code}/${thing.kind}/${String(thing.id)}/preview.jpg?${asked.toString()}`;
}
