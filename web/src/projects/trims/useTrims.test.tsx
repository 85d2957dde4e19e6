import { act, renderHook } from "@testing-library/react";
import { beforeEach, describe, expect, it, vi } from "vitest";
import type { Step } from "../../api/types";
import { useTrims } from "./useTrims";

const tone = (exposure: number): Step[] => [{ kind: "tone", id: "a", exposure }];

beforeEach(() => void vi.useFakeTimers());

const settle = () => {
  act(() => {
    vi.advanceTimersByTime(400);
  });
};

function opened(first: Step[]) {
  const onMove = vi.fn<(steps: readonly Step[], isMoving: boolean) => void>();
  const onRest = vi.fn<(steps: readonly Step[]) => void>();
  const hook = renderHook(({ steps, isKeeping }) => useTrims("srgb", steps, { isKeeping, onMove, onRest }), {
    initialProps: { steps: first, isKeeping: false },
  });
  const bench = () => hook.result.current.store;
  const seen = () => bench().get().look.steps;
  const put = (steps: Step[]) => {
    act(() => bench().edit("Tone", (look) => ({ ...look, steps })));
  };
  const served = (steps: Step[], isKeeping: boolean) => act(() => hook.rerender({ steps, isKeeping }));
  return { onMove, onRest, bench, seen, put, served, leave: hook.unmount };
}

describe("trims", () => {
  it("are kept once they rest", () => {
    const { onRest, put } = opened([]);
    put(tone(1));
    put(tone(2));
    expect(onRest).not.toHaveBeenCalled();
    settle();
    expect(onRest.mock.calls).toEqual([[tone(2)]]);
  });

  it("are told as moving only while they are held", () => {
    const { onMove, bench } = opened(tone(0));
    const drag = (exposure: number) =>
      act(() => bench().editStep("Tone", "a", (step) => ({ ...step, exposure }) as Step, "exposure"));
    drag(1);
    expect(onMove.mock.calls.at(-1)).toEqual([tone(1), true]);
    act(() => bench().edit("Tone", (look) => ({ ...look, steps: tone(2) })));
    expect(onMove.mock.calls.at(-1)).toEqual([tone(2), false]);
  });

  it("that were not touched are not kept when the page is left, and those that were are", () => {
    const plain = opened(tone(1));
    plain.leave();
    expect(plain.onRest).not.toHaveBeenCalled();
    const other = opened(tone(1));
    other.put(tone(2));
    other.leave();
    expect(other.onRest.mock.calls).toEqual([[tone(2)]]);
  });

  it("are not taken back by the answer to an earlier change", () => {
    const { onRest, seen, put, served } = opened([]);
    put(tone(0));
    settle();
    served([], true);
    put(tone(1));
    served(tone(0), true);
    served(tone(0), false);
    expect(seen()).toEqual(tone(1));
    settle();
    expect(onRest).toHaveBeenLastCalledWith(tone(1));
  });

  it("stay as they are when they could not be kept", () => {
    const { seen, put, served } = opened(tone(0));
    put(tone(1));
    settle();
    served(tone(0), true);
    served(tone(0), false);
    expect(seen()).toEqual(tone(1));
  });

  it("give way to what somebody else did once all is kept", () => {
    const { seen, put, served } = opened(tone(0));
    put(tone(1));
    settle();
    served(tone(0), true);
    served(tone(1), false);
    served(tone(3), false);
    expect(seen()).toEqual(tone(3));
  });

  it("keep the step that is open when something else takes the place of what is here", () => {
    const { bench, served } = opened(tone(0));
    act(() => bench().dispatch({ type: "select", id: "a" }));
    served(tone(3), false);
    expect(bench().get().selected).toBe("a");
    served([], false);
    expect(bench().get().selected).toBeNull();
  });

  it("are kept when the page is left before they rest", () => {
    const { onRest, put, leave } = opened([]);
    put(tone(1));
    leave();
    expect(onRest).toHaveBeenCalledExactlyOnceWith(tone(1));
  });
});
