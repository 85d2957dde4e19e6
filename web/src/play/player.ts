/** Plays what moves: frames fetched a little ahead, shown when they are due, thrown away as soon as they would be stale. */
import { Shared } from "../kit/Shared";

export interface Playing {
  /** Where it stands, from 0. */
  readonly frame: number;
  readonly isPlaying: boolean;
  /** The frames that are played over and over, both included. */
  readonly loop: readonly [number, number];
  /** Counts: frames shown, and times that one was not there when it was due. */
  readonly drawn: number;
  readonly late: number;
  /** What the frame on show was made with: counts changes. */
  readonly version: number;
  readonly problem: string | null;
}

export interface Asked {
  readonly frame: number;
  /** So many frames after it too. */
  readonly more: number;
  /** Something is being changed: soon matters more than fine. */
  readonly isMoving: boolean;
  readonly isPlaying: boolean;
}
export type Fetch = (asked: Asked, signal: AbortSignal) => Promise<readonly ImageBitmap[]>;

interface Options {
  readonly rate: number;
  readonly first: number;
  readonly last: number;
  readonly start: number;
  readonly fetch: Fetch;
  /** At most so many frames in one request; 1 without. */
  readonly together?: number;
  /** Takes the frame, and closes it when it is not needed any more. */
  readonly draw: (bitmap: ImageBitmap) => void;
  readonly words: (error: unknown) => string;
}

/** Frames that were asked for together, and what they are made with. */
interface Flight {
  readonly control: AbortController;
  readonly version: number;
  /** It is shown as soon as it comes. */
  readonly leads: boolean;
}

const IN_FLIGHT = 3;
const AHEAD = 10;
/** Milliseconds after a move in which the next one is likely: what is fetched ahead would be for nothing. */
const UNSETTLED = 150;

export class Player {
  readonly state: Shared<Playing>;
  private readonly ready = new Map<number, ImageBitmap>();
  private readonly flights = new Map<number, Flight>();
  /** What frames are to be made with. Changes are counted; see `changed`. */
  private wanted = 1;
  private changing = false;
  private due = 0;
  private drawnAt = 0;
  private changedAt = 0;
  private timer: ReturnType<typeof setTimeout> | undefined;
  private closed = false;
  private shown: number | null = null;

  constructor(private readonly options: Options) {
    this.state = new Shared<Playing>({
      frame: options.start,
      isPlaying: false,
      loop: [options.first, options.last],
      drawn: 0,
      late: 0,
      version: 0,
      problem: null,
    });
    this.fill();
  }

  play(): void {
    if (this.state.get().isPlaying || this.closed) return;
    const { loop, frame } = this.state.get();
    this.tell({ isPlaying: true });
    if (frame < loop[0] || frame >= loop[1]) this.goTo(loop[0]);
    this.due = performance.now() + 1000 / this.options.rate;
    this.fill();
    this.wait();
  }

  pause(): void {
    clearTimeout(this.timer);
    if (!this.state.get().isPlaying) return;
    this.tell({ isPlaying: false });
    // The frame it rests on is made anew, as fine as it gets.
    this.shown = null;
    this.drop(() => true);
    this.fill();
  }

  toggle(): void {
    if (this.state.get().isPlaying) this.pause();
    else this.play();
  }

  seek(frame: number): void {
    this.goTo(Math.min(Math.max(frame, this.options.first), this.options.last));
    this.due = performance.now() + 1000 / this.options.rate;
    this.fill();
  }

  step(by: number): void {
    this.pause();
    this.seek(this.state.get().frame + by);
  }

  loopOver(first: number, last: number): void {
    const low = Math.max(Math.min(first, last), this.options.first);
    const high = Math.min(Math.max(first, last), this.options.last);
    this.tell({ loop: [low, high] });
    this.drop((frame) => frame < low || frame > high);
    if (this.state.get().isPlaying && (this.state.get().frame < low || this.state.get().frame > high)) this.seek(low);
    this.fill();
  }

  /** What frames are made with is another: what was fetched is stale, and the clip goes on with what is made anew.

  Changes may come sooner than frames. So one frame is asked for at first, and shown although the next change is there already, where it
  is nearer to it than what is on show: else nothing would be seen until the hand rests. isMoving: more changes are likely soon */
  changed(isMoving = false): void {
    this.wanted += 1;
    this.changing = isMoving;
    this.changedAt = performance.now();
    this.drop((frame) => !this.flights.get(frame)?.leads);
    this.fill();
  }

  close(): void {
    this.closed = true;
    clearTimeout(this.timer);
    this.drop(() => true);
  }

  private goTo(frame: number): void {
    if (frame === this.state.get().frame) return;
    this.tell({ frame });
    const ahead = new Set(this.ahead());
    this.drop((one) => !ahead.has(one));
    this.showIfReady();
  }

  /** The frame that is seen or due, and while it plays those after it, round the loop. */
  private ahead(): number[] {
    const { frame, isPlaying, loop, version } = this.state.get();
    const seen = version === this.wanted && this.shown === frame ? [] : [frame];
    if (!isPlaying) return seen;
    const found = [...seen];
    let next = frame;
    for (let count = 0; count < Math.min(AHEAD, loop[1] - loop[0]); count += 1) {
      next = next >= loop[1] || next < loop[0] ? loop[0] : next + 1;
      if (!found.includes(next)) found.push(next);
    }
    return found;
  }

  /** The frame that a change is first seen in: the clip goes on meanwhile. */
  private leading(): number {
    const { frame, isPlaying, loop } = this.state.get();
    if (!isPlaying || this.shown !== frame) return frame;
    const passed = Math.floor(((performance.now() - this.drawnAt) * this.options.rate) / 1000);
    const next = frame + Math.min(Math.max(passed, 1), AHEAD);
    return next > loop[1] ? loop[0] : next;
  }

  private fill(): void {
    if (this.closed) return;
    if (this.state.get().version !== this.wanted) {
      if (this.flights.size === 0) void this.bring([this.leading()]);
      return;
    }
    const isUnsettled = this.changing && performance.now() - this.changedAt < UNSETTLED;
    if (isUnsettled && this.flights.size > 0) return;
    const missing = this.ahead()
      .filter((frame) => !this.ready.has(frame) && !this.flights.has(frame))
      .slice(0, isUnsettled ? 1 : undefined);
    while (missing.length > 0 && new Set(this.flights.values()).size < IN_FLIGHT) {
      const [frame = 0] = missing;
      // What is waited for comes alone and so the sooner; the rest together.
      const most = frame === this.state.get().frame ? 1 : (this.options.together ?? 1);
      let count = 1;
      while (count < most && missing[count] === frame + count) count += 1;
      void this.bring(missing.splice(0, count));
    }
  }

  private async bring(frames: readonly number[]): Promise<void> {
    const control = new AbortController();
    const { isPlaying, version } = this.state.get();
    const flight: Flight = { control, version: this.wanted, leads: version !== this.wanted };
    for (const frame of frames) this.flights.set(frame, flight);
    try {
      const asked = { frame: frames[0] ?? 0, more: frames.length - 1, isMoving: this.changing, isPlaying };
      const bitmaps = await this.options.fetch(asked, control.signal);
      frames.forEach((frame, index) => {
        const bitmap = bitmaps[index];
        const isWanted = !this.closed && this.flights.get(frame) === flight;
        if (!isWanted || !bitmap) {
          bitmap?.close();
          return;
        }
        this.flights.delete(frame);
        if (flight.leads) {
          this.show(frame, bitmap, flight.version);
          this.due = performance.now() + 1000 / this.options.rate;
        } else this.ready.set(frame, bitmap);
      });
      if (this.closed || control.signal.aborted) return;
      this.showIfReady();
      this.fill();
    } catch (error) {
      if (this.closed || control.signal.aborted) return;
      for (const frame of frames) if (this.flights.get(frame) === flight) this.flights.delete(frame);
      this.pause();
      this.tell({ problem: this.options.words(error) });
    }
  }

  /** Shows the frame it stands on, where that is new: after a change, a seek, or at its time. */
  private showIfReady(): void {
    const { frame } = this.state.get();
    const bitmap = this.ready.get(frame);
    if (!bitmap) return;
    this.ready.delete(frame);
    this.show(frame, bitmap, this.wanted);
  }

  private show(frame: number, bitmap: ImageBitmap, version: number): void {
    this.shown = frame;
    this.drawnAt = performance.now();
    this.options.draw(bitmap);
    this.tell({ frame, drawn: this.state.get().drawn + 1, version, problem: null });
  }

  private wait(): void {
    clearTimeout(this.timer);
    this.timer = setTimeout(() => this.tick(), Math.max(0, this.due - performance.now()));
  }

  private tick(): void {
    const { isPlaying, loop, frame, version } = this.state.get();
    if (!isPlaying || this.closed) return;
    const next = frame >= loop[1] ? loop[0] : frame + 1;
    const length = 1000 / this.options.rate;
    if (version === this.wanted && this.ready.has(next)) {
      this.tell({ frame: next });
      this.showIfReady();
      // A little late is caught up with; much is not, or it would race.
      this.due = Math.max(this.due + length, performance.now() - length);
    } else {
      this.tell({ late: this.state.get().late + 1 });
      this.due = performance.now() + length / 4;
    }
    this.fill();
    this.wait();
  }

  private drop(which: (frame: number) => boolean): void {
    for (const [frame, bitmap] of this.ready) {
      if (!which(frame)) continue;
      bitmap.close();
      this.ready.delete(frame);
    }
    const before = new Set(this.flights.values());
    for (const frame of [...this.flights.keys()]) if (which(frame)) this.flights.delete(frame);
    const wanted = new Set(this.flights.values());
    for (const flight of before) if (!wanted.has(flight)) flight.control.abort();
  }

  private tell(change: Partial<Playing>): void {
    this.state.set({ ...this.state.get(), ...change });
  }
}
