import { act, fireEvent, render, screen, within } from "@testing-library/react";
import { MemoryRouter } from "react-router";
import { describe, expect, it, vi } from "vitest";
import type { LayerGiven } from "../../api/projects";
import type { Entry, Shot } from "../../api/types";
import { serve, studio } from "../../testing";
import type { Choosing } from "./PartChooser";
import { ownParts, type SharedPlace } from "./parts";
import { PinnedParts } from "./PinnedParts";
import { useInHand } from "./useInHand";
import { SharedParts } from "./SharedParts";
import type { SharedDraft } from "./useSharedDraft";

const look = (entry: number): LayerGiven => ({
  role: "look",
  entry,
  version: 1,
  steps: null,
  strength: 1,
  enabled: true,
});
const layers = [look(2), look(3)];
const shot = {
  id: 7,
  encoding: "srgb",
  layers: [
    { id: 11, entry: 2, version: 1, role: "look", name: "Warm", kind: "look", lost: null },
    { id: 12, entry: 3, version: 1, role: "look", name: "Faded", kind: "look", member: "Thin", lost: 4 },
  ],
} as unknown as Shot;

interface PinnedProps {
  readonly mayWork: boolean;
  readonly onRest: (layers: LayerGiven[]) => void;
  readonly onChoose: (choosing: Choosing) => void;
}

function Pinned({ mayWork, onRest, onChoose }: PinnedProps) {
  return (
    <PinnedParts
      parts={ownParts(layers, shot.layers)}
      layers={layers}
      mayWork={mayWork}
      warned={new Map([[12, "3 % of this picture is already clipped here, by Warm."]])}
      inHand={useInHand(layers)}
      onMove={vi.fn()}
      onRest={onRest}
      onTry={vi.fn()}
      onChoose={onChoose}
    />
  );
}

function shown(mayWork = true, onChoose: (choosing: Choosing) => void = vi.fn()) {
  const onRest = vi.fn<(layers: LayerGiven[]) => void>();
  serve(({ path }) => ({
    body: path === "/api/looks/3/family" ? [{ name: "Night", changes: ["Tone: exposure 0 -> -1"] }] : [],
  }));
  const Studio = studio();
  render(
    <MemoryRouter>
      <Studio>
        <ol>
          <Pinned mayWork={mayWork} onRest={onRest} onChoose={onChoose} />
        </ol>
      </Studio>
    </MemoryRouter>,
  );
  return onRest;
}

const entries = (call: LayerGiven[] | undefined) => call?.map((one) => one.entry);

describe("what is pinned on a shot", () => {
  it("is moved by keys on its dot, and nowhere it cannot go", () => {
    const onRest = shown();
    fireEvent.keyDown(screen.getByRole("button", { name: "Move Faded" }), { key: "ArrowDown", altKey: true });
    fireEvent.keyDown(screen.getByRole("button", { name: "Move Warm" }), { key: "ArrowDown" });
    expect(onRest).not.toHaveBeenCalled();
    fireEvent.keyDown(screen.getByRole("button", { name: "Move Faded" }), { key: "ArrowUp", altKey: true });
    expect(entries(onRest.mock.lastCall?.[0])).toEqual([3, 2]);
    expect(document.activeElement).toBe(screen.getByRole("button", { name: "Move Faded" }));
  });

  it("goes on from where the last key put it, before that is drawn", () => {
    const onRest = shown();
    fireEvent.keyDown(screen.getByRole("button", { name: "Move Faded" }), { key: "ArrowUp", altKey: true });
    fireEvent.keyDown(screen.getByRole("button", { name: "Move Faded" }), { key: "ArrowUp", altKey: true });
    expect(onRest, "above the first there is nothing").toHaveBeenCalledTimes(1);
    fireEvent.keyDown(screen.getByRole("button", { name: "Move Faded" }), { key: "ArrowDown", altKey: true });
    expect(entries(onRest.mock.lastCall?.[0])).toEqual([2, 3]);
  });

  it("is moved by dragging its dot onto another part", () => {
    const onRest = shown();
    const dataTransfer = { setData: vi.fn(), effectAllowed: "" };
    fireEvent.dragStart(screen.getByRole("button", { name: "Move Warm" }), { dataTransfer });
    const target = screen.getByRole("listitem", { name: "Faded" });
    fireEvent.dragOver(target, { dataTransfer });
    fireEvent.drop(target, { dataTransfer });
    expect(entries(onRest.mock.lastCall?.[0])).toEqual([3, 2]);
    fireEvent.dragEnd(screen.getByRole("button", { name: "Move Warm" }), { dataTransfer });
    fireEvent.drop(target, { dataTransfer });
    expect(onRest).toHaveBeenCalledTimes(1);
  });

  it("is swapped for another in its place, at its strength, and as what is offered of that", () => {
    const onChoose = vi.fn<(choosing: Choosing) => void>();
    const onRest = shown(true, onChoose);
    fireEvent.click(screen.getByRole("button", { name: "Swap Warm" }));
    const choosing = onChoose.mock.lastCall?.[0];
    expect(choosing).toMatchObject({ label: "In the place of Warm", kinds: ["look", "lut"], except: 2, stack: false });
    act(() => choosing?.onTake({ id: 9 } as Entry));
    expect(onRest.mock.lastCall?.[0]).toEqual([{ ...look(2), entry: 9, version: null, member: "" }, look(3)]);
  });

  it("is another one of the look's family, where its version has one", async () => {
    const onRest = shown();
    const faded = screen.getByRole("listitem", { name: "Faded" });
    fireEvent.click(await within(faded).findByRole("button", { name: /Which of the family of Faded/ }));
    expect(screen.getByText("Tone: exposure 0 -> -1")).toBeTruthy();
    fireEvent.click(screen.getByRole("option", { name: /^Night/ }));
    expect(onRest.mock.lastCall?.[0]).toEqual([look(2), { ...look(3), member: "Night" }]);
    expect(within(screen.getByRole("listitem", { name: "Warm" })).queryByRole("button", { name: /family/ })).toBeNull();
  });

  it("tells why a newer version is not taken", () => {
    shown();
    const told = within(screen.getByRole("listitem", { name: "Faded" })).getByText(/Version 4 has no/);
    expect(told.textContent).toBe("Version 4 has no Thin. With another of the family it can be taken.");
    expect(screen.queryByText(/Version .* has no Warm/)).toBeNull();
  });

  it("tells what comes after something that lost detail on its own line", () => {
    shown();
    expect(
      within(screen.getByRole("listitem", { name: "Faded" })).getByText(/already clipped here, by Warm/),
    ).toBeTruthy();
    expect(within(screen.getByRole("listitem", { name: "Warm" })).queryByText(/clipped/)).toBeNull();
  });

  it("is only read by a viewer", () => {
    shown(false);
    expect(screen.queryByRole("button")).toBeNull();
    expect(screen.getAllByText("100 %")).toHaveLength(2);
  });
});

describe("what lies on more shots than one", () => {
  const place = {
    key: "scene:before:1:",
    name: "Quay",
    reached: 6,
    spot: { reach: "scene", role: "before", scene: 1 },
    layers: [
      {
        id: 5,
        role: "before",
        entry: 9,
        version: 2,
        name: "Print",
        kind: "lut",
        strength: 0.6,
        enabled: true,
        off_on: [7],
      },
    ],
  } as unknown as SharedPlace;

  function shownShared(mayWork: boolean, lying = place) {
    serve(() => ({ body: [{ name: "Night", changes: [] }] }));
    const draft = {
      given: null,
      isMoving: false,
      isKeeping: false,
      error: null,
      look: vi.fn(),
      take: vi.fn(),
      turn: vi.fn(),
    };
    const Studio = studio();
    render(
      <MemoryRouter>
        <Studio>
          <ol>
            <SharedParts
              place={lying}
              shot={shot}
              draft={draft as unknown as SharedDraft}
              mayWork={mayWork}
              picture={undefined}
              warned={new Map()}
              onChoose={vi.fn()}
            />
          </ol>
        </Studio>
      </MemoryRouter>,
    );
    return draft;
  }

  it("says for whom it is and that it is off here, and is taken again", () => {
    const draft = shownShared(true);
    expect(screen.getByText("Quay · 6 shots")).toBeTruthy();
    expect(screen.getByText("Off on this shot.")).toBeTruthy();
    fireEvent.click(screen.getByRole("button", { name: "Take it on this shot again" }));
    expect(draft.turn).toHaveBeenCalledWith(5, [7], true);
  });

  it("is another one of a look's family for all of them", async () => {
    const [layer] = place.layers;
    const lying = { ...place, layers: [{ ...layer, kind: "look", member: "" }] } as unknown as SharedPlace;
    const draft = shownShared(true, lying);
    fireEvent.click(await screen.findByRole("button", { name: /Which of the family of Print/ }));
    fireEvent.click(screen.getByRole("option", { name: "Night" }));
    expect(draft.take).toHaveBeenCalledWith(lying, [
      expect.objectContaining({ entry: 9, member: "Night", off_on: [7] }),
    ]);
  });

  it("is changed for all of them, those it is off on staying so", () => {
    const draft = shownShared(true);
    fireEvent.click(screen.getByRole("button", { name: "Switch Print off for all" }));
    expect(draft.take.mock.lastCall?.[1]).toMatchObject([
      { entry: 9, version: 2, enabled: false, off_on: [7], strength: 0.6 },
    ]);
    fireEvent.click(screen.getByRole("button", { name: "Take Print off for all" }));
    expect(draft.take.mock.lastCall?.[1]).toEqual([]);
  });

  it("is only read by a viewer", () => {
    shownShared(false);
    expect(screen.queryByRole("button")).toBeNull();
    expect(screen.getByText("60 %")).toBeTruthy();
  });
});
