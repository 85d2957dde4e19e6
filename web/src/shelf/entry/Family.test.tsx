import { fireEvent, render, screen } from "@testing-library/react";
import { describe, expect, it, vi } from "vitest";
import type { Look } from "../../api/types";
import { serve, studio } from "../../testing";
import { Family } from "./Family";

const look: Look = { name: "Quay", steps: [], family: [{ name: "Night" }, { name: "Thin" }] };

function opened(given: Look, member: string) {
  const sent = serve(() => ({ body: [{ name: "Night", changes: ["Tone: exposure 0.25 -> -1"] }] }));
  const [Studio, onMember] = [studio(), vi.fn()];
  render(
    <Studio>
      <Family look={given} member={member} onMember={onMember} />
    </Studio>,
  );
  return { sent, onMember };
}

describe("the family of a look on the Shelf", () => {
  it("is chosen from, and tells how the chosen one differs", async () => {
    const { onMember } = opened(look, "Night");
    await screen.findByText("Tone: exposure 0.25 -> -1");
    fireEvent.click(screen.getByRole("radio", { name: "Thin" }));
    expect(onMember).toHaveBeenCalledWith("Thin");
  });

  it("stands nowhere where there is none, and asks for nothing", () => {
    const { sent } = opened({ ...look, family: [] }, "");
    expect(screen.queryByRole("heading", { name: "Family" })).toBeNull();
    expect(sent).toEqual([]);
  });
});
