import { fireEvent, render, screen } from "@testing-library/react";
import { beforeEach, describe, expect, it, vi } from "vitest";
import type { Picture } from "../../api/types";
import type { Painter } from "../../look/frames/painter";
import { BenchContext } from "../../look/useBench";
import { benchOf, serve, studio } from "../../testing";
import { TakeSheet } from "./TakeSheet";

const picture = (id: number, moves = false) =>
  ({ id, name: `Picture ${id}`, width: 40, height: 24, moving: moves ? {} : null }) as unknown as Picture;
const done = {
  id: 3,
  kind: "graded",
  state: "done",
  progress: 1,
  download: "/api/jobs/3/file",
  file_name: "a.png",
  left_out: [],
};
const clicked = vi.fn();

function opened(chosen = picture(5)) {
  const sent = serve(({ path, method }) => ({
    status: method === "POST" ? 202 : 200,
    body: path.startsWith("/api/jobs") || method === "POST" ? done : [],
  }));
  const bench = benchOf({ name: "Salt", steps: [{ kind: "tone", id: "t" }] });
  bench.view.set({ readAs: { 6: "film-log" } });
  const Studio = studio();
  const painter = { frameOf: () => 17 } as unknown as Painter;
  render(
    <Studio>
      <BenchContext value={bench}>
        <TakeSheet picture={chosen} tray={[picture(5), picture(6)]} painter={painter} onClose={vi.fn()} />
      </BenchContext>
    </Studio>,
  );
  return sent;
}

beforeEach(() => {
  localStorage.clear();
  clicked.mockClear();
  vi.spyOn(HTMLAnchorElement.prototype, "click").mockImplementation(clicked);
});

describe("taking pictures, graded", () => {
  it("asks for the one in view as it was taken last, and hands its file over once it is there", async () => {
    localStorage.setItem("saucer.take pictures", JSON.stringify({ format: "tiff", depth: "f32", encoding: "" }));
    const sent = opened();
    const take = await screen.findByRole("button", { name: "Take 40 × 24" });
    fireEvent.click(take);
    await screen.findByText("a.png");
    const asked = sent.find((one) => one.path === "/api/looks/graded");
    expect(asked?.body).toMatchObject({ pictures: [5], format: "tiff", depth: "f32", at: null, read_as: {} });
    expect(clicked).toHaveBeenCalledTimes(1);
  });

  it("asks for all of the tray, each read as this look reads it", async () => {
    const sent = opened();
    fireEvent.click(await screen.findByRole("radio", { name: "All 2 of the tray" }));
    fireEvent.click(screen.getByRole("button", { name: "Take all 2" }));
    await screen.findByText("a.png");
    const asked = sent.find((one) => one.path === "/api/looks/graded");
    expect(asked?.body).toMatchObject({ pictures: [5, 6], read_as: { 6: "film-log" } });
  });

  it("of a clip takes the frame at which it stands", async () => {
    const sent = opened(picture(5, true));
    fireEvent.click(await screen.findByRole("button", { name: "Take 40 × 24" }));
    await screen.findByText("a.png");
    expect(sent.find((one) => one.path === "/api/looks/graded")?.body).toMatchObject({ pictures: [5], at: 17 });
  });
});
