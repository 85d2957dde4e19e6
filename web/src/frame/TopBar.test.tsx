import { fireEvent, render, screen, waitFor, within } from "@testing-library/react";
import { MemoryRouter } from "react-router";
import { describe, expect, it } from "vitest";
import { serve, studio } from "../testing";
import { TopBar } from "./TopBar";

const person = { username: "otis", name: "Otis van der Fenn", role: "curator" };
const notice = (id: number, isNew: boolean) => ({
  id,
  words: `Notice ${String(id)}`,
  kind: "look",
  entry: id,
  at: "2026-11-02T10:20:30Z",
  is_new: isNew,
});
const job = (id: number, state: string, more: object = {}) => ({
  id,
  state,
  kind: "bake",
  progress: 0.4,
  file_name: "",
  problem: "",
  download: "",
  page: "",
  ...more,
});

function opened({
  may = [],
  jobs = [],
  notices = [],
  waiting = [],
  ending = 0,
}: {
  may?: string[];
  jobs?: object[];
  notices?: object[];
  waiting?: object[];
  ending?: number;
}) {
  const sent = serve(({ path, method }) => {
    if (method !== "GET") return { status: 204, body: null };
    if (path.endsWith("/session")) return { body: { person, may } };
    if (path.endsWith("/jobs")) return { body: jobs };
    if (path.endsWith("/notices")) return { body: notices };
    if (path.endsWith("/review") || path.includes("/queue")) return { body: waiting };
    if (path.includes("ending")) return { body: { total: ending } };
    if (path.endsWith("/shelf/entries")) return { body: { total: ending, entries: [] } };
    return { body: [] };
  });
  const Studio = studio();
  render(
    <MemoryRouter initialEntries={["/shelf"]}>
      <Studio>
        <TopBar>
          <main>page</main>
        </TopBar>
      </Studio>
    </MemoryRouter>,
  );
  return sent;
}

describe("the bar at the top", () => {
  it("leads to the four places, and marks the one where one is", () => {
    opened({});
    const links = within(screen.getByRole("navigation", { name: "Main" })).getAllByRole("link");
    expect(links.map((link) => link.textContent)).toEqual(["Bench", "Shelf", "Projects", "Pictures"]);
    expect(links.map((link) => link.getAttribute("aria-current"))).toEqual([null, "page", null, null]);
  });

  it("says who is signed in by two initials, and signs out", async () => {
    const sent = opened({});
    fireEvent.click(await screen.findByRole("button", { name: "OV: signed in as Otis van der Fenn" }));
    const panel = await screen.findByRole("dialog", { name: "Signed in" });
    expect(panel.textContent).toContain("otis, curator");
    fireEvent.click(within(panel).getByRole("button", { name: "Sign out" }));
    await waitFor(() =>
      expect(sent.filter((one) => one.method === "DELETE").map((one) => one.path)).toEqual(["/api/session"]),
    );
  });

  it("tells of jobs with what went wrong, and where to fetch what came of them", async () => {
    opened({
      jobs: [
        job(1, "running"),
        job(2, "failed", { problem: "The disc is full." }),
        job(3, "done", { download: "/api/jobs/3/file", file_name: "salt.cube" }),
      ],
    });
    fireEvent.click(await screen.findByRole("button", { name: "1 jobs running" }));
    const panel = await screen.findByRole("dialog", { name: "Jobs" });
    expect(within(panel).getAllByRole("listitem")).toHaveLength(3);
    expect(panel.textContent).toContain("The disc is full.");
    expect(within(panel).getByRole("link", { name: "download" }).getAttribute("href")).toBe("/api/jobs/3/file");
  });

  it("counts what is new, and takes it for seen once the list is closed", async () => {
    const sent = opened({ notices: [notice(9, true), notice(8, true), notice(4, false)] });
    const ring = await screen.findByRole("button", { name: "Notices, 2 new" });
    fireEvent.click(ring);
    const panel = await screen.findByRole("dialog", { name: "Notices" });
    expect(within(panel).getAllByRole("listitem")).toHaveLength(3);
    expect(sent.some((one) => one.method === "POST")).toBe(false);
    fireEvent.keyDown(panel, { key: "Escape" });
    await waitFor(() => expect(sent.filter((one) => one.method === "POST")).toHaveLength(1));
  });

  it("shows what waits to those who may do something about it, and to no others", async () => {
    const waiting = [{ id: 1 }];
    const asked = opened({ may: [], waiting });
    await screen.findByRole("button", { name: /signed in/ });
    fireEvent.click(screen.getByRole("button", { name: "Notices" }));
    const panel = await screen.findByRole("dialog", { name: "Notices" });
    expect(within(panel).queryByRole("link")).toBeNull();
    expect(asked.some((one) => one.path.includes("review"))).toBe(false);
  });
});
