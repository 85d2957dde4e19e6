/** What is read off the look as it stands: lines of its steps while it moves; at rest scopes, discs, fingerprint, advice. */
import { Unreachable } from "../../api/client";
import { Latest } from "../../api/latest";
import {
  fetchDiscs,
  fetchFingerprint,
  MOST_HELD,
  readAdvice,
  readHolding,
  readScopes,
  readSketch,
  readTold,
  type Seen,
} from "../../api/seen";
import type { Advice, Failing, Look, Picture, Scopes, Sketch } from "../../api/types";
import { findStep } from "../arrange";
import { shownLook, type BenchStore } from "../store";
import { seenAs, type Reference, type ViewStore } from "../view/view";
import { Shared } from "../../kit/Shared";

export interface Readings {
  readonly sketch: Sketch | null;
  readonly scopes: Scopes | null;
  readonly advice: readonly Advice[];
  /** What each step does to the picture, in words, by the step's id. */
  readonly told: ReadonlyMap<string, string>;
  /** Where the look fails, the worst first, by the picture's id; none of those that were not asked of yet. */
  readonly failings: ReadonlyMap<number, readonly Failing[]>;
  /** One picture with every disc, one below the other, in the order of the tray. */
  readonly discs: string | null;
  readonly fingerprint: string | null;
  /** Counts what was read at rest, for what else is to be read then. */
  readonly rests: number;
}

interface Rest {
  readonly look: Look;
  /** What is being tried, or the look itself: for what is seen rather than edited. */
  readonly shown: Look;
  readonly picture: Seen;
  readonly before: string;
  readonly pictures: readonly Seen[];
  readonly tolerance: number;
  readonly reference: Reference | null;
}

/** What is new over what was known; a drawing of some steps leaves the others as they were. */
function merged(known: Sketch | null, fresh: Sketch, alone: boolean): Sketch {
  if (!alone || !known) return fresh;
  const [one] = fresh.steps;
  // A step drawn by itself stands in another place than in the look: its lines are new, its junctions are not.
  return {
    ...known,
    steps: known.steps.map((step) =>
      step.id === one?.id ? { ...one, path: step.path, before: step.before, after: step.after } : step,
    ),
  };
}

export class Reader {
  readonly readings = new Shared<Readings>({
    sketch: null,
    scopes: null,
    advice: [],
    told: new Map(),
    failings: new Map(),
    discs: null,
    fingerprint: null,
    rests: 0,
  });
  private pictures: readonly Picture[] = [];
  private picture: number | null = null;
  private readonly urls = new Map<"discs" | "fingerprint", string>();
  private sketch: Latest<{ look: Look; alone: boolean }, Sketch> | null = null;
  private resting: Latest<Rest, void> | null = null;
  /** After all else, as it takes longest: on which pictures the look holds. */
  private holding: Latest<Rest, void> | null = null;
  private closed = true;

  constructor(
    private readonly store: BenchStore,
    private readonly view: ViewStore,
  ) {}

  open(): void {
    this.closed = false;
    this.sketch = new Latest(
      ({ look }, signal) => readSketch(look, signal),
      (result, { alone }) => this.tell({ sketch: merged(this.readings.get().sketch, result, alone) }),
      () => undefined,
    );
    this.resting = new Latest(
      async (rest, signal) => this.read(rest, signal),
      (_, rest) => {
        this.tell({ rests: this.readings.get().rests + 1 });
        this.holding?.ask(rest);
      },
      (error) => {
        if (!(error instanceof Unreachable)) this.tell({ rests: this.readings.get().rests + 1 });
      },
    );
    this.holding = new Latest(
      async (rest, signal) => this.readFailings(rest, signal),
      () => undefined,
      () => undefined,
    );
  }

  see(picture: number | null, tray: readonly Picture[]): void {
    this.picture = picture;
    this.pictures = tray;
  }

  /** While one step is dragged only that one is drawn anew; otherwise all of them are. */
  drawLines(): void {
    const { look, gesture, selected } = this.store.get();
    const moving = gesture === null ? undefined : findStep(look, selected);
    if (!moving || moving.kind === "group") return this.sketch?.ask({ look, alone: false });
    // By itself it stands at the beginning: in the encoding that its own place has.
    const before =
      this.readings.get().sketch?.steps.find((step) => step.id === moving.id)?.before ?? look.input ?? "srgb";
    this.sketch?.ask({ look: { ...look, input: before, steps: [moving] }, alone: true });
  }

  atRest(): void {
    const state = this.store.get();
    this.sketch?.ask({ look: state.look, alone: false });
    if (this.picture === null) return;
    this.resting?.ask({
      look: state.look,
      shown: shownLook(state),
      picture: seenAs(this.view.get(), this.picture),
      before: state.selected ?? "",
      pictures: this.pictures.map((one) => seenAs(this.view.get(), one.id)),
      tolerance: this.view.get().tolerance,
      reference: this.view.get().reference,
    });
  }

  close(): void {
    this.closed = true;
    this.sketch?.close();
    this.resting?.close();
    this.holding?.close();
    for (const url of this.urls.values()) URL.revokeObjectURL(url);
    this.urls.clear();
    this.readings.set({ ...this.readings.get(), discs: null, fingerprint: null });
  }

  private async read(rest: Rest, signal: AbortSignal): Promise<void> {
    const { look, shown, picture, before, pictures, tolerance, reference } = rest;
    // One after the other: a picture that moves meanwhile must not wait behind all of them.
    const scopes = await readScopes(shown, picture, before, signal).catch(onlyIf(signal, null));
    const behind =
      scopes && reference ? await readReference(reference, look, signal).catch(onlyIf(signal, null)) : null;
    if (scopes) this.tell({ scopes: behind ? { ...scopes, source: behind.result } : scopes });
    if (pictures.length > 0) {
      const tiles = await Promise.all(parts(pictures, 24).map((some) => fetchDiscs(shown, some, signal))).catch(
        onlyIf(signal, null),
      );
      if (tiles) await this.keep("discs", tiles);
    }
    const print = await fetchFingerprint(look, 128, signal).catch(onlyIf(signal, null));
    if (print) await this.replace("fingerprint", URL.createObjectURL(print));
    const advice = await readAdvice(look, picture, tolerance, signal).catch(onlyIf(signal, []));
    this.tell({ advice });
    const told = await readTold(shown, picture, signal).catch(onlyIf(signal, []));
    this.tell({ told: new Map(told.map((one) => [one.id, one.words])) });
  }

  /** Of the whole tray, a few at a time: the first are marked before the last are measured. */
  private async readFailings({ shown, pictures, tolerance }: Rest, signal: AbortSignal): Promise<void> {
    const found = new Map<number, readonly Failing[]>();
    for (const some of parts(pictures, MOST_HELD)) {
      const held = await readHolding(shown, some, tolerance, signal).catch(onlyIf(signal, []));
      for (const one of held) found.set(one.picture, one.failings);
      const before = [...this.readings.get().failings].filter(([id]) => pictures.some((one) => one.picture === id));
      this.tell({ failings: new Map([...before, ...found]) });
    }
  }

  private async keep(name: "discs", tiles: readonly ImageBitmap[]): Promise<void> {
    const canvas = new OffscreenCanvas(
      tiles[0]?.width ?? 1,
      tiles.reduce((sum, tile) => sum + tile.height, 0),
    );
    const context = canvas.getContext("2d");
    let top = 0;
    for (const tile of tiles) {
      context?.drawImage(tile, 0, top);
      top += tile.height;
      tile.close();
    }
    await this.replace(name, URL.createObjectURL(await canvas.convertToBlob()));
  }

  private async replace(name: "discs" | "fingerprint", url: string): Promise<void> {
    // Decoded first: a picture that is not leaves its place empty until it is.
    const image = new Image();
    image.src = url;
    await image.decode().catch(() => undefined);
    const before = this.urls.get(name);
    if (this.closed) {
      URL.revokeObjectURL(url);
      return;
    }
    this.urls.set(name, url);
    this.tell({ [name]: url });
    // The page still shows the old one until it has drawn the new one.
    if (before) setTimeout(() => URL.revokeObjectURL(before), 1000);
  }

  private tell(change: Partial<Readings>): void {
    if (!this.closed) this.readings.set({ ...this.readings.get(), ...change });
  }
}

/** What is counted of the picture that others are held against. */
const readReference = ({ picture, look, read_as }: Reference, draft: Look, signal: AbortSignal) =>
  readScopes(
    look ?? { ...draft, output: draft.input ?? "srgb", strength: 1, steps: [] },
    { picture, read_as },
    "",
    signal,
  );

function parts<T>(all: readonly T[], size: number): T[][] {
  return Array.from({ length: Math.ceil(all.length / size) }, (_, index) =>
    all.slice(index * size, (index + 1) * size),
  );
}

/** One reading that fails does not keep the others from being taken; being told to stop does. */
function onlyIf<T>(signal: AbortSignal, none: T) {
  return (error: unknown): T => {
    if (signal.aborted || error instanceof Unreachable) throw error;
    return none;
  };
}
