/** LUTs that come in or are made from pictures: packs, charts, pairs. */
import { queryOptions } from "@tanstack/react-query";
import { steady, useChange } from "./change";
import { api, asForm, got } from "./client";
import type { ChartChoice, Correction, EditorChoice, PackRow } from "./types";

const of = (job: number) => ({ params: { path: { job } } });

export const packRows = (id: number | null) =>
  queryOptions({
    queryKey: ["pack", id],
    queryFn: ({ signal }) => got(api.GET("/api/packs/{job}", { ...of(id ?? 0), signal })),
    enabled: id !== null,
    ...steady,
  });
export const useSendPack = () =>
  useChange(
    (given: readonly { file: File; path: string }[]) =>
      got(
        api.POST(
          "/api/packs",
          asForm({ files: given.map((one) => one.file), paths: JSON.stringify(given.map((one) => one.path)) }),
        ),
      ),
    ["jobs"],
  );
export const correctRow = (job: number, index: number, body: Correction) =>
  got(api.PATCH("/api/packs/{job}/rows/{index}", { params: { path: { job, index } }, body }));
export const useKeepRows = () =>
  useChange(
    ({ job, rows }: { job: number; rows: readonly number[] }) =>
      got(api.POST("/api/packs/{job}/keep", { ...of(job), body: { rows: [...rows] } })),
    ["shelf"],
  );

export const reading = (id: number | null) =>
  queryOptions({
    queryKey: ["reading", id],
    queryFn: ({ signal }) => got(api.GET("/api/charts/{job}", { ...of(id ?? 0), signal })),
    enabled: id !== null,
    ...steady,
  });
export const useSendChart = () =>
  useChange(
    ({ file, chart, known }: { file: File; chart: ChartChoice; known: boolean }) =>
      got(api.POST("/api/charts/read", asForm({ file, chart: JSON.stringify(chart), known: String(known) }))),
    ["jobs"],
  );
export const useStandin = () =>
  useChange(
    (given: { chart: ChartChoice; editor: EditorChoice }) => got(api.POST("/api/charts/standin", { body: given })),
    ["jobs"],
  );
export const pairFit = (id: number | null) =>
  queryOptions({
    queryKey: ["pair", id],
    queryFn: ({ signal }) => got(api.GET("/api/pairs/{job}", { ...of(id ?? 0), signal })),
    enabled: id !== null,
    ...steady,
  });
export const useSendPair = () =>
  useChange(
    ({ original, recoloured, encoding, size }: { original: File; recoloured: File; encoding: string; size: number }) =>
      got(api.POST("/api/pairs", asForm({ original, recoloured, encoding, size: String(size) }))),
    ["jobs"],
  );
export const useKeepResult = () =>
  useChange(
    ({ job, ...given }: { job: number; which: "smooth" | "raw" | "fit"; name: string; licence: string }) =>
      got(api.POST("/api/results/{job}/keep", { ...of(job), body: given })),
    ["shelf"],
  );

/** A picture through one file of a pack, taken to be for what the table says at the moment. */
export function rowPicture(job: number, row: Pick<PackRow, "index" | "expects" | "gives">, picture: number): string {
  const asked = new URLSearchParams({
    picture: String(picture),
    expects: row.expects ?? "srgb",
    gives: row.gives ?? "srgb",
  });
  return `/api/packs/${String(job)}/rows/${String(row.index)}/preview.jpg?${asked.toString()}`;
}

export const useTakeApart = () =>
  useChange(
    ({ lut, ...body }: { lut: number; simple: number; expects: string; gives: string }) =>
      got(api.POST("/api/luts/{pk}/apart", { params: { path: { pk: lut } }, body })),
    ["jobs"],
  );
export const takenApart = (job: number, signal?: AbortSignal) =>
  got(api.GET("/api/apart/{job}", { ...of(job), signal: signal ?? null }));
