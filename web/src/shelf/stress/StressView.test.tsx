import { fireEvent, render, screen } from "@testing-library/react";
import { MemoryRouter } from "react-router";
import { describe, expect, it } from "vitest";
import type { Described } from "../../api/types";
import { serve, studio } from "../../testing";
import { StressView } from "./StressView";

const remedy = { kind: "strength", path: "steps[0]", value: 0.5, words: "Strength of this step to 50 %" };
const clipped = {
  what: "clipped",
  figure: 0.09,
  times: 4.5,
  words: "9.0 % clipped",
  on: "Quay",
  picture: 5,
  place: [0.5, 0.25, 0.1, 0.2],
  failing: 3,
  path: "steps[0]",
  id: "a",
  title: "Levels",
  remedy,
};
const hidden = {
  ...clipped,
  what: "noise",
  on: "a picture that you do not see",
  picture: null,
  place: null,
  remedy: null,
};
const report = {
  version: 2,
  is_latest: false,
  holds: false,
  pictures: 8,
  by: "Ilse",
  made: "2026-12-01T10:00:00Z",
  breaks: [clipped, hidden],
  figures: [
    { what: "lut", figure: 0.2, limit: 1 },
    { what: "clipped", figure: 0.09, limit: 0.02 },
  ],
  sizes: [
    { nodes: 17, apart: 0.9 },
    { nodes: 33, apart: 0.2 },
  ],
};
const quay = { id: 5, name: "Quay", state: "a", of_shots: false };
const job = { id: 3, kind: "stress", state: "done", progress: 1, left_out: [] };

function opened(found: unknown, may: readonly string[] = ["design"], mayChange = true) {
  const sent = serve(({ path, method }) => {
    if (method === "POST") return { status: 202, body: job };
    if (path === "/api/session") return { body: { person: { username: "ilse" }, may } };
    if (path === "/api/stress/looks/7") return { body: found };
    if (path === "/api/pictures") return { body: [quay] };
    return { body: path.startsWith("/api/jobs/") ? job : [] };
  });
  const Studio = studio();
  render(
    <MemoryRouter>
      <Studio>
        <StressView entry={{ id: 7, may_change: mayChange } as Described} />
      </Studio>
    </MemoryRouter>,
  );
  return sent;
}

describe("where a look breaks", () => {
  it("frames the place, names the step, and takes what helps to the Bench", async () => {
    opened(report);
    const help = await screen.findByRole("link", { name: "Strength of this step to 50 %: try it on the Bench" });
    expect(help.getAttribute("href")).toBe("/bench/7?picture=5");
    expect(screen.getByText("Breaks in 2 ways")).toBeTruthy();
    expect(screen.getByText(/There is a newer version/)).toBeTruthy();
    const seen = screen.getByAltText("Quay through the look");
    expect(seen.getAttribute("src")).toContain("version=2");
    expect(seen.nextElementSibling?.getAttribute("style")).toContain("left: 50%");
    expect(screen.getAllByText(/and 2 more/)).toHaveLength(2);
    expect(screen.queryByAltText("a picture that you do not see through the look")).toBeNull();
  });

  it("lists the worst of everything in one order, with what it may be", async () => {
    opened(report);
    await screen.findByText("Breaks in 2 ways");
    const rows = screen.getAllByRole("row").map((row) => row.textContent);
    expect(rows).toEqual([
      "MeasuredWorstAt most",
      "Clipped9.0 %2.0 %",
      "As a LUT of 33 nodes0.2 off1.0 off",
      "As a LUT of 170.9 off",
    ]);
  });

  it("offers viewers what they may do: to read it", async () => {
    opened(report, [], false);
    await screen.findByText("Strength of this step to 50 % would help.");
    expect(screen.queryByRole("link")).toBeNull();
    expect(screen.queryByRole("button", { name: "Test it again" })).toBeNull();
  });

  it("asks for a first test over all pictures", async () => {
    const sent = opened(null);
    fireEvent.click(await screen.findByRole("button", { name: /Over/ }));
    fireEvent.click(await screen.findByRole("option", { name: "All pictures, 1" }));
    fireEvent.click(screen.getByRole("button", { name: "Find where it breaks" }));
    await screen.findByRole("button", { name: "Find where it breaks" });
    const asked = sent.find((one) => one.method === "POST");
    expect(asked?.body).toEqual({ pictures: [5], project: null });
  });
});
