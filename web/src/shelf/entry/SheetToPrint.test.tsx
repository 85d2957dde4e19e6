import { render, screen } from "@testing-library/react";
import { describe, expect, it } from "vitest";
import { serve, studio } from "../../testing";
import { SheetToPrint } from "./SheetToPrint";

function opened(member: string, names: readonly string[]) {
  const sent = serve(() => ({ body: names.map((name) => ({ name, changes: [] })) }));
  render(<SheetToPrint look={7} version={3} member={member} picture={undefined} />, { wrapper: studio() });
  const asked = async () => (await screen.findByRole("link", { name: "A sheet to print" })).getAttribute("href");
  return { sent, asked };
}

describe("the way to the printed sheet", () => {
  it("is of the one that is seen", async () => {
    const { asked } = opened("Night", ["Night"]);
    expect(await asked()).toBe("/api/looks/7/sheet.pdf?member=Night");
    expect(screen.queryByText(/has no Night/)).toBeNull();
  });

  it("is of the recipe, and says so, where only the draft has it", async () => {
    const { asked } = opened("Thin", ["Night"]);
    expect(await asked()).toBe("/api/looks/7/sheet.pdf?");
    expect(screen.getByText(/Version 3 has no Thin yet/)).toBeTruthy();
  });

  it("asks for nothing where the recipe is seen", async () => {
    const { sent, asked } = opened("", []);
    expect(await asked()).toBe("/api/looks/7/sheet.pdf?");
    expect(sent).toEqual([]);
  });
});
