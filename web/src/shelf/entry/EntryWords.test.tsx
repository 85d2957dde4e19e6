import { fireEvent, render, screen, waitFor } from "@testing-library/react";
import { describe, expect, it } from "vitest";
import type { Described } from "../../api/types";
import { serve, studio, type Answer } from "../../testing";
import { EntryWords } from "./EntryWords";

const entry: Described = {
  id: 4,
  kind: "lut",
  name: "Low tide",
  author: "Ilse",
  note: "For the ferry",
  category: "Film/Night",
  source: "",
  licence: "",
  may_pass_on: "unknown",
  pass_on_until: null,
  by: "Ilse Harrow",
  may_change: true,
  seen_by: "studio",
  proposed: false,
  tags: ["night"],
  state: "draft",
  character: null,
  favourite: false,
};

function opened(change: Answer, shown = entry) {
  const sent = serve((one) => (one.method === "GET" ? { body: [] } : change(one)));
  const changes = () => sent.filter((one) => one.method === "PATCH").map((one) => one.body);
  const view = render(<EntryWords entry={shown} />, { wrapper: studio() });
  const write = (label: string, text: string) => {
    fireEvent.change(screen.getByLabelText(label), { target: { value: text } });
  };
  const leave = (label: string) => fireEvent.blur(screen.getByLabelText(label));
  return { ...view, changes, write, leave };
}

const isTaken: Answer = () => ({
  status: 409,
  body: { detail: "Ada Fell has changed the note meanwhile.", field: "note", now: "For the quay", by: "Ada Fell" },
});

describe("what is written about an entry", () => {
  it("is sent on leaving, with what stood there, and nothing else", async () => {
    const { changes, write, leave } = opened(() => ({ body: entry }));
    write("Note", "For the ferry, at night");
    expect(changes()).toEqual([]);
    leave("Note");
    await waitFor(() =>
      expect(changes()).toEqual([{ note: "For the ferry, at night", seen: { note: "For the ferry" } }]),
    );
  });

  it("is not sent where nothing was changed, nor a name that is empty", () => {
    const { changes, write, leave } = opened(() => ({ body: entry }));
    write("Author", "Ilse");
    leave("Author");
    write("Name", "  ");
    leave("Name");
    expect(changes()).toEqual([]);
  });

  it("begins from what the person saw, even where somebody else's words came in while they typed", async () => {
    const { changes, write, leave, rerender } = opened(isTaken);
    write("Note", "For the ferry, at night");
    rerender(<EntryWords entry={{ ...entry, note: "For the quay" }} />);
    write("Note", "For the ferry, at night!");
    leave("Note");
    await waitFor(() =>
      expect(changes()).toEqual([{ note: "For the ferry, at night!", seen: { note: "For the ferry" } }]),
    );
  });

  it("can be kept over somebody else's words, once they have been seen", async () => {
    let taken = true;
    const { changes, write, leave } = opened((one) => (taken ? isTaken(one) : { body: entry }));
    write("Note", "Mine");
    leave("Note");
    await screen.findByText(/Ada Fell has changed the note meanwhile. It now says “For the quay”/);
    expect(screen.getByLabelText<HTMLInputElement>("Note").value).toBe("Mine");
    taken = false;
    fireEvent.click(screen.getByRole("button", { name: "Keep mine" }));
    await waitFor(() => expect(changes().at(-1)).toEqual({ note: "Mine", seen: { note: "For the quay" } }));
    await waitFor(() => expect(screen.queryByRole("alert")).toBeNull());
  });

  it("that could not be saved stands until that is settled, whatever is written elsewhere meanwhile", async () => {
    const { changes, write, leave } = opened((one) =>
      "note" in (one.body as object) ? isTaken(one) : { body: entry },
    );
    write("Note", "Mine");
    leave("Note");
    await screen.findByText(/meanwhile/);
    write("Author", "Ada");
    leave("Author");
    await waitFor(() => expect(changes()).toHaveLength(2));
    expect(screen.getByLabelText<HTMLInputElement>("Note").value).toBe("Mine");
    expect(screen.getByText(/meanwhile/)).toBeTruthy();
    write("Note", "Mine, again");
    leave("Note");
    await waitFor(() => expect(changes().at(-1)).toEqual({ note: "Mine, again", seen: { note: "For the ferry" } }));
  });

  it("can be given up for theirs", async () => {
    const { changes, write, leave } = opened(isTaken);
    write("Note", "Mine");
    leave("Note");
    fireEvent.click(await screen.findByRole("button", { name: "Take theirs" }));
    await waitFor(() => expect(screen.queryByRole("alert")).toBeNull());
    expect(changes()).toHaveLength(1);
  });

  it("is only to be read by whoever may not change it", () => {
    opened(() => null, { ...entry, may_change: false });
    expect(screen.queryByRole("textbox")).toBeNull();
    expect(screen.getByText("For the ferry")).toBeTruthy();
  });
});
