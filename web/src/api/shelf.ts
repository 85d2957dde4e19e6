/** The catalogue: pages of entries, how many each choice would show, and what is the same for entries of every kind. */
import { infiniteQueryOptions, queryOptions } from "@tanstack/react-query";
import { say } from "../kit/passing";
import { useChange } from "./change";
import { api, got, wordsFor } from "./client";
import type { operations } from "./schema";
import type { Entry, EntryChange, Kind, ManyChange, SeenBy } from "./types";

export type Order = NonNullable<
  NonNullable<operations["saucer_studio_preview_entries_api_list_entries"]["parameters"]["query"]>["order"]
>;

/** What the wall is narrowed by: of each facet, any choice will do; of tags all must be there. */
export interface Wanted {
  readonly search: string;
  readonly kinds: readonly string[];
  readonly categories: readonly string[];
  readonly tags: readonly string[];
  readonly states: readonly string[];
  readonly expects: readonly string[];
  readonly formats: readonly string[];
  readonly health: readonly string[];
  readonly holds: readonly string[];
  readonly mayPassOn: readonly string[];
  readonly owners: readonly string[];
  readonly favourite: boolean;
  readonly days: number | null;
  /** May be passed on for 30 more days at most. */
  readonly ending: boolean;
  /** LUTs that a look or preset names, or that none does. */
  readonly used: "" | "yes" | "no";
  readonly order: Order;
}

export const EVERYTHING: Wanted = {
  search: "",
  kinds: [],
  categories: [],
  tags: [],
  states: [],
  expects: [],
  formats: [],
  health: [],
  holds: [],
  mayPassOn: [],
  owners: [],
  favourite: false,
  days: null,
  ending: false,
  used: "",
  order: "newest",
};

const asked = (wanted: Wanted) => ({
  q: wanted.search,
  kind: [...wanted.kinds],
  category: [...wanted.categories],
  tag: [...wanted.tags],
  in_state: [...wanted.states],
  expects: [...wanted.expects],
  format: [...wanted.formats],
  health: [...wanted.health],
  holds: [...wanted.holds],
  may_pass_on: [...wanted.mayPassOn],
  owner: wanted.owners.map(Number),
  favourite: wanted.favourite,
  ending: wanted.ending,
  used: wanted.used,
  ...(wanted.days === null ? {} : { days: wanted.days }),
  order: wanted.order,
});

export const entries = (wanted: Wanted, size = 60) =>
  infiniteQueryOptions({
    queryKey: ["shelf", "entries", wanted, size],
    queryFn: ({ signal, pageParam }) =>
      got(api.GET("/api/shelf/entries", { params: { query: { ...asked(wanted), cursor: pageParam, size } }, signal })),
    initialPageParam: "",
    getNextPageParam: (page) => page.cursor || undefined,
  });
/** The first entries of a search, for lists to choose from. */
export const firstEntries = (some: Partial<Wanted>, size = 60) => {
  const wanted = { ...EVERYTHING, ...some };
  return queryOptions({
    queryKey: ["shelf", "first", wanted, size],
    queryFn: ({ signal }) =>
      got(api.GET("/api/shelf/entries", { params: { query: { ...asked(wanted), size } }, signal })),
  });
};
export const alike = (id: number) =>
  queryOptions({
    queryKey: ["shelf", "alike", id],
    queryFn: ({ signal }) => got(api.GET("/api/shelf/entries/{pk}/alike", { params: { path: { pk: id } }, signal })),
  });
/** As many as the wall has on its first screens, the nearest first. */
export const wallAlike = (id: number | null) =>
  queryOptions({
    queryKey: ["shelf", "alike", id, "wall"],
    queryFn: ({ signal }) =>
      got(
        api.GET("/api/shelf/entries/{pk}/alike", {
          params: { path: { pk: id ?? 0 }, query: { most: 60 } },
          signal,
        }),
      ),
    enabled: id !== null,
  });
export const tags = queryOptions({
  queryKey: ["shelf", "tags"],
  queryFn: ({ signal }) => got(api.GET("/api/catalogue/tags", { params: { query: {} }, signal })),
});
export const counts = (wanted: Wanted) =>
  queryOptions({
    queryKey: ["shelf", "counts", wanted],
    queryFn: ({ signal }) => got(api.GET("/api/shelf/counts", { params: { query: asked(wanted) }, signal })),
  });
const HOUR = 3_600_000;
/** What may be passed on for 30 more days at most: only how many. */
export const ending = queryOptions({
  queryKey: ["shelf", "ending"],
  queryFn: ({ signal }) =>
    got(
      api.GET("/api/shelf/entries", {
        params: { query: { ...asked({ ...EVERYTHING, ending: true }), size: 1 } },
        signal,
      }),
    ),
  refetchInterval: HOUR,
});
export const categories = queryOptions({
  queryKey: ["shelf", "categories"],
  queryFn: ({ signal }) => got(api.GET("/api/catalogue/categories", { signal })),
});

/** Everything that shows entries. */
const SHOWN = ["shelf", "lut", "look", "preset", "presets", "described"] as const;
const at = (kind: Kind, pk: number) => ({ params: { path: { kind, pk } } });

export const described = (kind: Kind, id: number) =>
  queryOptions({
    queryKey: ["described", kind, id],
    queryFn: ({ signal }) => got(api.GET("/api/catalogue/{kind}/{pk}", { ...at(kind, id), signal })),
  });
export const uses = (kind: Kind, id: number) =>
  queryOptions({
    queryKey: ["described", kind, id, "uses"],
    queryFn: ({ signal }) => got(api.GET("/api/catalogue/{kind}/{pk}/uses", { ...at(kind, id), signal })),
  });
/** Who sees an entry, while no version of it was ever proposed. */
export const sharing = (kind: Kind, id: number) =>
  queryOptions({
    queryKey: ["described", kind, id, "sharing"],
    queryFn: ({ signal }) => got(api.GET("/api/catalogue/{kind}/{pk}/sharing", { ...at(kind, id), signal })),
  });
export const useShare = () =>
  useChange(
    ({ kind, id, ...given }: { kind: Kind; id: number; seen_by: SeenBy; people: string[]; projects: number[] }) =>
      got(api.PUT("/api/catalogue/{kind}/{pk}/sharing", { ...at(kind, id), body: given })),
    SHOWN,
  );
export const useChangeEntry = () =>
  useChange(
    ({ kind, id, ...change }: { kind: Kind; id: number } & EntryChange) =>
      got(api.PATCH("/api/catalogue/{kind}/{pk}", { ...at(kind, id), body: change })),
    SHOWN,
  );
/** A star has no place for words: where it cannot be kept, that is said beside the page. */
export const useMarkFavourite = () =>
  useChange(
    async ({ kind, id, name, favourite }: { kind: Kind; id: number; name: string; favourite: boolean }) => {
      try {
        await got(api.PUT("/api/catalogue/{kind}/{pk}/favourite", { ...at(kind, id), body: { favourite } }));
      } catch (error) {
        say(`The star of ${name} is as it was. ${wordsFor(error)}`);
        throw error;
      }
    },
    [...SHOWN, "start"],
  );
/** onGone: leaves whatever page shows it, before what is known is asked for again: nothing of it is there to be asked for. */
export const useDeleteEntry = () =>
  useChange(
    async ({ kind, id, onGone }: { kind: Kind; id: number; onGone: () => void }) => {
      await got(api.DELETE("/api/catalogue/{kind}/{pk}", at(kind, id)));
      onGone();
    },
    ["shelf", "presets"],
  );
export const useRestoreEntry = () =>
  useChange(
    ({ kind, id }: { kind: Kind; id: number }) => got(api.POST("/api/catalogue/{kind}/{pk}/restore", at(kind, id))),
    ["shelf", "presets", "bin"],
  );
export const useGrade = () =>
  useChange(
    (given: { entry: number; member: string; picture: number; strength: number; format: string; encoding: string }) =>
      got(api.POST("/api/shelf/grade", { body: given })),
    ["jobs"],
  );
export const useChangeMany = () =>
  useChange((given: ManyChange) => got(api.POST("/api/catalogue/many", { body: given })), SHOWN);
export const useUndoMany = () =>
  useChange(
    (number: number) => got(api.POST("/api/catalogue/many/{number}/undo", { params: { path: { number } } })),
    SHOWN,
  );
export const useRenameTag = () =>
  useChange(
    (given: { old: string; new: string }) => got(api.POST("/api/catalogue/tags/rename", { body: given })),
    SHOWN,
  );

/** Where an entry's fingerprint is; another address whenever it does something else. size: its pixels */
export const markOf = (entry: Entry, size = 104) =>
  `/api/${entry.kind}s/${String(entry.id)}/fingerprint.png?size=${size}&state=${entry.shows}`;
/** The same where nothing else is known of it. */
export const fingerprintOf = (kind: Kind, id: number) => `/api/${kind}s/${String(id)}/fingerprint.png?size=60`;
/** Where an entry stands on a picture. */
export const previewOf = (entry: Entry, picture: { id: number; state: string }) =>
  `/api/shelf/entries/${String(entry.id)}/preview.jpg?picture=${picture.id}&state=${entry.shows}-${picture.state}`;
/** What an entry does, in a few words. */
export const characterOf = (entry: Entry) => entry.character?.words.join(", ") ?? "";
