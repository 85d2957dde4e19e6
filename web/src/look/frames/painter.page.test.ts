import { beforeEach, describe, expect, it, vi } from "vitest";
import { Unreachable } from "../../api/client";
import type { Look, Picture } from "../../api/types";
import { BenchStore, opened as openedLook } from "../store";
import { fromSearch, ViewStore } from "../view/view";
import { Painter } from "./painter";

interface Asked {
  readonly ask: {
    look: Look;
    picture: number;
    quality: string;
    width: number | null;
    edited: number | null;
    steps: number | null;
    at: number | null;
    screen: string;
  };
  readonly signal: AbortSignal | undefined;
  readonly come: (bitmap: ImageBitmap) => void;
  readonly fail: (error: unknown) => void;
}
const asked: Asked[] = [];
const originals: number[] = [];
vi.mock("../../api/seen", () => ({
  fetchFrame: (ask: Asked["ask"], signal?: AbortSignal) =>
    new Promise<ImageBitmap>((come, fail) => asked.push({ ask, signal, come, fail })),
  fetchOriginal: (picture: number) => {
    originals.push(picture);
    return Promise.resolve({ close: () => undefined } as ImageBitmap);
  },
}));
let wide = false;
vi.mock("../../browser/screen", () => ({
  screenFor: (proof: boolean) => (wide && !proof ? "display-p3" : "srgb"),
  watchScreen: () => () => undefined,
}));

const pictureOf = (id: number, state = "a") => ({ id, state, encoding: "srgb" }) as Picture;
/** A frame, and whether its memory was given back. */
class Drawn {
  readonly close = vi.fn();
}
const bitmap = () => new Drawn() as Drawn & ImageBitmap;

function opened(pictures: Picture[] = [pictureOf(7)]) {
  const store = new BenchStore(
    openedLook({ input: "srgb", output: "srgb", steps: [{ kind: "tone", id: "t" }] }, [], [], "t"),
  );
  const view = new ViewStore(fromSearch(new URLSearchParams()));
  const painter = new Painter(1, store, view);
  painter.open();
  painter.see(pictures);
  const drag = (exposure: number) =>
    store.editStep("Tone", "t", (step) => ({ ...step, exposure }) as typeof step, "exposure");
  /** What is asked for and not yet answered comes. */
  const answer = async () => {
    const made = asked.splice(0).map((one) => {
      const image = bitmap();
      one.come(image);
      return image;
    });
    await vi.advanceTimersByTimeAsync(0);
    return made;
  };
  const told = () => painter.painted.get();
  return { store, view, painter, drag, answer, told };
}

beforeEach(() => {
  asked.length = 0;
  originals.length = 0;
  wide = false;
  vi.useFakeTimers();
});

describe("a frame at rest", () => {
  it("is one of the screen it is looked at on: not before a frame for that has come", async () => {
    wide = true;
    const { store, view, answer, told } = opened();
    await answer();
    expect(told().settled).toBe(store.get().look);
    view.set({ proof: true });
    expect(told().settled).toBeNull();
    await vi.waitFor(() => expect(asked.at(-1)?.ask.screen).toBe("srgb"));
    await answer();
    expect(told().settled).toBe(store.get().look);
  });

  it("settles nothing once something else is wanted", async () => {
    const { drag, answer, told } = opened();
    drag(1);
    await answer();
    expect(told().settled, "that was the frame from before the drag").toBeNull();
  });

  it("is told to those who read it off once nothing has changed for a while, and later while something is held", async () => {
    const { painter, store, drag, answer } = opened();
    painter.onRest = vi.fn();
    await answer();
    await vi.advanceTimersByTimeAsync(400);
    expect(painter.onRest).toHaveBeenCalledTimes(1);
    drag(1);
    await vi.advanceTimersByTimeAsync(400);
    expect(painter.onRest).toHaveBeenCalledTimes(1);
    await vi.advanceTimersByTimeAsync(400);
    expect(painter.onRest).toHaveBeenCalledTimes(2);
    store.dispatch({ type: "endGesture" });
  });
});

describe("while something moves", () => {
  it("frames come at the size they are seen in, one of rest follows by itself", async () => {
    const { painter, drag, answer } = opened();
    painter.onWidth(801);
    await answer();
    drag(1);
    expect(asked.at(-1)?.ask).toMatchObject({ quality: "drag", width: 801, picture: 7 });
    await answer();
    await vi.advanceTimersByTimeAsync(200);
    expect(asked.at(-1)?.ask).toMatchObject({ quality: "rest", width: null });
  });

  it("one frame is under way at a time, and then the newest is asked for", async () => {
    const { drag, answer } = opened();
    await answer();
    for (const exposure of [1, 2, 3]) drag(exposure);
    expect(asked).toHaveLength(1);
    await answer();
    await vi.waitFor(() => expect(asked).toHaveLength(1));
    expect(asked[0]?.ask.look.steps?.[0]).toMatchObject({ exposure: 3 });
  });

  it("whoever waits for its pixels is told for each of them, and only then", async () => {
    const { painter, drag, answer } = opened();
    painter.onMoved = vi.fn();
    await answer();
    expect(painter.onMoved).not.toHaveBeenCalled();
    drag(1);
    await answer();
    expect(painter.onMoved).toHaveBeenCalledOnce();
  });

  it("the other pictures come after the chosen one, half as large", async () => {
    const { painter, drag, answer } = opened([pictureOf(7), pictureOf(8)]);
    painter.onWidth(800);
    await answer();
    await answer();
    drag(1);
    expect(asked.map((one) => one.ask.picture)).toEqual([7]);
    await answer();
    const others = asked.filter((one) => one.ask.picture === 8);
    expect(others.map((one) => one.ask)).toMatchObject([{ quality: "drag", width: 400 }]);
  });
});

describe("what is on the stage", () => {
  it("is looked at up to a stage, by its number of steps", async () => {
    const { view, answer } = opened();
    expect(asked.at(-1)?.ask.steps, "the whole look").toBeNull();
    await answer();
    view.set({ stage: 0 });
    expect(asked.at(-1)?.ask.steps).toBe(0);
  });

  it("gives back the memory of frames that are replaced, and of pictures that are left", async () => {
    const { painter, drag, answer, told } = opened();
    const [first] = await answer();
    const { drawn } = told();
    drag(1);
    const [second] = await answer();
    expect(told().drawn).toBe(drawn + 1);
    expect(first?.close.mock.calls).toHaveLength(1);
    painter.see([pictureOf(9)]);
    expect(second?.close.mock.calls).toHaveLength(1);
    expect([...told().pairs.keys()]).toEqual([]);
  });

  it("lets a frame go that comes for a picture nobody looks at any more", async () => {
    const { painter, answer, told } = opened();
    painter.see([pictureOf(9)]);
    const made = await answer();
    expect(told().pairs.has(7)).toBe(false);
    expect(made.filter((one) => one.close.mock.calls.length > 0).length).toBeGreaterThan(0);
  });

  it("is emptied when it is closed, and draws nothing that comes later", async () => {
    const { painter, answer, told } = opened();
    const [first] = await answer();
    painter.close();
    expect(first?.close.mock.calls).toHaveLength(1);
    expect(told()).toMatchObject({ drawn: 0, settled: null });
    await answer();
    expect(told().pairs.size).toBe(0);
    painter.ask();
    expect(asked).toEqual([]);
  });

  it("says which step is being edited on every side that is of the draft", async () => {
    const { view, answer } = opened();
    expect(asked.at(-1)?.ask.edited).toBe(0);
    await answer();
    for (const [shown, quality] of [
      ["without", "rest"],
      ["sampled", "sampled"],
    ] as const) {
      view.set({ shown });
      expect(asked.at(-1)?.ask, shown).toMatchObject({ edited: 0, quality });
      await answer();
    }
  });
});

describe("the original", () => {
  it("is fetched once for a picture as it stands, and anew when it is another", async () => {
    const { painter, view, answer, drag } = opened();
    view.set({ mode: "beside" });
    await answer();
    drag(1);
    await answer();
    expect(originals).toEqual([7]);
    painter.see([pictureOf(7, "b")]);
    await answer();
    await answer();
    expect(originals).toEqual([7, 7]);
  });

  it("stands for the picture itself when it is what is shown", async () => {
    const { view, answer, told } = opened();
    await answer();
    view.set({ shown: "original" });
    await vi.advanceTimersByTimeAsync(0);
    expect(originals).toContain(7);
    expect(told().settled, "the look is not what is seen").toBeNull();
  });

  it("goes through a look that does nothing, the same one each time, where the screen shows more", async () => {
    wide = true;
    const { painter, view, answer } = opened();
    view.set({ mode: "beside" });
    await answer();
    expect(originals).toEqual([]);
    expect(painter.lookOf("original")).toMatchObject({ input: "srgb", output: "srgb", steps: [] });
    expect(painter.lookOf("original")).toBe(painter.lookOf("original"));
  });
});

describe("a server that does not answer", () => {
  it("is said in words, and asked again by and by", async () => {
    const { answer, told } = opened();
    asked.splice(0).forEach((one) => one.fail(new Unreachable()));
    await vi.advanceTimersByTimeAsync(0);
    expect(told().problem).toContain("your work is kept");
    expect(asked).toEqual([]);
    await vi.advanceTimersByTimeAsync(2100);
    expect(asked.length).toBeGreaterThan(0);
    await answer();
    expect(told().problem).toBeNull();
  });

  it("that refuses is told in its own words, and not asked again", async () => {
    const { told } = opened();
    asked.splice(0).forEach((one) => one.fail(new Error("The picture was deleted.")));
    await vi.advanceTimersByTimeAsync(5000);
    expect(told().problem).toBe("The picture was deleted.");
    expect(asked).toEqual([]);
  });
});

describe("a moving picture", () => {
  it("is seen at the frame it stands at, and plays through the draft", async () => {
    const { painter, store, answer } = opened();
    await answer();
    painter.standAt(7, 12);
    painter.ask();
    expect(asked.at(-1)?.ask.at).toBe(12);
    void painter.playing(7, 13, new AbortController().signal);
    expect(asked.at(-1)?.ask).toMatchObject({ at: 13, quality: "drag", look: store.get().look });
  });
});
