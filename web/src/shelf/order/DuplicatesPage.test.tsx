import { fireEvent, render, screen, waitFor, within } from "@testing-library/react";
import { MemoryRouter } from "react-router";
import { describe, expect, it } from "vitest";
import type { Entry } from "../../api/types";
import { serve, studio } from "../../testing";
import { DuplicatesPage } from "./DuplicatesPage";

const one = (id: number, name: string, more: Partial<Entry> = {}) =>
  ({
    id,
    name,
    kind: "lut",
    state: "draft",
    tags: [],
    category: "",
    detail: "LUT",
    by: "Ilse",
    favourite: false,
    shows: "x",
    ...more,
  }) as Entry;
const entries = [one(3, "print copy"), one(7, "Print", { state: "published" }), one(9, "print old")];

function opened() {
  const sent = serve(({ path, method }) => {
    if (method !== "GET") return { status: 204, body: null };
    if (path.endsWith("/duplicates")) return { body: [{ entries: [3, 7, 9], apart: 0.21 }] };
    if (path.endsWith("/chosen")) return { body: entries };
    return { body: [] };
  });
  const Studio = studio();
  render(
    <MemoryRouter>
      <Studio>
        <DuplicatesPage />
      </Studio>
    </MemoryRouter>,
  );
  return () => sent.filter((call) => call.method === "POST").map((call) => [call.path, call.body]);
}

describe("duplicates", () => {
  it("propose to keep what is published, and bin the others", async () => {
    const posts = opened();
    const group = await screen.findByRole("region", { name: "print copy, Print, print old" });
    expect(group.textContent).toContain("CIEDE2000 0.21 apart on average");
    const [first, second] = within(group).getAllByRole<HTMLInputElement>("radio");
    expect([first?.checked, second?.checked]).toEqual([false, true]);
    fireEvent.click(within(group).getByRole("button", { name: "Keep one, bin 2" }));
    await waitFor(() => expect(posts()).toEqual([["/api/duplicates/merge", { keep: 7, others: [3, 9] }]]));
  });

  it("keep another one when it is chosen, or all of them", async () => {
    const posts = opened();
    const group = await screen.findByRole("region", { name: /print copy/ });
    const [first] = within(group).getAllByRole("radio");
    if (first) fireEvent.click(first);
    fireEvent.click(within(group).getByRole("button", { name: "Keep one, bin 2" }));
    fireEvent.click(within(group).getByRole("button", { name: "They are meant to be several" }));
    await waitFor(() =>
      expect(posts()).toEqual([
        ["/api/duplicates/merge", { keep: 3, others: [7, 9] }],
        ["/api/duplicates/apart", { entries: [3, 7, 9] }],
      ]),
    );
  });
});
