import { act, fireEvent, render, screen } from "@testing-library/react";
import { describe, expect, it, vi } from "vitest";
import { studio } from "../testing";
import { FindPanel } from "./FindPanel";

interface Thing {
  readonly id: number;
  readonly name: string;
}
const groups = () => [{ id: "all", name: "All", items: [1, 2, 3].map((id) => ({ id, name: `Thing ${String(id)}` })) }];

/** Its lists are made anew each time, as while more is found. */
function shown(more: { onTry?: (thing: Thing | null) => void; onClose?: () => void } = {}) {
  const onTake = vi.fn<(thing: Thing) => void>();
  const star = vi.fn<(thing: Thing) => void>();
  const Studio = studio();
  const view = () => (
    <Studio>
      <FindPanel
        label="Things"
        fieldLabel="Find a thing"
        listLabel="Things found"
        placeholder="A name"
        search=""
        onSearch={vi.fn()}
        groups={groups()}
        isSettled
        columns="1fr"
        line={(one) => one.name}
        drawnFrom={[]}
        nothing="None."
        onTake={onTake}
        where={null}
        commands={[{ isPressed: (event) => event.altKey && event.code === "KeyS", run: star }]}
        {...more}
      />
    </Studio>
  );
  const { rerender, unmount } = render(view());
  return { onTake, star, unmount, again: () => rerender(view()) };
}

const field = () => screen.getByRole("textbox", { name: "Find a thing" });

function press(...keys: string[]) {
  for (const key of keys) {
    fireEvent.keyDown(field(), { key });
    fireEvent.keyUp(field(), { key });
  }
}

describe("a search that one chooses from", () => {
  it("takes the first by Enter, and what keys have walked to", () => {
    const { onTake } = shown();
    act(() => field().focus());
    press("Enter");
    expect(onTake).toHaveBeenLastCalledWith({ id: 1, name: "Thing 1" });
    press("ArrowDown", "ArrowDown", "Enter");
    expect(onTake).toHaveBeenLastCalledWith({ id: 2, name: "Thing 2" });
  });

  it("tries what keys walk to once, takes nothing that was not tried, and leaves no trace", () => {
    const onTry = vi.fn<(thing: Thing | null) => void>();
    const { onTake, again, unmount } = shown({ onTry });
    act(() => field().focus());
    press("Enter");
    expect(onTake).not.toHaveBeenCalled();
    press("ArrowDown");
    expect(onTry).toHaveBeenLastCalledWith({ id: 1, name: "Thing 1" });
    const calls = onTry.mock.calls.length;
    act(again);
    expect(onTry).toHaveBeenCalledTimes(calls);
    press("Enter");
    expect(onTake).toHaveBeenLastCalledWith({ id: 1, name: "Thing 1" });
    unmount();
    expect(onTry).toHaveBeenLastCalledWith(null);
  });

  it("has keys of its own, for the first where none was walked to", () => {
    const { star, onTake } = shown();
    act(() => field().focus());
    fireEvent.keyDown(field(), { code: "KeyS", key: "ß", altKey: true });
    expect(star).toHaveBeenLastCalledWith({ id: 1, name: "Thing 1" });
    expect(onTake).not.toHaveBeenCalled();
  });

  it("is closed by Escape wherever the keys are, and by its button", () => {
    const onClose = vi.fn();
    shown({ onClose });
    act(() => field().focus());
    press("Escape");
    expect(onClose).toHaveBeenCalledTimes(1);
    act(() => field().blur());
    fireEvent.keyDown(document.body, { key: "Escape" });
    expect(onClose).toHaveBeenCalledTimes(2);
    fireEvent.click(screen.getByRole("button", { name: "Close" }));
    expect(onClose).toHaveBeenCalledTimes(3);
  });
});
