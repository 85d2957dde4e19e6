import { fireEvent, render, screen } from "@testing-library/react";
import { useState } from "react";
import { describe, expect, it, vi } from "vitest";
import { studio } from "../testing";
import { Secondary } from "./Button";
import { Sheet, SheetFoot } from "./Sheet";
import { TextBox } from "./TextBox";

function Typing({ onClose, start = "" }: { onClose: () => void; start?: string }) {
  const [value, setValue] = useState(start);
  return (
    <Sheet title="A note" isOpen onClose={onClose}>
      <form
        onSubmit={(event) => {
          event.preventDefault();
          setValue("");
        }}
      >
        <TextBox label="Note" value={value} onChange={setValue} autoFocus />
      </form>
      <SheetFoot>
        <Secondary>Pack</Secondary>
      </SheetFoot>
    </Sheet>
  );
}

function opened(start = "") {
  const onClose = vi.fn();
  render(<Typing onClose={onClose} start={start} />, { wrapper: studio() });
  const field = screen.getByRole("textbox", { name: "Note" });
  const type = (value: string) => fireEvent.change(field, { target: { value } });
  const escape = () => {
    const at = document.activeElement;
    fireEvent.keyDown(at === null || at === document.body ? field : at, { key: "Escape" });
  };
  return { onClose, field, type, escape };
}

type Opened = ReturnType<typeof opened>;

describe("a sheet", () => {
  it("asks before Escape drops what was typed, and goes on or drops it", () => {
    const { onClose, type, escape, field } = opened();
    type("Skin goes too far");
    escape();
    expect(onClose).not.toHaveBeenCalled();
    fireEvent.click(screen.getByRole("button", { name: "Go on" }));
    expect(screen.queryByRole("alert")).toBeNull();
    // Twice is no answer: what was typed is still there.
    escape();
    escape();
    expect(screen.queryByRole("alert")).toBeNull();
    expect(onClose).not.toHaveBeenCalled();
    expect((field as HTMLInputElement).value).toBe("Skin goes too far");
    escape();
    fireEvent.click(screen.getByRole("button", { name: "Drop it" }));
    expect(onClose).toHaveBeenCalledTimes(1);
  });

  it.each([
    ["untouched", () => undefined],
    [
      "typed back",
      ({ type }: Opened) => {
        type("Warmer");
        type("Warm");
      },
    ],
    [
      "used",
      ({ type }: Opened) => {
        type("Warmer");
        fireEvent.click(screen.getByRole("button", { name: "Pack" }));
      },
    ],
    ["emptied", ({ type }: Opened) => type(" ")],
    [
      "taken",
      ({ type, field }: Opened) => {
        type("Warmer");
        if (field instanceof HTMLInputElement && field.form) fireEvent.submit(field.form);
      },
    ],
  ])("closes at once where nothing is lost: %s", (_, act) => {
    const sheet = opened("Warm");
    act(sheet);
    sheet.escape();
    expect(sheet.onClose).toHaveBeenCalledTimes(1);
  });

  it("is closed by its own button without being asked", () => {
    const { onClose, type } = opened();
    type("Skin");
    fireEvent.click(screen.getByRole("button", { name: "Close" }));
    expect(onClose).toHaveBeenCalledTimes(1);
  });
});
