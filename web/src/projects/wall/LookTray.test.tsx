import { fireEvent, render, screen } from "@testing-library/react";
import { describe, expect, it, vi } from "vitest";
import { serve, studio } from "../../testing";
import { LookTray } from "./LookTray";

const entry = (id: number, name: string, family: string[], detail = "Look, version 1") => ({
  id,
  name,
  family,
  detail,
  kind: "look",
  character: null,
});

function opened(tried: { id: number; name: string; member?: string } | null = null) {
  const entries = [entry(4, "Hearth", ["thin", "heavy"]), entry(5, "Sketch", [], "Look, draft")];
  serve(({ path }) => ({
    body: path === "/api/shelf/entries" ? { entries, cursor: "", total: 2, near: false, some: {} } : [],
  }));
  const [Studio, onTry, onPut] = [studio(), vi.fn(), vi.fn()];
  render(
    <Studio>
      <LookTray shot={undefined} reach="2 shots" tried={tried} stack={false} onTry={onTry} onPut={onPut} />
    </Studio>,
  );
  return { onTry, onPut };
}

describe("the tray of looks", () => {
  it("offers each of a look's family by its name, and no look without a version", async () => {
    const { onTry, onPut } = opened();
    const heavy = await screen.findByRole("button", { name: "Hearth, heavy" });
    expect(screen.getByRole("button", { name: "Hearth, thin" })).toBeTruthy();
    expect(screen.queryByRole("button", { name: "Sketch" })).toBeNull();
    fireEvent.pointerEnter(heavy);
    expect(onTry).toHaveBeenLastCalledWith({ id: 4, name: "Hearth", member: "heavy" });
    fireEvent.click(heavy);
    expect(onPut).toHaveBeenLastCalledWith({ id: 4, name: "Hearth", member: "heavy" });
    fireEvent.click(screen.getByRole("button", { name: "Hearth" }));
    expect(onPut).toHaveBeenLastCalledWith({ id: 4, name: "Hearth", member: "" });
  });

  it("marks the one that is tried, and none beside it", async () => {
    opened({ id: 4, name: "Hearth", member: "thin" });
    await screen.findByRole("button", { name: "Hearth, thin" });
    const marked = [...document.querySelectorAll("[data-tried] b")].map((one) => one.textContent);
    expect(marked).toEqual(["Hearth, thin"]);
  });
});
