import { beforeEach, describe, expect, it, vi } from "vitest";
import type { Look, Picture } from "../../api/types";
import type { BenchStore } from "../store";
import type { View, ViewStore } from "../view/view";
import { Painter } from "./painter";

const asked: { screen: string; come: (bitmap: ImageBitmap) => void }[] = [];
vi.mock("../../api/client", () => {
  const call = (_: string, ask: { screen: string }) =>
    new Promise<ImageBitmap>((come) => asked.push({ screen: ask.screen, come }));
  return { callImage: call, callWideImage: call, loadImage: () => new Promise(() => undefined), Unreachable: Error };
});
vi.mock("../../kit/screen", () => ({
  screenFor: (proof: boolean) => (proof ? "srgb" : "display-p3"),
  watchScreen: () => () => undefined,
}));

const look = { input: "srgb", output: "srgb", steps: [] } as unknown as Look;
const bitmap = { close: () => undefined } as ImageBitmap;

function open() {
  let view = {
    shown: "draft",
    against: "original",
    mode: "single",
    held: false,
    stage: null,
    watched: [],
    proof: false,
  };
  let told: () => void = () => undefined;
  const store = { get: () => ({ look, trial: null, selected: null, gesture: null }), subscribe: () => () => undefined };
  const views = {
    get: () => view as unknown as View,
    subscribe: (change: () => void) => {
      told = change;
      return () => undefined;
    },
  };
  const painter = new Painter(1, store as unknown as BenchStore, views as unknown as ViewStore);
  painter.open();
  painter.see([{ id: 7, state: "a", encoding: "srgb" } as Picture]);
  return {
    painter,
    prove: (proof: boolean) => {
      view = { ...view, proof };
      told();
    },
    answer: async () => {
      for (const one of asked.splice(0)) one.come(bitmap);
      await vi.advanceTimersByTimeAsync(0);
    },
  };
}

describe("a frame at rest", () => {
  beforeEach(() => {
    asked.length = 0;
    vi.useFakeTimers();
  });

  it("is one of the screen it is looked at on: not before a frame for that has come", async () => {
    const { painter, prove, answer } = open();
    await answer();
    expect(painter.painted.get().settled).toBe(look);
    prove(true);
    expect(painter.painted.get().settled).toBeNull();
    await vi.waitFor(() => expect(asked.at(-1)?.screen).toBe("srgb"));
    await answer();
    expect(painter.painted.get().settled).toBe(look);
    painter.close();
  });
});
