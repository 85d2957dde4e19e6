import { fireEvent, render, screen, waitFor } from "@testing-library/react";
import { describe, expect, it, vi } from "vitest";
import { studio } from "../testing";
import { useHeldKeys } from "./useHeldKeys";

function search() {
  const onKey = vi.fn<(key: string) => void>();
  const isStar = (event: { code: string; altKey: boolean }) => event.code === "KeyS" && event.altKey;
  function Search({ isSettled }: { isSettled: boolean }) {
    const hold = useHeldKeys(isSettled, isStar);
    return (
      <div onKeyDownCapture={hold}>
        <input aria-label="Find" onKeyDown={(event) => onKey(`${event.shiftKey ? "Shift+" : ""}${event.key}`)} />
      </div>
    );
  }
  const { rerender } = render(<Search isSettled={false} />, { wrapper: studio() });
  const keys = () => onKey.mock.calls.map(([key]) => key);
  return {
    press: (key: string, more = {}) => fireEvent.keyDown(screen.getByLabelText("Find"), { key, ...more }),
    settle: (isSettled: boolean) => rerender(<Search isSettled={isSettled} />),
    keys,
  };
}

describe("keys that are pressed before the results have come", () => {
  it("are done once these are there, in their order, and once", async () => {
    const { press, settle, keys } = search();
    press("ArrowDown");
    press("Enter");
    expect(keys()).toEqual([]);
    settle(true);
    await waitFor(() => expect(keys()).toEqual(["ArrowDown", "Enter"]));
    settle(false);
    settle(true);
    await new Promise((resolve) => setTimeout(resolve, 60));
    expect(keys()).toEqual(["ArrowDown", "Enter"]);
  });

  it("keep what was held down with them, and a search's own keys", async () => {
    const { press, settle, keys } = search();
    press("ArrowDown");
    press("Alt", { altKey: true });
    press("ß", { code: "KeyS", altKey: true });
    press("Enter", { shiftKey: true });
    expect(keys()).toEqual(["Alt"]);
    settle(true);
    await waitFor(() => expect(keys()).toEqual(["Alt", "ArrowDown", "ß", "Shift+Enter"]));
  });

  it("wait for the last of several answers", async () => {
    const { press, settle, keys } = search();
    press("Enter");
    settle(true);
    settle(false);
    await new Promise((resolve) => setTimeout(resolve, 60));
    expect(keys()).toEqual([]);
    settle(true);
    await waitFor(() => expect(keys()).toEqual(["Enter"]));
  });

  it("are forgotten where somebody types on or gives up", async () => {
    const { press, settle, keys } = search();
    press("Enter");
    press("h");
    press("Enter");
    press("Escape");
    settle(true);
    await new Promise((resolve) => setTimeout(resolve, 60));
    expect(keys()).toEqual(["h", "Escape"]);
  });

  it("go through at once where the results are there", () => {
    const { press, settle, keys } = search();
    settle(true);
    press("Enter");
    expect(keys()).toEqual(["Enter"]);
  });
});
