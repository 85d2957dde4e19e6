import { fireEvent, render, screen } from "@testing-library/react";
import { MemoryRouter } from "react-router";
import { describe, expect, it, vi } from "vitest";
import type { LayerGiven } from "../../api/projects";
import type { Shot } from "../../api/types";
import { studio } from "../../testing";
import { Stack } from "./Stack";

const layer = (role: "before" | "look", entry: number | null): LayerGiven => ({
  role,
  entry,
  version: entry === null ? null : 1,
  steps: entry === null ? [{ kind: "tone" }] : null,
  strength: 1,
  enabled: true,
});
const layers = [layer("before", null), layer("before", 1), layer("look", 2), layer("look", 3)];
const names = new Map([
  [1, "Paler"],
  [2, "Warm"],
  [3, "Faded"],
]);
const shot = {
  layers: layers.map((one) => ({ ...one, name: names.get(one.entry ?? 0) ?? "Trims", kind: "look", newer: null })),
} as unknown as Shot;

function shown(mayWork = true) {
  const onRest = vi.fn<(layers: LayerGiven[]) => void>();
  const Studio = studio();
  render(
    <MemoryRouter>
      <Studio>
        <Stack shot={shot} layers={layers} mayWork={mayWork} onMove={vi.fn()} onRest={onRest} onNewest={vi.fn()} />
      </Studio>
    </MemoryRouter>,
  );
  return onRest;
}

describe("the order of what lies on a shot", () => {
  it("is changed among looks, and only there", () => {
    const onRest = shown();
    fireEvent.click(screen.getByRole("button", { name: "Move Faded earlier" }));
    expect(onRest.mock.lastCall?.[0].map((one) => one.entry)).toEqual([null, 1, 3, 2]);
    fireEvent.click(screen.getByRole("button", { name: "Move Warm later" }));
    expect(onRest.mock.lastCall?.[0].map((one) => one.entry)).toEqual([null, 1, 3, 2]);
    expect(screen.getByRole("button", { name: "Move Warm earlier" }).hasAttribute("disabled")).toBe(true);
    expect(screen.getByRole("button", { name: "Move Faded later" }).hasAttribute("disabled")).toBe(true);
    expect(screen.queryByRole("button", { name: /Move Paler/ })).toBeNull();
  });

  it("is nothing that a viewer is offered", () => {
    shown(false);
    expect(screen.queryByRole("button", { name: /Move/ })).toBeNull();
  });
});
