import { fireEvent, renderHook } from "@testing-library/react";
import type { ReactNode } from "react";
import { afterEach, describe, expect, it, vi } from "vitest";
import type { Picture, Step } from "../../api/types";
import { BenchContext, type Bench } from "../../look/useBench";
import { benchOf } from "../../testing";
import { alsoKeys, keysFor, useKeys, type KeyActions } from "./keys";

const steps: Step[] = [
  { kind: "tone", id: "a" },
  { kind: "saturation", id: "b" },
  { kind: "curves", id: "c" },
];
const tray = [{ id: 5 }, { id: 6 }] as Picture[];

function opened(mayEdit = true) {
  const bench = benchOf({ steps }, mayEdit);
  const arrange = {
    move: vi.fn(),
    toggle: vi.fn(),
    group: vi.fn(),
    ungroup: vi.fn(),
    duplicate: vi.fn(),
    remove: vi.fn(),
  };
  const others = { add: vi.fn(), keep: vi.fn(), history: vi.fn(), keys: vi.fn() };
  const actions = { arrange, tray, ...others } as unknown as KeyActions;
  renderHook(() => useKeys(actions), {
    wrapper: ({ children }: { children: ReactNode }) => <BenchContext value={bench}>{children}</BenchContext>,
  });
  const press = (key: string, more: object = {}, on: Element | Window = document.body) =>
    fireEvent.keyDown(on, { key, code: `Key${key.toUpperCase()}`, bubbles: true, ...more });
  return { ...bench, arrange, ...others, press };
}

/** A thing on the page that keys are pressed in. */
function placed(html: string): Element {
  document.body.insertAdjacentHTML("beforeend", html);
  const found = document.body.lastElementChild;
  if (!found) throw new Error("nothing placed");
  return found.querySelector("[data-here]") ?? found;
}

afterEach(() => (document.body.innerHTML = ""));

describe("the Bench's keys", () => {
  it("act on what is looked at", () => {
    const { view, press } = opened();
    press("w");
    expect(view.get().mode).toBe("wipe");
    press("w");
    press("d");
    expect(view.get().mode).toBe("beside");
    press("z");
    expect(view.get().zoom).toBe(1);
    press("f");
    expect(view.get().zoom).toBeNull();
    press("l");
    expect(view.get().largeEditor).toBe(true);
    press("l");
    expect(view.get().largeEditor).toBe(false);
    press("2", { code: "Digit2" });
    expect(view.get().picture).toBe(6);
    press("!", { code: "Digit1", shiftKey: true });
    expect(view.get().watched).toEqual([5]);
    press("9", { code: "Digit9" });
    expect(view.get().picture, "there is no ninth").toBe(6);
  });

  it("walk through the stages and stop at both ends", () => {
    const { view, press } = opened();
    press("[");
    expect(view.get().stage).toBe(2);
    for (let times = 0; times < 5; times += 1) press("[");
    expect(view.get().stage).toBe(0);
    for (let times = 0; times < 3; times += 1) press("]");
    expect(view.get().stage, "the last stage is the whole look").toBeNull();
  });

  it("that are held end when they are let go, and when the window is left", () => {
    const { view, press } = opened();
    press("o");
    press("o", { repeat: true });
    expect(view.get().held).toBe(true);
    fireEvent.keyUp(document.body, { key: "o", code: "KeyO" });
    expect(view.get().held).toBe(false);
    press("o");
    fireEvent.blur(window);
    expect(view.get().held).toBe(false);
  });

  it("show the look without the chosen steps while held, and never as an edit", () => {
    const { store, press } = opened();
    store.dispatch({ type: "mark", id: "b" });
    press("b");
    expect(store.get().trial?.steps?.map((step) => step.enabled ?? true)).toEqual([false, false, true]);
    expect(store.get().past).toEqual([]);
    fireEvent.keyUp(document.body, { key: "b", code: "KeyB" });
    expect(store.get().trial).toBeNull();
  });

  it("belong to the field that somebody types in, but for undo before anything was typed", () => {
    const { store, view, press, add } = opened();
    const field = placed('<input type="text" value="x">');
    press("a", {}, field);
    press("w", {}, field);
    expect([add.mock.calls.length, view.get().mode]).toEqual([0, "single"]);
    store.edit("Tone", (look) => ({ ...look, name: "new" }));
    press("z", { ctrlKey: true }, field);
    expect(store.get().past, "undone").toEqual([]);
    store.edit("Tone", (look) => ({ ...look, name: "new" }));
    (field as HTMLInputElement).value = "typed";
    press("z", { ctrlKey: true }, field);
    expect(store.get().past, "the field's own").toHaveLength(1);
    const sheet = placed('<div role="dialog"><button data-here></button></div>');
    press("h", {}, sheet);
    press("z", { ctrlKey: true }, sheet);
    expect(store.get().past, "not from behind a sheet").toHaveLength(1);
  });

  it("leave to sliders those that they work with", () => {
    const { press, arrange } = opened();
    const slider = placed('<div data-line="a"><i role="slider" tabindex="0" data-here></i></div>');
    press("Delete", {}, slider);
    press("ArrowDown", {}, slider);
    expect(arrange.remove).not.toHaveBeenCalled();
    press("ArrowDown", { altKey: true }, slider);
    expect(arrange.move.mock.calls).toEqual([[1]]);
    press("e", {}, slider);
    expect(arrange.toggle).toHaveBeenCalledOnce();
  });

  it("go from line to line, and over several with Shift", () => {
    const { store, press } = opened();
    for (const id of ["a", "b", "c"]) placed(`<div data-line="${id}" tabindex="0"></div>`);
    const line = (id: string) => document.querySelector(`[data-line="${id}"]`) ?? document.body;
    press("ArrowDown", {}, line("a"));
    expect(store.get().selected).toBe("b");
    expect(document.activeElement).toBe(line("b"));
    press("ArrowDown", { shiftKey: true }, line("b"));
    expect(store.get().marked).toEqual(["b", "c"]);
    press("ArrowDown", {}, line("c"));
    press("ArrowDown", {}, line("c"));
    expect(store.get().selected, "below the last there is nothing").toBe("c");
  });

  it("that repeat by themselves do so only where that is wanted", () => {
    const { view, press, history } = opened();
    press("h", { repeat: true });
    expect(history).not.toHaveBeenCalled();
    press("[", { repeat: true });
    expect(view.get().stage).toBe(2);
  });

  it("undo and redo", () => {
    const { store, press } = opened();
    store.edit("Tone", (look) => ({ ...look, name: "new" }));
    press("z", { ctrlKey: true });
    expect([store.get().past.length, store.get().future.length]).toEqual([0, 1]);
    press("Z", { metaKey: true, shiftKey: true });
    expect([store.get().past.length, store.get().future.length]).toEqual([1, 0]);
  });

  it("that edit are not there for those who may not", () => {
    const { press, add, keep, arrange } = opened(false);
    for (const key of ["a", "p", "g", "Delete"]) press(key);
    press("ArrowUp", { altKey: true });
    for (const call of [add, keep, arrange.group, arrange.remove, arrange.move]) expect(call).not.toHaveBeenCalled();
    const [all, fewer] = [keysFor({ mayEdit: true } as Bench), keysFor({ mayEdit: false } as Bench)];
    expect(all.length - fewer.length).toBe(10);
    expect(fewer.some((one) => one.edits)).toBe(false);
    expect(alsoKeys.length).toBeGreaterThan(0);
  });
});
