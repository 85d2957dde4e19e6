import { fireEvent, render, screen } from "@testing-library/react";
import { describe, expect, it } from "vitest";
import type { Picture } from "../../api/types";
import type { Frames } from "../../look/frames/useFrames";
import { Shared } from "../../kit/Shared";
import { BenchContext } from "../../look/useBench";
import { benchOf, serve, studio } from "../../testing";
import { WhyPanel } from "./WhyPanel";

const reached = (id: string, title: string, moved: number) => ({
  id,
  path: id,
  title,
  encoding: "srgb",
  codes: [0.5, 0.4, 0.3],
  spread: [0.1, 0.1, 0.1],
  lightness: 0.5,
  chroma: 0.04,
  hue: 60,
  moved,
});
const frames = {
  painter: { frameOf: () => 12 },
  reader: { readings: new Shared({ rests: 0 }) },
} as unknown as Frames;

function opened(size: number) {
  const sent = serve(() => ({
    body: {
      reached: [reached("", "As it comes", 0), reached("a", "Curves", 1), reached("b", "Tone", 7.25)],
      most: 2,
      width: size,
      height: size,
    },
  }));
  const bench = benchOf({
    steps: [
      { kind: "curves", id: "a" },
      { kind: "tone", id: "b" },
    ],
  });
  bench.view.set({ asking: "where", readAs: { 5: "film-log" } });
  const Studio = studio();
  render(
    <Studio>
      <BenchContext value={bench}>
        <WhyPanel picture={{ id: 5 } as Picture} frames={frames} />
      </BenchContext>
    </Studio>,
  );
  return { sent, ...bench };
}

describe("why a colour is so", () => {
  it("asks for a place, then tells its way, and a press goes to the step that moved it most", async () => {
    const { sent, view, store } = opened(1);
    screen.getByText("Press a place in the picture, or draw over a part of it.");
    expect(sent).toEqual([]);
    view.set({ asking: { left: 0.2, top: 0.3, right: 0.2, bottom: 0.3 } });
    await screen.findByText(/One pixel, step by step\. Tone moves it most\./);
    expect(sent[0]?.body).toMatchObject({ picture: 5, read_as: "film-log", left: 0.2, bottom: 0.3, at: 12 });
    fireEvent.click(screen.getByRole("button", { name: "Tone" }));
    expect(store.get().selected).toBe("b");
    expect(screen.getByText("7.3")).toBeTruthy();
    expect(screen.getByRole<HTMLButtonElement>("button", { name: "As it comes" }).disabled).toBe(true);
    fireEvent.click(screen.getByRole("button", { name: "No longer ask why" }));
    expect(view.get().asking).toBeNull();
  });

  it("of a part tells means and spread", async () => {
    const { view } = opened(30);
    view.set({ asking: { left: 0, top: 0, right: 1, bottom: 1 } });
    await screen.findByText(/Means and spread of 30 × 30 pixels/);
    expect(screen.getAllByText(/^± /)).toHaveLength(3);
  });
});
