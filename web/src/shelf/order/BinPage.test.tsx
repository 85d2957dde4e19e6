import { fireEvent, render, screen, waitFor } from "@testing-library/react";
import { MemoryRouter } from "react-router";
import { describe, expect, it } from "vitest";
import { serve, studio } from "../../testing";
import { BinPage } from "./BinPage";

const DAY = 24 * 60 * 60 * 1000;
const binned = (id: number, name: string, days: number) => ({
  id,
  name,
  kind: "look",
  category: "Film",
  owner: "Ilse Harrow",
  by: "Marek Sorel",
  into: "",
  deleted: "2026-11-01T10:00:00Z",
  until: new Date(Date.now() + days * DAY).toISOString(),
});

describe("the bin", () => {
  it("says how long each is kept, also past its time, and brings one back", async () => {
    const sent = serve(({ path, method }) => {
      if (method === "POST") return { body: {} };
      return {
        body: path.endsWith("/bin") ? [binned(4, "Low tide", 11.5), binned(5, "Chalk", 0.5), binned(6, "Ink", -2)] : [],
      };
    });
    const Studio = studio();
    render(
      <MemoryRouter>
        <Studio>
          <BinPage />
        </Studio>
      </MemoryRouter>,
    );
    await screen.findByText("12 more days");
    screen.getByText("one more day");
    screen.getByText("kept only while something uses it");
    fireEvent.click(screen.getByRole("button", { name: "Bring back Chalk" }));
    await screen.findByText(/is on the Shelf again/);
    await waitFor(() =>
      expect(sent.filter((one) => one.method === "POST").map((one) => one.path)).toEqual([
        "/api/catalogue/look/5/restore",
      ]),
    );
  });
});
