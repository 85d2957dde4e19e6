import { render, screen } from "@testing-library/react";
import { lazy, type ComponentType } from "react";
import { MemoryRouter } from "react-router";
import { describe, expect, it, vi } from "vitest";
import { Loading } from "./Loading";
import { studio } from "../testing";

function arriving(page: Promise<{ default: ComponentType }>) {
  const Page = lazy(() => page);
  return render(
    <MemoryRouter>
      <Loading>
        <Page />
      </Loading>
    </MemoryRouter>,
    { wrapper: studio() },
  );
}

describe("a page that is fetched when somebody goes there", () => {
  it("is shown when it comes", async () => {
    arriving(Promise.resolve({ default: () => <p>The Shelf</p> }));
    expect(await screen.findByText("The Shelf")).toBeTruthy();
  });

  it("says that it is being fetched only when that takes long", async () => {
    arriving(new Promise(() => undefined));
    expect(screen.queryByText("Fetching this page…")).toBeNull();
    expect(await screen.findByText("Fetching this page…")).toBeTruthy();
  });

  it("offers to reload where it cannot be fetched", async () => {
    const silent = vi.spyOn(console, "error").mockImplementation(() => undefined);
    arriving(Promise.reject(new TypeError("Failed to fetch dynamically imported module: /assets/Shelf.js")));
    expect(await screen.findByText(/could not be fetched/)).toBeTruthy();
    expect(screen.getByRole("button", { name: "Reload" })).toBeTruthy();
    silent.mockRestore();
  });
});
