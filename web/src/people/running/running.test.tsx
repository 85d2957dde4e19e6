import { fireEvent, render, screen, waitFor } from "@testing-library/react";
import { MemoryRouter } from "react-router";
import { expect, test } from "vitest";
import { serve, studio, type Answer } from "../../testing";
import { JobsPage } from "./JobsPage";
import { StorePage } from "./StorePage";

const admin = {
  person: { username: "otis", name: "Otis Fenn", role: "admin" },
  may: ["design", "curate", "administer"],
};
const well = { version: "1", database: "", worker: "", store: "", backup: null };

function open(page: React.ReactNode, answer: Answer) {
  const sent = serve((one) => {
    if (one.path === "/api/session") return { body: admin };
    if (one.path === "/api/studio/well") return { body: well };
    return answer(one);
  });
  const Studio = studio();
  render(
    <MemoryRouter>
      <Studio>{page}</Studio>
    </MemoryRouter>,
  );
  return sent;
}
const job = (id: number, state: string, more: object = {}) => ({
  id,
  state,
  kind: "bake",
  person: "Ilse Harrow",
  progress: 0.4,
  attempts: 1,
  problem: "",
  created: "2026-11-30T10:00:00Z",
  finished: null,
  ...more,
});

test("what goes on is ended, and what has ended is not", async () => {
  const jobs = [job(3, "running", { attempts: 2 }), job(2, "waiting"), job(1, "failed", { problem: "No room." })];
  const sent = open(<JobsPage />, ({ method }) => (method === "GET" ? { body: jobs } : { status: 204, body: null }));
  expect(await screen.findByText("40 %, begun 2 times")).toBeTruthy();
  expect(screen.getByText("2 under way or waiting")).toBeTruthy();
  expect(screen.getByText("No room.")).toBeTruthy();
  const buttons = screen.getAllByRole("button", { name: "Cancel Bake of Ilse Harrow" });
  expect(buttons).toHaveLength(2);
  fireEvent.click(buttons[1]!);
  await waitFor(() => expect(sent.some((one) => one.path === "/api/studio/jobs/2/cancel")).toBe(true));
});

test("what takes room leads to whose it is, and a backup that was never made is told", async () => {
  const part = (key: string, name: string, bytes: number) => ({ key, name, bytes, files: 1 });
  const room = {
    bytes: 3e6,
    files: 2,
    free: null,
    kinds: [part("LUTs", "LUTs", 3e6)],
    people: [part("il se", "Ilse", 3e6)],
    projects: [],
  };
  open(<StorePage />, () => ({ body: room }));
  expect((await screen.findByRole("link", { name: "Ilse" })).getAttribute("href")).toBe("/studio/people?who=il%20se");
  expect(screen.getByText("2 files, 3.0 MB")).toBeTruthy();
  expect(screen.getByText("No project has anything yet.")).toBeTruthy();
  expect(await screen.findByText("No backup was made yet.")).toBeTruthy();
});
