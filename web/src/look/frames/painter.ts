/** Frames of the pictures in view, both sides of the comparison. The chosen picture first; the others and the other side follow. */
import { Unreachable, wordsFor } from "../../api/client";
import { Latest } from "../../api/latest";
import { fetchFrame, fetchOriginal } from "../../api/seen";
import type { Look, Picture } from "../../api/types";
import { stageOf } from "../arrange";
import { shownLook, type BenchStore } from "../store";
import { seenAs, type Reference, type Source, type ViewStore } from "../view/view";
import { screenFor, watchScreen, type Screen } from "../../browser/screen";
import { Shared } from "../../kit/Shared";
import { FetchedLooks, sideOf } from "./sources";

/** Both sides of one picture as they stand. */
export interface Pair {
  readonly after: ImageBitmap | null;
  readonly before: ImageBitmap | null;
}

export interface Painted {
  readonly pairs: ReadonlyMap<number, Pair>;
  /** Counts frames, so that what draws them knows of a new one. */
  readonly drawn: number;
  readonly problem: string | null;
  /** The look whose frame at rest stands there; null while it moves. */
  readonly settled: Look | null;
}

interface Ask {
  readonly look: Look;
  readonly picture: number;
  readonly read_as?: string;
  readonly quality: "drag" | "rest" | "sampled";
  readonly width: number | null;
  readonly edited: number | null;
  readonly steps: number | null;
  /** Frame of a picture that moves. */
  readonly at: number | null;
  readonly screen: Screen;
}

/** on: the picture that it stands on a side of. */
type Round = readonly { readonly on: number; readonly side: keyof Pair; readonly ask: Ask }[];

const REST = 160;
/** What is read off the picture comes later, and while something is still held much later: it must not stand in the picture's way. */
const READ = 320;
const READ_WHILE_HELD = 700;
const RETRY = 2000;
const NOT_REACHED = "The server cannot be reached. The picture follows again once it answers; your work is kept.";

export class Painter {
  readonly painted = new Shared<Painted>({ pairs: new Map(), drawn: 0, problem: null, settled: null });
  /** Told when the pixels of a moving step are here: what else is wanted can be asked for now. */
  onMoved: () => void = () => undefined;
  /** Told once nothing has changed for a while. */
  onRest: () => void = () => undefined;
  private onPlayed: ((picture: number, bitmap: ImageBitmap) => void) | null = null;
  private pictures: readonly Picture[] = [];
  private readonly originals = new Map<number, string>();
  private readonly fetched: FetchedLooks;
  private first: Latest<Ask, ImageBitmap> | null = null;
  private others: Latest<Round, void> | null = null;
  private stops: (() => void)[] = [];
  private rest: ReturnType<typeof setTimeout> | undefined;
  private read: ReturnType<typeof setTimeout> | undefined;
  private retry: ReturnType<typeof setTimeout> | undefined;
  private readonly frames = new Map<number, number>();
  private sides: readonly [Source, Source] | null = null;
  private width = 0;
  private plain: Look | null = null;
  /** What was asked for last for the chosen picture: a frame of anything else does not settle it. */
  private wanted: Ask | null = null;
  private closed = true;

  constructor(
    id: number,
    private readonly store: BenchStore,
    private readonly view: ViewStore,
  ) {
    this.fetched = new FetchedLooks(
      id,
      () => this.ask(),
      (error) => this.failed(error),
    );
  }

  /** Begins to follow the look and the view; until `close`. */
  open(): void {
    this.closed = false;
    this.first = new Latest<Ask, ImageBitmap>(
      fetchFrame,
      (bitmap, ask) => {
        this.put(ask.picture, "after", bitmap, ask === this.wanted && ask.quality !== "drag" ? ask.look : null);
        if (ask.quality === "drag") this.onMoved();
        this.askOthers(ask.quality === "drag");
      },
      (error) => this.failed(error),
    );
    this.others = new Latest<Round, void>(
      async (round, signal) => {
        for (const { on, side, ask } of round) this.put(on, side, await fetchFrame(ask, signal));
      },
      () => undefined,
      (error) => this.failed(error),
    );
    this.stops = [
      this.store.subscribe(() => this.ask()),
      this.view.subscribe(() => this.viewed()),
      watchScreen(() => this.viewed()),
    ];
    this.ask();
  }

  /** Which pictures are in view, the chosen one first. */
  see(pictures: readonly Picture[]): void {
    this.pictures = pictures;
    const wanted = new Set(pictures.map((one) => one.id));
    const { pairs } = this.painted.get();
    for (const [id, pair] of pairs) {
      if (wanted.has(id)) continue;
      pair.after?.close();
      pair.before?.close();
      this.originals.delete(id);
    }
    this.tell({ pairs: new Map([...pairs].filter(([id]) => wanted.has(id))) });
    this.ask();
  }

  /** A picture that moves is seen at this frame from now on. */
  standAt(picture: number, frame: number): void {
    this.frames.set(picture, frame);
  }

  /** A frame of a clip at its time, through the draft. */
  readonly playing = (picture: number, frame: number, signal: AbortSignal): Promise<ImageBitmap> => {
    const { look, selected, trial } = this.store.get();
    const ask: Ask = {
      look: shownLook(this.store.get()),
      ...seenAs(this.view.get(), picture),
      quality: "drag",
      width: null,
      edited: !trial && selected ? stageOf(look, selected) : null,
      steps: this.view.get().stage,
      at: frame,
      screen: screenFor(this.view.get().proof),
    };
    return fetchFrame(ask, signal);
  };

  /** Told of each frame that is shown because a picture plays, while it is open; until what is given back is called. */
  watchPlaying(listener: (picture: number, bitmap: ImageBitmap) => void): () => void {
    this.onPlayed = listener;
    return () => {
      if (this.onPlayed === listener) this.onPlayed = null;
    };
  }

  readonly showFrame = (picture: number, bitmap: ImageBitmap): void => {
    this.onPlayed?.(picture, bitmap);
    this.put(picture, "after", bitmap);
  };

  /** The frame that a picture that moves stands at. */
  frameOf(picture: number): number | null {
    return this.frames.get(picture) ?? null;
  }

  /** What a side of the comparison stands for; the original as a look that does nothing. Null until it is fetched. */
  lookOf(source: Source): Look | null {
    const state = this.store.get();
    const draft = shownLook(state);
    if (source === "original") return this.plainLook(draft);
    // Another picture: none of its parts lies over this one.
    if (source === "reference") return null;
    return sideOf(source, draft, state.selected)?.look ?? this.fetched.get(source) ?? null;
  }

  /** A look that does nothing to pictures in the draft's encoding; the same object for as long as that is the same. */
  private plainLook(draft: Look): Look {
    const input = draft.input ?? "srgb";
    if (this.plain?.input === input) return this.plain;
    this.plain = { input, output: input, encodings: draft.encodings ?? [], steps: [] };
    return this.plain;
  }

  ask(): void {
    const [chosen] = this.pictures;
    if (this.closed || !chosen) return;
    const { gesture } = this.store.get();
    const ask = this.askFor(this.view.get().shown, chosen, gesture === null ? "rest" : "drag");
    const { wanted } = this;
    const same =
      wanted !== null &&
      ask?.look === wanted.look &&
      (["picture", "read_as", "steps", "at", "screen"] as const).every((field) => ask[field] === wanted[field]);
    if (gesture !== null || this.view.get().shown !== "draft" || !same) this.tell({ settled: null });
    if (ask) this.askFirst(ask);
    else if (this.view.get().shown === "original") this.askOthers(false);
    this.settle();
  }

  close(): void {
    this.closed = true;
    clearTimeout(this.rest);
    clearTimeout(this.read);
    clearTimeout(this.retry);
    for (const stop of this.stops) stop();
    this.first?.close();
    this.others?.close();
    for (const pair of this.painted.get().pairs.values()) {
      pair.after?.close();
      pair.before?.close();
    }
    this.originals.clear();
    this.wanted = null;
    this.painted.set({ pairs: new Map(), drawn: 0, problem: null, settled: null });
  }

  /** Told how many device pixels across the chosen picture is seen in. */
  readonly onWidth = (width: number): void => {
    this.width = width;
  };

  private screen: Screen = screenFor(false);
  private seen = { first: "", others: "", read: "{}" };

  private viewed(): void {
    const { shown, against, mode, held, stage, watched, reference, readAs } = this.view.get();
    const screen = screenFor(this.view.get().proof);
    const read = JSON.stringify(readAs);
    const pinned = reference ? `${reference.picture} ${reference.name} ${reference.at}` : "";
    const seen = {
      first: `${shown} ${stage} ${screen} ${read}`,
      others: `${against} ${mode} ${held} ${watched.join()} ${pinned}`,
      read,
    };
    if (screen !== this.screen || read !== this.seen.read) this.originals.clear();
    this.screen = screen;
    const [first, others] = [seen.first !== this.seen.first, seen.others !== this.seen.others];
    this.seen = seen;
    if (this.sides && (this.sides[0] !== shown || this.sides[1] !== against)) {
      this.originals.clear();
      for (const source of [shown, against]) if (!this.sides.includes(source)) this.fetched.forget(source);
    }
    this.sides = [shown, against];
    if (first) this.ask();
    else if (others) this.askOthers(false);
  }

  private settle(): void {
    clearTimeout(this.rest);
    clearTimeout(this.read);
    this.rest = setTimeout(() => {
      const [chosen] = this.pictures;
      const ask =
        chosen && this.store.get().gesture !== null ? this.askFor(this.view.get().shown, chosen, "rest") : null;
      if (ask) this.askFirst(ask);
    }, REST);
    this.read = setTimeout(() => this.onRest(), this.store.get().gesture === null ? READ : READ_WHILE_HELD);
  }

  private askFirst(ask: Ask): void {
    this.wanted = ask;
    this.first?.ask(ask);
  }

  private askFor(source: Source, picture: Picture, quality: "drag" | "rest", small = false): Ask | null {
    const state = this.store.get();
    const { reference } = this.view.get();
    if (source === "reference") return reference ? this.askForReference(reference) : null;
    const side = sideOf(source, shownLook(state), state.selected);
    const look = side?.look ?? (source === "original" ? null : this.fetched.get(source));
    if (!look) return null;
    const dragging = quality === "drag";
    const mine = source === "draft" || source === "sampled" || source === "without";
    const seen = dragging && this.width > 0 ? Math.ceil(this.width / (small ? 2 : 1)) : null;
    const edited = mine && !state.trial && state.selected ? stageOf(look, state.selected) : null;
    return {
      look,
      ...seenAs(this.view.get(), picture.id),
      quality: side?.sampled ? "sampled" : quality,
      width: seen,
      edited,
      steps: source === "draft" ? this.view.get().stage : null,
      at: this.frames.get(picture.id) ?? null,
      screen: screenFor(this.view.get().proof),
    };
  }

  private askForReference({ picture, look, at, read_as }: Reference): Ask {
    const screen = screenFor(this.view.get().proof);
    const through = look ?? this.plainLook(shownLook(this.store.get()));
    return { look: through, picture, read_as, quality: "rest", width: null, edited: null, steps: null, at, screen };
  }

  private askOthers(dragging: boolean): void {
    const { shown, against, mode, held } = this.view.get();
    const compared = mode !== "single" || held;
    const round: { on: number; side: keyof Pair; ask: Ask }[] = [];
    this.pictures.forEach((picture, index) => {
      const quality = dragging ? "drag" : "rest";
      const after = index > 0 || shown === "original" ? this.askFor(shown, picture, quality, index > 0) : null;
      if (after) round.push({ on: picture.id, side: "after", ask: after });
      else if (shown === "original") this.loadOriginal(picture, "after");
      if (against === "original") this.loadOriginal(picture, "before");
      else if (compared && !dragging) {
        const before = this.askFor(against, picture, "rest");
        if (before) round.push({ on: picture.id, side: "before", ask: before });
      }
    });
    if (round.length > 0) this.others?.ask(round);
  }

  private loadOriginal(picture: Picture, side: keyof Pair): void {
    const state = `${side} ${picture.state} ${picture.encoding} ${this.screen}`;
    if (this.originals.get(picture.id)?.includes(state)) return;
    this.originals.set(picture.id, `${this.originals.get(picture.id) ?? ""};${state}`);
    this.fetchOriginal(picture).then(
      (bitmap) => this.put(picture.id, side, bitmap),
      (error: unknown) => {
        this.originals.delete(picture.id);
        this.failed(error);
      },
    );
  }

  /** As it is kept for sRGB, else through a look that does nothing. */
  private fetchOriginal(picture: Picture): Promise<ImageBitmap> {
    const seen = seenAs(this.view.get(), picture.id);
    if (this.screen === "srgb" && !seen.read_as) return fetchOriginal(picture.id);
    const look = this.plainLook(shownLook(this.store.get()));
    return fetchFrame({ look, ...seen, quality: "rest", screen: this.screen });
  }

  private put(picture: number, side: keyof Pair, bitmap: ImageBitmap, settled?: Look | null): void {
    const { pairs, drawn } = this.painted.get();
    if (this.closed || !this.pictures.some((one) => one.id === picture)) {
      bitmap.close();
      return;
    }
    const pair = pairs.get(picture) ?? { after: null, before: null };
    pair[side]?.close();
    this.tell({
      pairs: new Map(pairs).set(picture, { ...pair, [side]: bitmap }),
      drawn: drawn + 1,
      problem: null,
      ...(settled === undefined ? {} : { settled }),
    });
  }

  private tell(change: Partial<Painted>): void {
    this.painted.set({ ...this.painted.get(), ...change });
  }

  private failed(error: unknown): void {
    if (this.closed || (error instanceof DOMException && error.name === "AbortError")) return;
    this.tell({ problem: error instanceof Unreachable ? NOT_REACHED : wordsFor(error) });
    clearTimeout(this.retry);
    if (error instanceof Unreachable) this.retry = setTimeout(() => this.ask(), RETRY);
  }
}
