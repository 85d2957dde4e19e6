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
  const onRest = vi.fn<(steps: readonly Step[]) => void>();
  const hook = renderHook(
    ({ steps, isKeeping }) => useTrims("srgb", steps, { isKeeping, onMove: () => undefined, onRest }),
    { initialProps: { steps: first, isKeeping: false } },
  );
  const bench = () => hook.result.current.store;
  const seen = () => bench().get().look.steps;
  const put = (steps: Step[]) => {
    act(() => bench().edit("Tone", (look) => ({ ...look, steps })));
  };
  const served = (steps: Step[], isKeeping: boolean) => act(() => hook.rerender({ steps, isKeeping }));
  return { onRest, seen, put, served, leave: hook.unmount };
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

  it("are kept when the page is left before they rest", () => {
    const { onRest, put, leave } = opened([]);
    put(tone(1));
    leave();
    expect(onRest).toHaveBeenCalledExactlyOnceWith(tone(1));
  });
});
