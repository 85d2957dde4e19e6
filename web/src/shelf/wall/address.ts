/** What the wall shows, as its address has it: so that it can be passed on, and Back brings it again. */
import { EVERYTHING, type Order, type Wanted } from "../../api/shelf";

export type Layout = "small" | "cards" | "large" | "rows" | "list";
const LAYOUTS: readonly Layout[] = ["small", "cards", "large", "rows", "list"];

export const orders: readonly (readonly [Order, string])[] = [
  ["newest", "Newest first"],
  ["name", "By name"],
  ["cooler", "Cooler first"],
  ["warmer", "Warmer first"],
  ["softer", "Softer first"],
  ["harder", "Harder first"],
  ["quieter", "Quieter first"],
  ["richer", "Richer first"],
  ["darker", "Darker first"],
  ["brighter", "Brighter first"],
  ["gentler", "Least first"],
  ["stronger", "Most first"],
];

/** Facets that are lists of choices, by their names in the address. */
const LISTS = {
  kind: "kinds",
  category: "categories",
  tag: "tags",
  state: "states",
  expects: "expects",
  format: "formats",
  health: "health",
  holds: "holds",
  rights: "mayPassOn",
  owner: "owners",
} as const;
export type Facet = (typeof LISTS)[keyof typeof LISTS];

const USED = ["yes", "no"] as const;

export interface Seen {
  readonly wanted: Wanted;
  readonly layout: Layout;
  /** The picture that it is seen on; null for the one used last. */
  readonly picture: number | null;
  /** The entry whose like are shown, in place of everything. */
  readonly like: number | null;
}

export function readAddress(address: URLSearchParams): Seen {
  const lists = Object.fromEntries(Object.entries(LISTS).map(([name, facet]) => [facet, address.getAll(name)]));
  const order = orders.find(([id]) => id === address.get("order"))?.[0] ?? "newest";
  const layout = LAYOUTS.find((one) => one === address.get("layout")) ?? "cards";
  return {
    wanted: {
      ...EVERYTHING,
      ...lists,
      search: address.get("q") ?? "",
      favourite: address.has("favourite"),
      days: Number(address.get("days")) || null,
      ending: address.has("ending"),
      used: USED.find((one) => one === address.get("used")) ?? "",
      order,
    },
    layout,
    picture: Number(address.get("picture")) || null,
    like: Number(address.get("like")) || null,
  };
}

/** Only what differs from the plain wall is written. */
export function writeAddress({ wanted, layout, picture, like }: Seen): URLSearchParams {
  const address = new URLSearchParams();
  if (wanted.search) address.set("q", wanted.search);
  for (const [name, facet] of Object.entries(LISTS)) for (const one of wanted[facet]) address.append(name, one);
  if (wanted.favourite) address.set("favourite", "mine");
  if (wanted.used) address.set("used", wanted.used);
  if (wanted.ending) address.set("ending", "soon");
  if (wanted.days !== null) address.set("days", String(wanted.days));
  if (wanted.order !== "newest") address.set("order", wanted.order);
  if (layout !== "cards") address.set("layout", layout);
  if (picture !== null) address.set("picture", String(picture));
  if (like !== null) address.set("like", String(like));
  return address;
}

/** Choose one of a facet too, or no more. */
export function toggle(wanted: Wanted, facet: Facet, choice: string): Wanted {
  const chosen = wanted[facet];
  const next = chosen.includes(choice) ? chosen.filter((one) => one !== choice) : [...chosen, choice];
  return { ...wanted, [facet]: next };
}

export function isNarrowed(wanted: Wanted): boolean {
  return (
    wanted.favourite ||
    wanted.ending ||
    wanted.used !== "" ||
    wanted.days !== null ||
    Object.values(LISTS).some((facet) => wanted[facet].length > 0)
  );
}
