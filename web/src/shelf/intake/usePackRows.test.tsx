import { act, renderHook, waitFor } from "@testing-library/react";
import { describe, expect, it, vi } from "vitest";
import type { PackRow } from "../../api/types";
import { serve, studio, type Answer } from "../../testing";
import { isKept, usePackRows } from "./usePackRows";

const row = (index: number, given: Partial<PackRow> = {}): PackRow =>
  ({
    index,
    path: `pack/${index}.cube`,
    name: `Row ${index}`,
    category: "",
    expects: null,
    gives: null,
    problem: "",
    same_as: "",
    keep: null,
    corrected: false,
    entry: null,
    ...given,
  }) as PackRow;

/** The pack as it stands on the server, whose corrections fail as often as is said. */
function pack(failures = 0): Answer {
  let left = failures;
  return ({ method }) => {
    if (method === "GET") return { body: [row(0), row(1)] };
    left -= 1;
    return left >= 0 ? null : { body: row(0) };
  };
}

async function opened(answer: Answer) {
  const sent = serve(answer);
  const hook = renderHook(() => usePackRows(7, true), { wrapper: studio() });
  await waitFor(() => expect(hook.result.current.rows).toHaveLength(2));
  const rows = () => hook.result.current.rows ?? [];
  const corrections = () => sent.filter((one) => one.method === "PATCH").map(({ path, body }) => ({ path, body }));
  return { hook, rows, corrections };
}

describe("the corrections of a pack's rows", () => {
  it("are shown at once and sent together a moment later", async () => {
    const { hook, rows, corrections } = await opened(pack());
    vi.useFakeTimers();
    act(() => hook.result.current.correct(rows()[0]!, { name: "Low tide" }));
    act(() => hook.result.current.correct(rows()[0]!, { expects: "srgb" }));
    expect(rows()[0]).toMatchObject({ name: "Low tide", expects: "srgb", corrected: true });
    expect(rows()[1]).toMatchObject({ name: "Row 1", corrected: false });
    expect(corrections()).toEqual([]);
    await act(() => vi.advanceTimersByTimeAsync(500));
    expect(corrections()).toEqual([{ path: "/api/packs/7/rows/0", body: { name: "Low tide", expects: "srgb" } }]);
  });

  it("are sent again when they did not arrive, with what was corrected since on top", async () => {
    const { hook, rows, corrections } = await opened(pack(1));
    act(() => hook.result.current.correct(rows()[0]!, { name: "Low tide", expects: "srgb" }));
    await act(async () => expect(hook.result.current.flush()).rejects.toThrow("cannot be reached"));
    expect(hook.result.current.error).toBeTruthy();
    act(() => hook.result.current.correct(rows()[0]!, { name: "High tide" }));
    expect(hook.result.current.error).toBeNull();
    await act(() => hook.result.current.flush());
    expect(corrections().at(-1)?.body).toEqual({ name: "High tide", expects: "srgb" });
    await act(() => hook.result.current.flush());
    expect(corrections()).toHaveLength(2);
  });

  it("of whoever leaves within the pause are sent all the same", async () => {
    const { hook, rows, corrections } = await opened(pack());
    act(() => hook.result.current.correct(rows()[1]!, { keep: false }));
    hook.unmount();
    await waitFor(() => expect(corrections()).toEqual([{ path: "/api/packs/7/rows/1", body: { keep: false } }]));
  });

  it("by ticking alone make no row a corrected one", async () => {
    const { hook, rows } = await opened(pack());
    act(() => hook.result.current.correct(rows()[1]!, { keep: false }));
    expect(rows()[1]).toMatchObject({ keep: false, corrected: false });
  });
});

describe("a row is kept", () => {
  it.each([
    [{}, true],
    [{ problem: "Line 4: two numbers" }, false],
    [{ same_as: "Low tide" }, false],
    [{ entry: 12 }, false],
    [{ same_as: "Low tide", keep: true }, true],
    [{ keep: false }, false],
  ] as [Partial<PackRow>, boolean][])("with %j: %s", (given, kept) => expect(isKept(row(0, given))).toBe(kept));
});
