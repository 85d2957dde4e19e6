/** What the search over everything lists, in groups. */
import type { Action } from "../browser/actions";
import { characterOf, previewOf } from "../api/shelf";
import { discOf } from "../api/pictures";
import type { Ability, Found, Picture } from "../api/types";

export interface Item {
  readonly id: string;
  readonly name: string;
  readonly detail: string;
  /** The address of a small picture of it. */
  readonly image: string | null;
  /** Where it leads, or what it does. */
  readonly to: string | (() => void);
}
export interface Group {
  readonly id: string;
  readonly name: string;
  readonly items: readonly Item[];
}

interface Place {
  readonly name: string;
  readonly to: string;
  /** What else somebody would type. */
  readonly also: string;
  readonly needs?: Ability;
}

const PLACES: readonly Place[] = [
  { name: "Start", to: "/start", also: "home begin own recent" },
  { name: "Bench", to: "/bench", also: "edit look recipe" },
  { name: "Shelf", to: "/shelf", also: "looks luts presets library" },
  { name: "Projects", to: "/projects", also: "shots scenes" },
  { name: "Pictures", to: "/pictures", also: "photographs clips footage" },
  { name: "Encodings", to: "/encodings", also: "curves primaries log colour spaces" },
  { name: "You", to: "/you", also: "account password second factor passkey sessions tokens settings" },
  { name: "People", to: "/studio/people", also: "team accounts invite roles", needs: "administer" },
  { name: "Activity", to: "/studio/activity", also: "who did what log audit", needs: "curate" },
  { name: "Jobs of all", to: "/studio/jobs", also: "queue workers running", needs: "administer" },
  { name: "Store", to: "/studio/store", also: "room disk bytes files", needs: "administer" },
  { name: "Settings of the studio", to: "/studio/settings", also: "name second factor", needs: "administer" },
  { name: "Versions waiting for review", to: "/shelf/review", also: "queue approve publish", needs: "design" },
  { name: "Duplicates", to: "/shelf/duplicates", also: "same alike tidy", needs: "curate" },
  { name: "Bin", to: "/shelf/bin", also: "deleted bring back restore", needs: "design" },
];

/** Does each word of what was typed stand somewhere in this? */
const fits = (typed: string, text: string) => {
  const low = text.toLowerCase();
  return typed
    .toLowerCase()
    .split(/\s+/)
    .every((word) => low.includes(word));
};

const kinds = { look: "Look", lut: "LUT", preset: "Preset" };

/** What is at hand without the server: the actions of the page in view, then the places. */
export function groupsHere(typed: string, actions: readonly Action[], may: readonly Ability[]): readonly Group[] {
  const here = actions
    .filter((one) => fits(typed, one.name))
    .map((one): Item => ({ id: `do ${one.name}`, name: one.name, detail: one.keys ?? "", image: null, to: one.run }));
  const places = PLACES.filter(
    (one) => (!one.needs || may.includes(one.needs)) && fits(typed, `${one.name} ${one.also}`),
  );
  return filled([
    { id: "here", name: "Do here", items: here },
    {
      id: "places",
      name: "Go to",
      items: places.map((one) => ({ id: `to ${one.to}`, name: one.name, detail: "", image: null, to: one.to })),
    },
  ]);
}

/** So many at most: on a wall of cards each has several. */
const MOST_BUTTONS = 8;

/** The buttons of the page in view, last: whoever presses Enter at once means what stands before them. */
export function groupOfButtons(
  typed: string,
  buttons: readonly Action[],
  actions: readonly Action[],
): readonly Group[] {
  if (typed === "") return [];
  const told = new Set(actions.map((one) => one.name));
  const items = buttons
    .filter((one) => fits(typed, one.name) && !told.has(one.name))
    .slice(0, MOST_BUTTONS)
    .map((one): Item => ({ id: `press ${one.name}`, name: one.name, detail: "", image: null, to: one.run }));
  return filled([{ id: "buttons", name: "Press on this page", items }]);
}

/** What the server found. picture: that entries are shown on */
export function groupsFound(found: Found, picture: Pick<Picture, "id" | "state"> | undefined): readonly Group[] {
  return filled([
    {
      id: "entries",
      name: "Looks, LUTs, presets",
      items: found.entries.map((one) => ({
        id: `entry ${one.id}`,
        name: one.name,
        detail: [kinds[one.kind], characterOf(one)].filter(Boolean).join(" · "),
        image: picture ? previewOf(one, picture) : null,
        to: `/shelf/${one.kind}/${one.id}`,
      })),
    },
    {
      id: "projects",
      name: "Projects",
      items: found.projects.map((one) => ({
        id: `project ${one.id}`,
        name: one.name,
        detail: "",
        image: null,
        to: `/projects/${one.id}`,
      })),
    },
    {
      id: "shots",
      name: "Shots",
      items: found.shots.map((one) => ({
        id: `shot ${one.id}`,
        name: one.code,
        detail: `${one.project}, ${one.scene}`,
        image: discOf(one.picture),
        to: `/projects/${one.project_id}/shots/${one.id}`,
      })),
    },
    {
      id: "boards",
      name: "Boards",
      items: found.boards.map((one) => ({
        id: `board ${one.id}`,
        name: one.name,
        detail: "",
        image: null,
        to: `/shelf/board/${one.id}`,
      })),
    },
    {
      id: "pictures",
      name: "Pictures",
      items: found.pictures.map((one) => ({
        id: `picture ${one.id}`,
        name: one.name,
        detail: "",
        image: discOf(one.id),
        to: `/bench?picture=${one.id}`,
      })),
    },
  ]);
}

const filled = (groups: readonly Group[]) => groups.filter((one) => one.items.length > 0);
