import { fireEvent, render, screen, waitFor } from "@testing-library/react";
import { MemoryRouter } from "react-router";
import { describe, expect, it, vi } from "vitest";
import type { Entry, GuestVerdict, Verdict } from "../../api/types";
import { serve, studio } from "../../testing";
import { RowHead } from "./RowHead";

const entry = {
  id: 4,
  kind: "look",
  name: "Low tide",
  detail: "Look, version 2",
  shows: "ab",
  character: null,
} as Entry;
const said = (by: string, choice: Verdict["choice"], more: Partial<Verdict> = {}): Verdict => ({
  entry: 4,
  by,
  mine: false,
  choice,
  note: "",
  at: "2026-11-01T10:00:00Z",
  earlier: false,
  ...more,
});

function opened(
  verdicts: readonly Verdict[],
  given: { hidden?: boolean; mayChange?: boolean; guests?: readonly GuestVerdict[] } = {},
) {
  const sent = serve(() => ({ body: null }));
  const onMove = vi.fn();
  const Studio = studio();
  render(
    <MemoryRouter>
      <Studio>
        <div role="grid">
          <div role="row">
            <RowHead
              entry={entry}
              name={given.hidden ? "B" : entry.name}
              hidden={given.hidden ?? false}
              board={9}
              verdicts={verdicts}
              guests={given.guests ?? []}
              mayChange={given.mayChange ?? true}
              isAlone={false}
              onMove={onMove}
              onDrag={vi.fn()}
              onRemove={vi.fn()}
            />
          </div>
        </div>
      </Studio>
    </MemoryRouter>,
  );
  const puts = () => sent.filter((one) => one.method === "PUT").map((one) => [one.path, one.body]);
  return { puts, onMove };
}

describe("what is said of an entry on a board", () => {
  it("is one's own, and is taken back by the same word", async () => {
    const { puts } = opened([said("Ilse", "yes", { mine: true, note: "Holds" }), said("Marek", "no")]);
    expect(screen.getByRole("button", { name: "Yes" }).getAttribute("aria-pressed")).toBe("true");
    expect(screen.getByRole("button", { name: "No" }).getAttribute("aria-pressed")).toBe("false");
    fireEvent.click(screen.getByRole("button", { name: "Yes" }));
    await waitFor(() => expect(puts()).toEqual([["/api/boards/9/verdicts/4", { choice: "", note: "Holds" }]]));
  });

  it("changes the word and keeps the note", async () => {
    const { puts } = opened([said("Ilse", "yes", { mine: true, note: "Holds" })]);
    fireEvent.click(screen.getByRole("button", { name: "Maybe" }));
    await waitFor(() => expect(puts()).toEqual([["/api/boards/9/verdicts/4", { choice: "maybe", note: "Holds" }]]));
  });

  it("shows what the others say, and that it was said of an earlier state", async () => {
    opened([said("Marek", "no", { note: "Too cold", earlier: true })]);
    fireEvent.click(screen.getByRole("button", { name: "Notes on Low tide: 1" }));
    await screen.findByText((_, node) => node?.textContent === "Marek: No");
    screen.getByText("Too cold");
    screen.getByText("Said before it was last changed");
  });
});

describe("what guests say of it", () => {
  const guests = [{ by: "Wren", choice: "maybe", earlier: false } as GuestVerdict];

  it("stands beside what the team says", async () => {
    opened([said("Marek", "no")], { guests });
    fireEvent.click(screen.getByRole("button", { name: "Notes on Low tide: 2" }));
    await screen.findByText((_, node) => node?.nodeName === "SPAN" && node.textContent === "Wren (guest): Maybe");
  });

  it("is told where names are hidden only after one's own word", () => {
    opened([], { guests, hidden: true });
    screen.getByRole("button", { name: "Notes on B: 0" });
    opened([said("Ilse", "yes", { mine: true })], { guests, hidden: true });
    screen.getByRole("button", { name: "Notes on B: 2" });
  });
});

describe("the head of a row", () => {
  it("is moved by arrow keys where it may be", () => {
    const { onMove } = opened([]);
    fireEvent.keyDown(screen.getByRole("button", { name: /Move Low tide/ }), { key: "ArrowUp" });
    fireEvent.keyDown(screen.getByRole("button", { name: /Move Low tide/ }), { key: "ArrowDown" });
    fireEvent.keyDown(screen.getByRole("button", { name: /Move Low tide/ }), { key: "x" });
    expect(onMove.mock.calls).toEqual([[-1], [1]]);
  });

  it("offers no handles to those who may not", () => {
    opened([], { mayChange: false });
    expect(screen.queryByRole("button", { name: /Move/ })).toBeNull();
  });

  it("tells nothing of the entry where names are hidden", () => {
    opened([], { hidden: true });
    expect(document.body.textContent).not.toContain("Low tide");
    expect(document.body.innerHTML).not.toContain("fingerprint");
    expect(screen.queryByRole("button", { name: /Move/ })).toBeNull();
  });
});
