import { fireEvent, render, screen, waitFor } from "@testing-library/react";
import { MemoryRouter, Route, Routes } from "react-router";
import { describe, expect, it } from "vitest";
import { serve, studio } from "../testing";
import { BeginPage } from "./BeginPage";
import { Landing } from "./Landing";

const offered = { waits: true, pictures: 8, looks: 6, presets: 3, categories: 6 };
const settings = { name: "Salt House", second_factor: "nobody", drafts: "studio", delivery: "rec709", skin: 10 };

function opened(may: string[], waits = true) {
  const sent = serve(({ method, path }) => {
    if (path === "/api/studio/beginning") return { body: method === "POST" ? null : { ...offered, waits } };
    if (path === "/api/studio") return { body: settings };
    if (path === "/api/session")
      return { body: { person: { username: "root", name: "Root", role: "admin" }, may, view: "soft" } };
    if (path === "/api/encodings") return { body: [] };
    return { body: [] };
  });
  const Studio = studio();
  render(
    <Studio>
      <MemoryRouter initialEntries={["/"]}>
        <Routes>
          <Route path="/" element={<Landing />} />
          <Route path="/studio/begin" element={<BeginPage />} />
          <Route path="*" element={<p>elsewhere</p>} />
        </Routes>
      </MemoryRouter>
    </Studio>,
  );
  return sent;
}
const taken = (sent: ReturnType<typeof serve>) => sent.find((one) => one.method === "POST")?.body;

describe("a studio that has not begun", () => {
  it("asks its admin, who takes what they like and goes on", async () => {
    const sent = opened(["design", "curate", "administer"]);
    expect(await screen.findByRole("heading", { name: "Salt House begins" })).toBeDefined();
    fireEvent.click(await screen.findByRole("checkbox", { name: /looks and 3 presets/ }));
    fireEvent.click(screen.getByRole("button", { name: "Begin" }));
    await screen.findByText("elsewhere");
    expect(taken(sent)).toEqual({ pictures: true, looks: false, categories: true });
  });

  it("asks how far skin may turn", async () => {
    const sent = opened(["design", "curate", "administer"]);
    fireEvent.click(await screen.findByRole("radio", { name: "Little: 6°" }));
    await waitFor(() => expect(sent.find((one) => one.method === "PATCH")?.body).toEqual({ skin: 6 }));
  });

  it("begins with nothing where all is refused", async () => {
    const sent = opened(["design", "curate", "administer"]);
    for (const box of await screen.findAllByRole("checkbox")) fireEvent.click(box);
    fireEvent.click(screen.getByRole("button", { name: "Begin with nothing" }));
    await waitFor(() => expect(taken(sent)).toEqual({ pictures: false, looks: false, categories: false }));
  });

  it.each([
    ["nobody else", ["design", "curate"], true],
    ["and no admin of one that has", ["design", "curate", "administer"], false],
  ])("asks %s", async (_, may, waits) => {
    opened(may, waits);
    await screen.findByText("elsewhere");
    expect(screen.queryByRole("button", { name: /Begin/ })).toBeNull();
  });
});
