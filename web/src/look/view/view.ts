/** How the Bench is looked at: pictures, comparison, stage, marks. None of it is saved with the look; most of it is in the address. */
import { recall, remember } from "../../browser/kept";
import type { Part, Seen } from "../../api/seen";
import type { Look } from "../../api/types";
import { omit } from "../../kit/omit";
import type { Wipe } from "../../kit/Compare";

/** What stands on one side of a comparison. `without` is the draft without the chosen step; `sampled`, through a lattice, as a LUT holds it. */
export type Source =
  "draft" | "original" | "sampled" | "without" | "variant" | "reference" | `version-${number}` | `look-${number}`;
export type Mode = "single" | "wipe" | "beside";
export type Marks = "none" | "clipping" | "skin" | "left" | "gamut" | "bake" | "vision";
/** Which cones see otherwise: those of long, of middle, or of short waves. */
export type Vision = "protan" | "deutan" | "tritan";
export type Gamut = "srgb" | "display-p3" | "rec2020";
export type ScopeKind = "histogram" | "waveform" | "parade" | "vectorscope";

/** A picture that others are held against: as it came where it has no look. */
export interface Reference {
  readonly picture: number;
  readonly look: Look | null;
  /** Frame of one that moves. */
  readonly at: number | null;
  readonly read_as: string;
  /** What it is called: the picture, and through what. */
  readonly name: string;
}

export interface View {
  readonly picture: number | null;
  readonly reference: Reference | null;
  /** What the codes of some pictures are read as, for this look only. */
  readonly readAs: Readonly<Record<number, string>>;
  /** It is asked why a colour is so: of the part of the picture, once one is chosen. */
  readonly asking: Part | "where" | null;
  /** The tray begins with the pictures on which the look fails most. */
  readonly worstFirst: boolean;
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
  /** Whose eyes the picture is seen with under that mark, and how far: 0 as most, 1 without these cones. */
  readonly vision: Vision;
  readonly severity: number;
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
  /** The LUT step that is to be taken apart as soon as its editor is there. */
  readonly apart: string | null;
}

export const MOST_WATCHED = 3;
const KEPT = "view";
const PINNED = "reference";
const READ_AS = "read as";
/** Of so many looks is it remembered what their pictures are read as. */
const MOST_LOOKS = 40;

interface Kept {
  readonly tolerance: number;
  readonly scope: ScopeKind;
}

function kept(): Kept {
  const found = (recall(KEPT) ?? {}) as Partial<Kept>;
  return { tolerance: found.tolerance ?? 6, scope: found.scope ?? "histogram" };
}

const isReference = (found: unknown): found is Reference =>
  typeof found === "object" && found !== null && "picture" in found && "look" in found && "name" in found;

/** What the pictures of a look are read as in this browser. */
function keptReadAs(look: number): Readonly<Record<number, string>> {
  const all = (recall(READ_AS) ?? {}) as Record<string, Record<number, string>>;
  return all[look] ?? {};
}

function keepReadAs(look: number, readAs: Readonly<Record<number, string>>): void {
  const all = (recall(READ_AS) ?? {}) as Record<string, Record<number, string>>;
  const rest = Object.entries(omit(all, String(look))).slice(1 - MOST_LOOKS);
  remember(READ_AS, { ...Object.fromEntries(rest), ...(Object.keys(readAs).length > 0 ? { [look]: readAs } : {}) });
}

/** A picture as the look sees it. */
export const seenAs = ({ readAs }: Pick<View, "readAs">, picture: number): Seen => ({
  picture,
  read_as: readAs[picture] ?? "",
});

const isSource = (text: string | null): text is Source =>
  text !== null && /^(draft|original|sampled|without|variant|reference|version-\d+|look-\d+)$/.test(text);
const numberIn = (text: string | null) => (text !== null && /^\d+$/.test(text) ? Number(text) : null);

/** A view as an address says it. look: of which this browser remembers more */
export function fromSearch(search: URLSearchParams, look = 0): View {
  const mode = search.get("compare");
  const pinned = recall(PINNED);
  const [shown, against] = [search.get("show"), search.get("against")];
  return {
    picture: numberIn(search.get("picture")),
    reference: isReference(pinned) ? pinned : null,
    readAs: keptReadAs(look),
    asking: null,
    worstFirst: false,
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
    vision: "deutan",
    severity: 1,
    proof: false,
    zoom: null,
    middle: { x: 0.5, y: 0.5 },
    alone: false,
    largeEditor: false,
    picking: null,
    apart: null,
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

  /** look: whose view it is */
  constructor(
    view: View,
    private readonly look = 0,
  ) {
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
    if (next.reference !== this.view.reference) remember(PINNED, next.reference);
    if (next.readAs !== this.view.readAs) keepReadAs(this.look, next.readAs);
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
