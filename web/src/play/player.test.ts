import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import { Player } from "./player";

interface Waiting {
  readonly frame: number;
  readonly more: number;
  readonly isPlaying: boolean;
  readonly signal: AbortSignal;
  readonly arrive: () => void;
}

let asked: Waiting[];
let shown: string[];
let made: string;

function player(last = 23, start = 0, together = 1) {
  return new Player({
    rate: 25,
    together,
    first: 0,
    last,
    start,
    fetch: ({ frame, more, isPlaying }, signal) =>
      new Promise((resolve) => {
        const names = Array.from({ length: more + 1 }, (_, index) => `${String(frame + index)}${made}`);
        asked.push({
          frame,
          more,
          isPlaying,
          signal,
          arrive: () => resolve(names.map((name) => ({ name, close: () => undefined }) as unknown as ImageBitmap)),
        });
      }),
    draw: (bitmap) => shown.push((bitmap as unknown as { name: string }).name),
    words: String,
  });
}

/** Everything that was asked for arrives, and what that asks for. */
async function arrive() {
  while (asked.length > 0) {
    for (const one of asked.splice(0)) one.arrive();
    await vi.advanceTimersByTimeAsync(0);
  }
}

beforeEach(() => {
  vi.useFakeTimers();
  asked = [];
  shown = [];
  made = "";
});
afterEach(() => vi.useRealTimers());

describe("the player", () => {
  it("asks alone for the frame that is waited for, and for the rest together", async () => {
    const one = player(23, 0, 4);
    expect(asked.map(({ frame, more }) => [frame, more])).toEqual([[0, 0]]);
    await arrive();
    one.play();
    expect(asked.map(({ frame, more }) => [frame, more])[0]).toEqual([1, 3]);
    const alone = player(23, 0, 1);
    asked.length = 0;
    await arrive();
    alone.play();
    for (const { more } of asked) expect(more).toBe(0);
    one.close();
    alone.close();
  });

  it("shows the frame it stands on and fetches nothing more", async () => {
    const one = player();
    await arrive();
    expect(shown).toEqual(["0"]);
    expect(asked).toEqual([]);
    one.close();
  });

  it("asks for frames ahead together, and for the one that is waited for alone", async () => {
    const one = player(23, 0, 3);
    await arrive();
    one.play();
    expect(asked.map(({ frame, more }) => [frame, more])).toEqual([
      [1, 2],
      [4, 2],
      [7, 2],
    ]);
    one.changed();
    expect(asked.slice(3).map(({ frame, more }) => [frame, more])).toEqual([[1, 0]]);
    expect(asked.slice(0, 3).every((flight) => flight.signal.aborted)).toBe(true);
    await arrive();
    await vi.advanceTimersByTimeAsync(40);
    expect(shown).toEqual(["0", "1", "2"]);
    one.close();
  });

  it("makes the frame it rests on anew, as fine as it gets", async () => {
    const one = player();
    one.play();
    await arrive();
    asked = [];
    one.pause();
    expect(asked.map(({ frame, isPlaying }) => [frame, isPlaying])).toEqual([[one.state.get().frame, false]]);
    one.close();
  });

  it("shows one frame after the other at its rate, and loops", async () => {
    const one = player(3);
    await arrive();
    one.play();
    for (let passed = 0; passed < 6; passed += 1) {
      await arrive();
      await vi.advanceTimersByTimeAsync(40);
    }
    expect(shown.slice(0, 7)).toEqual(["0", "1", "2", "3", "0", "1", "2"]);
    one.close();
  });

  it("never shows what was asked for before a change", async () => {
    const one = player();
    await arrive();
    one.play();
    await vi.advanceTimersByTimeAsync(0);
    const before = asked.splice(0);
    made = "b";
    one.changed();
    expect(before.every((flight) => flight.signal.aborted)).toBe(true);
    for (const flight of before) flight.arrive();
    await arrive();
    await vi.advanceTimersByTimeAsync(40);
    expect(shown).toEqual(["0", "1b", "2b"]);
    one.close();
  });

  it("shows what it can while something is moved faster than frames come, one at a time, and ends with the last", async () => {
    const one = player(23, 0, 3);
    await arrive();
    one.play();
    await arrive();
    const passed: number[] = [];
    for (let move = 1; move <= 12; move += 1) {
      made = `-${String(move)}`;
      one.changed(true);
      await vi.advanceTimersByTimeAsync(30);
      expect(asked.filter((flight) => !flight.signal.aborted)).toHaveLength(1);
      // A frame takes longer than two moves.
      if (move % 3 === 0) {
        for (const flight of asked.splice(0)) flight.arrive();
        await vi.advanceTimersByTimeAsync(0);
        passed.push(one.state.get().version);
      }
    }
    expect(shown.slice(1).map((name) => name.split("-")[1])).toEqual(["1", "3", "6", "9"]);
    expect(passed).toEqual([2, 4, 7, 10]);
    const frames = shown.map((name) => parseInt(name, 10));
    expect(frames).toEqual([...new Set(frames)].sort((a, b) => a - b));
    made = "-last";
    one.changed();
    await arrive();
    await vi.advanceTimersByTimeAsync(40);
    await arrive();
    expect(shown.at(-1)).toContain("-last");
    one.close();
  });

  it("waits for a frame that is not there, and counts it", async () => {
    const one = player();
    await arrive();
    one.play();
    await vi.advanceTimersByTimeAsync(100);
    expect(shown).toEqual(["0"]);
    expect(one.state.get().late).toBeGreaterThan(1);
    await arrive();
    await vi.advanceTimersByTimeAsync(15);
    expect(shown).toEqual(["0", "1"]);
    one.close();
  });

  it("stays inside its loop, and steps by one", async () => {
    const one = player(23, 5);
    one.loopOver(10, 12);
    one.play();
    await arrive();
    expect(one.state.get().frame).toBe(10);
    one.step(-1);
    await arrive();
    expect(one.state.get()).toMatchObject({ isPlaying: false, frame: 9 });
    expect(shown.at(-1)).toBe("9");
    one.close();
  });
});
