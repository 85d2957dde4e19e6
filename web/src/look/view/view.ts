/** How the Bench is looked at: pictures, comparison, stage, marks. None of it is saved with the look; most of it is in the address. */
import { recall, remember } from "../../browser/kept";
import type { Wipe } from "../../kit/Compare";

/** What stands on one side of a comparison. `without` is the draft without the chosen step; `sampled`, through a lattice, as a LUT holds it. */
export type Source = "draft" | "original" | "sampled" | "without" | `version-${number}` | `look-${number}`;
export type Mode = "single" | "wipe" | "beside";
export type Marks = "none" | "clipping" | "skin" | "left" | "gamut" | "bake";
export type Gamut = "srgb" | "display-p3" | "rec2020";
export type ScopeKind = "histogram" | "waveform" | "parade" | "vectorscope";

export interface View {
  readonly picture: number | null;
  /** Pictures watched beside the chosen one, at most three. */
  readonly watched: readonly number[];
  readonly set: number | null;
  readonly mode: Mode;
  readonly wipe: Wipe;
  /** The other side shows while a key is held. */
  readonly held: boolean;
  readonly shown: Source;
  readonly against: Source;
  /** The picture after so many steps at the top level; null, after all. */
  readonly stage: number | null;
  readonly marks: Marks;
  /** Degrees that skin may turn. */
  readonly tolerance: number;
  /** What marked colours lie outside of. */
  readonly gamut: Gamut;
  /** On a wide screen: seen as one of sRGB would show it. */
  readonly proof: boolean;
  /** Device pixels for a pixel of the picture; null fits it in. */
  readonly zoom: number | null;
  readonly middle: { readonly x: number; readonly y: number };
  readonly scope: ScopeKind;
  /** Nothing but the pictures and their surround. */
  readonly alone: boolean;
  /** The editor of the chosen step, with its graph, takes half of the page. */
  readonly largeEditor: boolean;
  /** The editor of the chosen step waits for a place in the picture. */
  readonly picking: string | null;
}

export const MOST_WATCHED = 3;
const KEPT = "view";

interface Kept {
  readonly tolerance: number;
  readonly scope: ScopeKind;
}

function kept(): Kept {
  const found = (recall(KEPT) ?? {}) as Partial<Kept>;
  return { tolerance: found.tolerance ?? 6, scope: found.scope ?? "histogram" };
}

const isSource = (text: string | null): text is Source =>
  text !== null && /^(draft|original|sampled|without|version-\d+|look-\d+)$/.test(text);
const numberIn = (text: string | null) => (text !== null && /^\d+$/.test(text) ? Number(text) : null);

/** A view as an address says it. */
export function fromSearch(search: URLSearchParams): View {
  const mode = search.get("compare");
  const [shown, against] = [search.get("show"), search.get("against")];
  return {
    picture: numberIn(search.get("picture")),
    watched: (search.get("watch") ?? "")
      .split(".")
      .map(numberIn)
      .filter((one) => one !== null)
      .slice(0, MOST_WATCHED),
    set: numberIn(search.get("set")),
    mode: mode === "wipe" || mode === "beside" ? mode : "single",
    wipe: { x: 0.5, y: 0.5, angle: 6 },
    held: false,
    shown: isSource(shown) ? shown : "draft",
    against: isSource(against) ? against : "original",
    stage: numberIn(search.get("stage")),
    marks: "none",
    gamut: "srgb",
    proof: false,
    zoom: null,
    middle: { x: 0.5, y: 0.5 },
    alone: false,
    largeEditor: false,
    picking: null,
    ...kept(),
  };
}

/** What of a view is worth an address; what is as usual is left out. */
export function toSearch(view: View): Record<string, string> {
  const search: Record<string, string> = {};
  if (view.picture !== null) search.picture = String(view.picture);
  if (view.watched.length > 0) search.watch = view.watched.join(".");
  if (view.set !== null) search.set = String(view.set);
  if (view.mode !== "single") search.compare = view.mode;
  if (view.shown !== "draft") search.show = view.shown;
  if (view.against !== "original") search.against = view.against;
  if (view.stage !== null) search.stage = String(view.stage);
  return search;
}

export class ViewStore {
  private view: View;
  private readonly listeners = new Set<() => void>();

  constructor(view: View) {
    this.view = view;
  }

  readonly get = (): View => this.view;

  readonly subscribe = (listener: () => void): (() => void) => {
    this.listeners.add(listener);
    return () => this.listeners.delete(listener);
  };

  set(change: Partial<View>): void {
    const next = { ...this.view, ...change };
    if ((Object.keys(change) as (keyof View)[]).every((key) => next[key] === this.view[key])) return;
    if (next.tolerance !== this.view.tolerance || next.scope !== this.view.scope) {
      remember(KEPT, { tolerance: next.tolerance, scope: next.scope });
    }
    this.view = next;
    for (const listener of this.listeners) listener();
  }

  /** The picture in view. One that is watched already changes places with it. */
  choose(id: number): void {
    const { picture, watched } = this.view;
    const next =
      watched.includes(id) && picture !== null ? watched.map((one) => (one === id ? picture : one)) : watched;
    this.set({ picture: id, watched: next });
  }

  /** Beside the others, or no more. The oldest gives way to a fourth. */
  watch(id: number): void {
    const { picture, watched } = this.view;
    if (id === picture) {
      const [first, ...rest] = watched;
      if (first !== undefined) this.set({ picture: first, watched: rest });
      return;
    }
    this.set({
      watched: watched.includes(id) ? watched.filter((one) => one !== id) : [...watched, id].slice(-MOST_WATCHED),
    });
  }
}
