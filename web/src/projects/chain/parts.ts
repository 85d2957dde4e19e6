/** The chain of a shot as it is seen and moved: its own layers among those for many, each in its place. */
import type { LayerGiven, SharedGiven, SharedLayerGiven } from "../../api/projects";
import type { Entry, Project, Shot, Step } from "../../api/types";
import { named } from "../../look/named";
import { titleOf } from "../../look/titles";

export type Told = Shot["layers"][number];
export type SharedTold = Project["shared"][number]["layers"][number];
export type Spot = Omit<SharedGiven, "layers">;

/** One of the shot's own layers. at: where it stands among them */
export interface OwnPart {
  readonly key: string;
  readonly at: number;
  readonly layer: LayerGiven;
  readonly told: Told | undefined;
}

/** Layers for many that lie in one place. reached: how many shots they are for */
export interface SharedPlace {
  readonly key: string;
  readonly spot: Spot;
  readonly name: string;
  readonly reached: number;
  readonly layers: readonly SharedTold[];
}

/** A look of which no version was saved lies nowhere. */
export const canBePut = (entry: Entry) => entry.kind !== "look" || entry.detail !== "Look, draft";

export const isTrims = (one: LayerGiven) => one.role === "before" && (one.entry ?? null) === null;
const isPreset = (one: LayerGiven) => one.role === "before" && (one.entry ?? null) !== null;

/** The same for two that are the same place. */
export const keyOf = (spot: Spot) => [spot.reach, spot.role ?? "before", spot.scene ?? "", spot.roll ?? ""].join(":");

/** The places for many that this shot belongs to, whether anything lies there or not; a roll only where it has one. */
export function placesOf(
  project: Project,
  shot: Shot,
): Record<"under" | "roll" | "scene" | "over", SharedPlace | null> {
  const place = (spot: Spot, name: string, reaches: (one: Shot) => boolean): SharedPlace => ({
    key: keyOf(spot),
    spot,
    name,
    reached: project.shots.filter(reaches).length,
    layers: project.shared.find((one) => keyOf(one) === keyOf(spot))?.layers ?? [],
  });
  const scene = project.scenes.find((one) => one.id === shot.scene);
  return {
    under: place({ reach: "project", role: "before" }, project.name, () => true),
    roll: shot.roll
      ? place({ reach: "roll", role: "before", roll: shot.roll }, shot.roll, (one) => one.roll === shot.roll)
      : null,
    scene: scene
      ? place({ reach: "scene", role: "before", scene: scene.id }, scene.name, (one) => one.scene === scene.id)
      : null,
    over: place({ reach: "project", role: "after" }, project.name, () => true),
  };
}

/** The shot's own layers with what is told of them, as light goes; a key of each stays with it when it moves. */
export function ownParts(layers: readonly LayerGiven[], told: readonly Told[]): OwnPart[] {
  const seen = new Map<string, number>();
  const free = [...told];
  return layers.map((layer, at) => {
    const entry = layer.entry ?? null;
    const name = entry === null ? `steps ${layer.role ?? "look"}` : `${String(entry)}:${String(layer.version)}`;
    const count = seen.get(name) ?? 0;
    seen.set(name, count + 1);
    const found = free.findIndex((one) => one.entry === entry && (entry !== null || one.role === layer.role));
    const [own] = found < 0 ? [] : free.splice(found, 1);
    return { key: `${name}#${String(count)}`, at, layer, told: own };
  });
}

/** Where a layer came to stand, and all of them. */
export interface Moved {
  readonly layers: LayerGiven[];
  readonly at: number;
}

/**
 * One of the shot's own layers past its neighbour: looks among looks; a preset past the last one goes after the look,
 * and back. Null where it cannot go: trims have one place.
 */
export function movedBy(layers: readonly LayerGiven[], at: number, by: -1 | 1): Moved | null {
  const layer = layers[at];
  if (!layer || isTrims(layer)) return null;
  const other = layers[at + by];
  if (other && other.role === layer.role && !isTrims(other)) {
    const next = swapped(layers, at, at + by);
    return next && { layers: next, at: at + by };
  }
  const others = layers.filter((_, index) => index !== at);
  const put = (place: number, role: "before" | "after"): Moved => ({
    layers: [...others.slice(0, place), { ...layer, role }, ...others.slice(place)],
    at: place,
  });
  if (by === 1 && isPreset(layer)) {
    const first = others.findIndex((one) => one.role === "after");
    return put(first < 0 ? others.length : first, "after");
  }
  if (by === -1 && layer.role === "after" && (layer.entry ?? null) !== null)
    return put(others.findLastIndex((one) => one.role === "before") + 1, "before");
  return null;
}

/** One of the shot's own layers to where another one stands. Null where it cannot get there. */
export function movedTo(layers: readonly LayerGiven[], from: number, to: number): Moved | null {
  const target = layers[to];
  if (!target || from === to) return null;
  const by = to > from ? 1 : -1;
  let now: Moved = { layers: [...layers], at: from };
  while (by === 1 ? now.at < now.layers.indexOf(target) : now.at > now.layers.indexOf(target)) {
    const next = movedBy(now.layers, now.at, by);
    if (!next) return null;
    now = next;
  }
  return now;
}

/** What lies in a place for many as it is sent back. */
export const sharedGiven = (layers: readonly SharedTold[]): SharedLayerGiven[] =>
  layers.map(({ role, entry, version, member, steps, strength, enabled, off_on }) =>
    entry === null
      ? { role, steps, strength, enabled, off_on, entry: null, version: null }
      : { role, entry, version, member, steps: null, strength, enabled, off_on },
  );

/** What a layer for many is called: its entry's name, else what its steps are. */
export function nameOfShared(layer: Pick<SharedTold, "entry" | "name" | "member" | "steps">): string {
  if (layer.entry !== null) return named(layer.name, layer.member);
  const titles = ((layer.steps ?? []) as unknown as Step[]).map(titleOf);
  return titles.join(", ") || "Correction";
}

/** Two of them in each other's place. */
export function swapped<Item>(items: readonly Item[], one: number, other: number): Item[] | null {
  const [first, second] = [items[one], items[other]];
  if (first === undefined || second === undefined) return null;
  return items.map((item, index) => (index === one ? second : index === other ? first : item));
}
