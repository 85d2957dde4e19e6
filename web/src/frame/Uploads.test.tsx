import { act, fireEvent, render, screen } from "@testing-library/react";
import { afterEach, expect, it, vi } from "vitest";
import { uploads } from "../api/uploads";
import { studio } from "../testing";
import { shareOf, Uploads, useAskBeforeLeaving, wordsOf } from "./Uploads";

afterEach(() => uploads.set([]));
const upload = (id: number, bytes: number, sent: number, rate = 0) => ({
  id,
  name: `take_${String(id)}.mov`,
  bytes,
  sent,
  rate,
  isWaiting: false,
  cancel: vi.fn(),
});

it("each file is told of and stopped by itself, and the page is not left by mistake meanwhile", () => {
  // The list is in a panel that is mostly closed; what asks is in the bar.
  const Bar = () => {
    useAskBeforeLeaving();
    return null;
  };
  render(<Bar />);
  render(<Uploads />, { wrapper: studio() });
  expect(screen.queryByRole("list")).toBeNull();
  const [one, two] = [upload(1, 400e6, 100e6, 50e6), upload(2, 10e6, 0)];
  act(() => uploads.set([one, two]));
  expect(screen.getAllByRole("listitem").map((line) => line.textContent)).toEqual([
    "take_1.movCancel100 MB of 400 MB, 50 MB a second, about 6 seconds",
    "take_2.movCancel1 kB of 10 MB",
  ]);
  fireEvent.click(screen.getByRole("button", { name: "Cancel take_2.mov" }));
  expect([one.cancel.mock.calls.length, two.cancel.mock.calls.length]).toEqual([0, 1]);
  const leaving = () => window.dispatchEvent(new Event("beforeunload", { cancelable: true }));
  expect(leaving()).toBe(false);
  act(() => uploads.set([]));
  expect(leaving()).toBe(true);
});

it("all of it together is told by bytes; what has arrived waits for the server", () => {
  expect(shareOf([upload(1, 300, 100), upload(2, 100, 100)])).toBe(0.5);
  expect(shareOf([])).toBe(0);
  expect(wordsOf({ bytes: 5e6, sent: 5e6, rate: 1e6, isWaiting: false })).toBe("5.0 MB sent; the server reads it");
});

it("one whose connection is lost says that it goes on", () => {
  const lost = "2.0 MB of 5.0 MB; the connection is lost, it goes on from here when it is back";
  expect(wordsOf({ bytes: 5e6, sent: 2e6, rate: 1e6, isWaiting: true })).toBe(lost);
});
