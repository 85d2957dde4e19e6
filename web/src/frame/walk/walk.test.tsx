import { act, fireEvent, render, screen, waitFor } from "@testing-library/react";
import { MemoryRouter } from "react-router";
import { describe, expect, it } from "vitest";
import type { Ability } from "../../api/types";
import { serve, studio } from "../../testing";
import { TopBar } from "../TopBar";
import { asked } from "./asked";
import { stationsFor } from "./stations";

function opened(is_new: boolean, may: Ability[] = ["design"], at = "/shelf") {
  let isNew = is_new;
  const sent = serve(({ method, path }) => {
    if (path === "/api/session")
      return { body: { person: { username: "jana", name: "Jana Vos", role: "designer" }, may, is_new: isNew } };
    if (method === "PATCH") {
      isNew = false;
      return { body: {} };
    }
    return { body: [] };
  });
  const Studio = studio();
  render(
    <Studio>
      <MemoryRouter initialEntries={[at]}>
        <TopBar tools={<button data-station="search" />}>
          <main />
        </TopBar>
      </MemoryRouter>
    </Studio>,
  );
  return sent;
}
const told = (sent: ReturnType<typeof opened>) => sent.filter((one) => one.method === "PATCH").map((one) => one.body);

describe("who is new", () => {
  it("is shown five places, one after the other, by Enter, and never again", async () => {
    const sent = opened(true);
    for (const [number, station] of stationsFor(["design"]).entries()) {
      await screen.findByRole("dialog", { name: station.title });
      expect(screen.getByText(`${String(number + 1)} of 5`)).toBeDefined();
      expect(document.querySelector("[data-shown]")?.getAttribute("data-station")).toBe(station.at);
      const next = screen.getByRole("button", { name: number === 4 ? "Done" : "Next" });
      await waitFor(() => expect(document.activeElement).toBe(next));
      fireEvent.click(next);
    }
    await waitFor(() => expect(told(sent)).toEqual([{ is_new: false }]));
    expect(screen.queryByRole("dialog")).toBeNull();
    expect(document.querySelector("[data-shown]")).toBeNull();
  });

  it("ends it by Escape at once", async () => {
    const sent = opened(true);
    fireEvent.keyDown(await screen.findByRole("button", { name: "Next" }), { key: "Escape" });
    await waitFor(() => expect(told(sent)).toEqual([{ is_new: false }]));
    expect(screen.queryByRole("dialog")).toBeNull();
  });

  it("is asked first what a page asks", async () => {
    opened(true, ["design", "curate", "administer"], "/studio/begin");
    await screen.findByRole("button", { name: /signed in as Jana Vos/ });
    expect(screen.queryByRole("dialog")).toBeNull();
  });
});

describe("who is not", () => {
  it("is shown nothing, until they ask for it", async () => {
    const sent = opened(false, []);
    await screen.findByRole("button", { name: /signed in as Jana Vos/ });
    expect(screen.queryByRole("dialog")).toBeNull();
    act(() => asked.set(true));
    await screen.findByRole("dialog", { name: "What was made for you" });
    fireEvent.click(screen.getByRole("button", { name: "Next" }));
    fireEvent.click(await screen.findByRole("button", { name: "Back" }));
    fireEvent.click(await screen.findByRole("button", { name: "End the walk" }));
    await waitFor(() => expect(screen.queryByRole("dialog")).toBeNull());
    expect(told(sent)).toEqual([]);
  });

  it.each([
    [["design", "curate"], "What waits for you"],
    [["design"], "Pictures to look at"],
    [[], "What was made for you"],
  ] as const)("begins with what they do: %s", (may, first) => {
    const stations = stationsFor(may);
    expect([stations.length, stations[0]?.title]).toEqual([5, first]);
    expect(new Set(stations.map((one) => one.at)).size).toBe(5);
  });
});
