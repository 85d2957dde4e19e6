import { fireEvent, render, screen, waitFor } from "@testing-library/react";
import { MemoryRouter } from "react-router";
import { describe, expect, it } from "vitest";
import type { HookCall } from "../../api/types";
import { serve, studio } from "../../testing";
import { HooksPage } from "./HooksPage";
import { howItStands } from "./words";

const NOW = Date.parse("2026-11-30T12:00:00Z");
const call: HookCall = {
  id: 1,
  event: "published",
  state: "waiting",
  attempts: 0,
  status: null,
  problem: "",
  at: "2026-11-30T11:59:00Z",
  due: "2026-11-30T12:01:00Z",
};
const hook = {
  id: 4,
  name: "Farm",
  url: "https://farm.example/saucer",
  events: ["published", "delivered"],
  is_on: true,
  by: "Otis",
  made: "2026-11-30T11:00:00Z",
};

function opened(hooks: object[], calls: object[] = []) {
  const sent = serve(({ method, path }) => {
    if (path.endsWith("/calls")) return { body: calls };
    if (method === "POST") return { body: { ...hook, secret: "5ec4e7" } };
    if (method === "PATCH") return { body: { ...hook, is_on: false } };
    if (method === "DELETE") return { status: 204, body: null };
    if (path === "/api/hooks") return { body: hooks };
    return { body: { person: null, may: [] } };
  });
  const Studio = studio();
  render(
    <Studio>
      <MemoryRouter>
        <HooksPage />
      </MemoryRouter>
    </Studio>,
  );
  return sent;
}

describe("how a call stands", () => {
  it.each([
    [call, "Waits for a worker"],
    [{ ...call, attempts: 1, problem: "answered 503" }, "answered 503; again in 60 s"],
    [{ ...call, attempts: 4, problem: "answered 503", due: "2026-11-30T12:30:00Z" }, "answered 503; again in 30 min"],
    [{ ...call, attempts: 7, problem: "answered 503", due: "2026-12-01T00:00:00Z" }, "answered 503; again in 12 h"],
    [{ ...call, attempts: 1, due: "2026-11-30T11:00:00Z" }, "Being sent; again in 0 s"],
    [{ ...call, state: "done" as const, attempts: 1, due: null }, "Came through"],
    [{ ...call, state: "done" as const, attempts: 3, due: null }, "Came through on try 3"],
    [
      { ...call, state: "given up" as const, attempts: 8, problem: "answered 404", due: null },
      "Given up after 8 tries: answered 404",
    ],
  ])("is said in words", (one, words) => {
    expect(howItStands(one, NOW)).toBe(words);
  });
});

describe("hooks", () => {
  it("say what they are for where there are none, and one is added with what it is told of", async () => {
    const sent = opened([]);
    fireEvent.click(await screen.findByRole("button", { name: "Add a hook" }));
    fireEvent.change(screen.getByLabelText("What is it for?"), { target: { value: "Farm" } });
    fireEvent.change(screen.getByLabelText(/^Address/), { target: { value: "https://farm.example/saucer" } });
    fireEvent.click(screen.getByRole("checkbox", { name: "Delivered" }));
    fireEvent.click(screen.getByRole("button", { name: "Add it" }));
    expect((await screen.findByLabelText("The secret")).textContent).toBe("5ec4e7");
    expect(sent.find((one) => one.method === "POST")?.body).toEqual({
      name: "Farm",
      url: "https://farm.example/saucer",
      events: ["published", "delivered"],
    });
  });

  it("are switched off in one press, and removed in two", async () => {
    const sent = opened([hook], [call]);
    fireEvent.click(await screen.findByRole("switch", { name: "Farm is called" }));
    await waitFor(() => expect(sent.find((one) => one.method === "PATCH")?.body).toEqual({ is_on: false }));
    fireEvent.click(screen.getByRole("button", { name: "Remove…" }));
    const kept = screen.getByRole("button", { name: "Keep it" });
    await waitFor(() => expect(document.activeElement).toBe(kept));
    fireEvent.keyDown(kept, { key: "Escape" });
    await waitFor(() => expect(document.activeElement).toBe(screen.getByRole("button", { name: "Remove…" })));
    fireEvent.click(screen.getByRole("button", { name: "Remove…" }));
    expect(sent.some((one) => one.method === "DELETE")).toBe(false);
    fireEvent.click(screen.getByRole("button", { name: "Remove it, and what waits" }));
    await waitFor(() => expect(sent.some((one) => one.method === "DELETE")).toBe(true));
    expect(screen.getByRole("table", { name: "Last calls" }).textContent).toContain("Waits for a worker");
  });
});
