/** Packs that leave the studio. */
import { queryOptions } from "@tanstack/react-query";
import { useChange } from "./change";
import { api, asForm, got } from "./client";
import type { FileChoice, Kind, PackChoice } from "./types";

export const packPlan = (choice: PackChoice) =>
  queryOptions({
    queryKey: ["packing", choice.entries, choice.reason],
    queryFn: ({ signal }) => got(api.POST("/api/packing/plan", { body: choice, signal })),
  });
/** Whether an entry may leave, with all that is in it; of a look without a version, its draft. */
export const rights = (kind: Kind, id: number, version: number | null = null) =>
  queryOptions({
    queryKey: ["packing", "rights", kind, id, version],
    queryFn: ({ signal }) =>
      got(
        api.GET("/api/packing/rights/{kind}/{pk}", {
          params: { path: { kind, pk: id }, query: version === null ? {} : { version } },
          signal,
        }),
      ),
  });
export const useBringBack = () =>
  useChange((file: File) => got(api.POST("/api/packing/back", asForm({ file }))), ["jobs"]);

/** Is this a pack that Saucer made? Its papers are named in the last of its bytes, where a zip lists what is in it. */
export async function isOwnPack(file: File): Promise<boolean> {
  if (!file.name.toLowerCase().endsWith(".zip")) return false;
  const end = new TextDecoder("latin1").decode(await file.slice(-65_536).arrayBuffer());
  return ["manifest.json", "LICENCES.txt", "SHA256SUMS"].every((name) => end.includes(name));
}

export const useMakeFile = () =>
  useChange((given: FileChoice) => got(api.POST("/api/packing/file", { body: given })), ["jobs"]);
export const usePack = () =>
  useChange((choice: PackChoice) => got(api.POST("/api/packing", { body: choice })), ["jobs"]);
