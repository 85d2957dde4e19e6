import { fireEvent, render, screen, waitFor } from "@testing-library/react";
import { describe, expect, it, vi } from "vitest";
import type { Preset } from "../../api/types";
import { serve, studio, type Answer } from "../../testing";
import { PresetSheet } from "./PresetSheet";

const preset = { id: 9, name: "Dusk", category: "Film", note: "For interiors", steps: [] } as unknown as Preset;

function opened(answer: Answer) {
  const sent = serve((one) => (one.method === "GET" ? { body: [] } : answer(one)));
  const onClose = vi.fn();
  render(<PresetSheet preset={preset} onClose={onClose} />, { wrapper: studio() });
  const write = (label: string, text: string) =>
    fireEvent.change(screen.getByLabelText(label), { target: { value: text } });
  const press = () => fireEvent.click(screen.getByRole("button", { name: "Change" }));
  return { changes: () => sent.filter((one) => one.method === "PATCH").map((one) => one.body), onClose, write, press };
}

describe("a preset that is changed", () => {
  it("sends only what was changed, with what stood there", async () => {
    const { changes, onClose, write, press } = opened(() => ({ body: preset }));
    write("Note", "For lamps");
    press();
    await waitFor(() => expect(onClose).toHaveBeenCalled());
    expect(changes()).toEqual([{ note: "For lamps", seen: { note: "For interiors" } }]);
  });

  it("goes over somebody else's words only once they have been seen", async () => {
    let taken = true;
    const { changes, onClose, write, press } = opened(() =>
      taken
        ? { status: 409, body: { detail: "Ada Fell has changed the note meanwhile.", field: "note", now: "For snow" } }
        : { body: preset },
    );
    write("Note", "For lamps");
    press();
    await screen.findByText(/It now says “For snow”. Change again to put yours in its place./);
    expect(onClose).not.toHaveBeenCalled();
    taken = false;
    press();
    await waitFor(() => expect(onClose).toHaveBeenCalled());
    expect(changes().at(-1)).toEqual({ note: "For lamps", seen: { note: "For snow" } });
  });
});
