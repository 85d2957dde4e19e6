import { fireEvent, render, screen } from "@testing-library/react";
import { describe, expect, it, vi } from "vitest";
import type { Picture } from "../../api/types";
import { BenchContext } from "../../look/useBench";
import { benchOf, serve, studio } from "../../testing";
import { TowardsPanel } from "./TowardsPanel";

const picture = (id: number, name: string) => ({ id, name, state: "a", of_shots: false }) as unknown as Picture;
const all = [picture(5, "Quay"), picture(6, "Market")];
const group = { kind: "group", name: "Tone of Market", steps: [{ kind: "curves" }] };
const proposal = {
  what: "tone",
  title: "Tone",
  gone: 0.83,
  skin: 2.4,
  words: ["Curves: lifts blacks to 18"],
  look: { name: "Salt", steps: [{ kind: "tone", id: "t" }, group] },
};

const project = {
  id: 3,
  name: "Tide",
  shots: [
    { scene: 7, picture: 41, encoding: "film-log", encoding_said: true },
    { scene: 8, picture: 42, encoding: "srgb", encoding_said: false },
  ],
  scenes: [
    { id: 7, name: "Quay at night" },
    { id: 8, name: "Kitchen" },
    { id: 9, name: "Empty" },
  ],
};
const answers: Readonly<Record<string, unknown>> = {
  "/api/pictures": all,
  "/api/projects": [
    { ...project, shots: 2 },
    { ...project, id: 4, name: "Bare", shots: 0 },
  ],
  "/api/projects/3": project,
};

function opened(answer: unknown[] = [proposal]) {
  const sent = serve(({ path, method }) => ({ body: method === "POST" ? answer : (answers[path] ?? []) }));
  vi.stubGlobal("URL", Object.assign(URL, { createObjectURL: () => "blob:a", revokeObjectURL: () => undefined }));
  const bench = benchOf({ name: "Salt", steps: [{ kind: "tone", id: "t" }] });
  bench.view.set({ readAs: { 6: "film-log" }, tolerance: 4 });
  const [Studio, onSaid, onClose] = [studio(), vi.fn(), vi.fn()];
  render(
    <Studio>
      <BenchContext value={bench}>
        <TowardsPanel picture={all[0]} tray={all} onSaid={onSaid} onClose={onClose} />
      </BenchContext>
    </Studio>,
  );
  return { sent, bench, onSaid, onClose };
}
const asked = (sent: ReturnType<typeof serve>) => sent.filter((one) => one.path === "/api/looks/towards");

describe("a look towards a picture", () => {
  it("asks with the picture in view, or all of the tray as they are read", async () => {
    const { sent } = opened();
    fireEvent.click(await screen.findByRole("button", { name: "Market" }));
    await screen.findByText("83 % of the way, skin turns by 2\u00b0");
    expect(asked(sent)[0]?.body).toMatchObject({ pictures: [5], reference: 6, tolerance: 4, read_as: {} });
    fireEvent.click(screen.getByRole("radio", { name: "All 2 of the tray" }));
    await screen.findByText("Curves: lifts blacks to 18");
    expect(asked(sent)[1]?.body).toMatchObject({ pictures: [5, 6], read_as: { 6: "film-log" } });
  });

  it("asks with the shots of a scene, read as they say", async () => {
    const { sent } = opened();
    fireEvent.click(await screen.findByRole("radio", { name: "A scene" }));
    fireEvent.click(await screen.findByRole("button", { name: "Market" }));
    expect(asked(sent)).toHaveLength(0);
    const choose = async (name: string) => {
      fireEvent.click(await screen.findByRole("button", { name: /Scene/ }));
      fireEvent.click(await screen.findByRole("option", { name }));
    };
    await choose("Quay at night");
    await screen.findByText("Curves: lifts blacks to 18");
    expect(asked(sent)[0]?.body).toMatchObject({ pictures: [41], reference: 6, read_as: { 41: "film-log" } });
    await choose("Empty");
    await screen.findByText("No shot lies there.");
    expect(screen.queryByText("Curves: lifts blacks to 18")).toBeNull();
    expect(asked(sent)).toHaveLength(1);
    await choose("Kitchen");
    await screen.findByText("Curves: lifts blacks to 18");
    fireEvent.click(screen.getByRole("radio", { name: "Quay" }));
    await screen.findByText("Curves: lifts blacks to 18");
    fireEvent.click(screen.getByRole("radio", { name: "A scene" }));
    await screen.findByRole("button", { name: /Scene/ });
    expect(screen.queryByText("Curves: lifts blacks to 18")).toBeNull();
    expect(asked(sent).map((one) => (one.body as { pictures: number[] }).pictures)).toEqual([[41], [42], [5]]);
  });

  it("tries what is pointed at, and puts it in by one press, as one change", async () => {
    const { bench, onSaid, onClose } = opened();
    fireEvent.click(await screen.findByRole("button", { name: "Market" }));
    const found = await screen.findByRole("button", { name: /^Tone/ });
    fireEvent.pointerEnter(found);
    expect(bench.store.get().trial?.steps).toHaveLength(2);
    fireEvent.click(found);
    expect(bench.store.get().trial).toBeNull();
    expect(bench.store.get().look.steps?.[1]).toMatchObject({ kind: "group", name: "Tone of Market" });
    expect(bench.store.get().look.steps?.[1]?.id).toBeTruthy();
    expect(bench.store.get().past).toHaveLength(1);
    expect(onClose).toHaveBeenCalled();
    expect(onSaid).toHaveBeenCalledWith("Tone of Market is in the look, as a group with a strength of its own.");
  });

  it("says where nothing would bring it nearer", async () => {
    opened([]);
    fireEvent.click(await screen.findByRole("button", { name: "Market" }));
    await screen.findByText("Nothing brings it nearer to Market: it is there already.");
  });
});
