import { fireEvent, render, screen, waitFor } from "@testing-library/react";
import { describe, expect, it } from "vitest";
import type { Shot, Step } from "../../api/types";
import { BenchContext } from "../../look/useBench";
import { benchOf, serve, studio } from "../../testing";
import { LeftToShots } from "./LeftToShots";
import { useLeftToShots } from "./useLeftToShots";

const steps: Step[] = [
  { kind: "curves", id: "c" },
  { kind: "group", id: "g", steps: [{ kind: "white-balance", id: "w", per_shot: true, note: "by the greys" }] },
  { kind: "tone", id: "t", name: "Level of the day", per_shot: true },
  { kind: "grain", id: "n", per_shot: true },
];
const shot = {
  layers: [
    { role: "before", kind: null, entry: null, version: null },
    { role: "look", kind: "look", entry: 7, version: 3 },
  ],
} as unknown as Shot;

function Offered({ mayWork }: { mayWork: boolean }) {
  return <LeftToShots left={useLeftToShots(shot, mayWork)} />;
}

function opened(trims: Step[], mayWork = true) {
  const sent = serve(() => ({ body: { steps } }));
  const bench = benchOf({ steps: trims });
  const Studio = studio();
  render(
    <Studio>
      <BenchContext value={bench}>
        <Offered mayWork={mayWork} />
      </BenchContext>
    </Studio>,
  );
  return { sent, store: bench.store };
}

describe("what a look leaves to each shot", () => {
  it("is offered by name, and one press adds it as a trim of the shot's own", async () => {
    const { sent, store } = opened([{ kind: "tone", id: "own" }]);
    fireEvent.click(await screen.findByRole("button", { name: "Level of the day" }));
    expect(sent.map((one) => one.path)).toEqual(["/api/looks/7/versions/3"]);
    const [, added] = store.get().look.steps ?? [];
    expect(added).toMatchObject({ kind: "tone", name: "Level of the day" });
    expect(added).not.toHaveProperty("per_shot");
    expect(added?.id).not.toBe("t");
    expect(store.get().selected).toBe(added?.id);
    await waitFor(() => expect(screen.queryByRole("button", { name: "Level of the day" })).toBeNull());
    expect(screen.getAllByRole("button").map((one) => one.textContent)).toEqual(["White balance"]);
  });

  it("is not asked for where nobody may trim", () => {
    expect(opened([], false).sent).toEqual([]);
    expect(screen.queryByRole("button")).toBeNull();
  });
});
