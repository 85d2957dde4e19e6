import { fireEvent, render, screen, waitFor } from "@testing-library/react";
import { useState } from "react";
import { describe, expect, it, vi } from "vitest";
import { studio } from "../../testing";
import { StepNote } from "./StepNote";
import { StepToRead } from "./StepToRead";

function shown(first = "") {
  const onDone = vi.fn();
  const kept: string[] = [];
  function Kept() {
    const [note, setNote] = useState(first);
    const keep = (next: string) => {
      kept.push(next);
      setNote(next);
    };
    return <StepNote note={note} onChange={keep} onDone={onDone} />;
  }
  const Studio = studio();
  render(
    <Studio>
      <Kept />
    </Studio>,
  );
  return { kept, onDone };
}
const opens = () => screen.getByRole("button", { name: "Say why it is here…" });
const field = () => screen.getByRole("textbox", { name: "Why the step is here" });

describe("why a step is there", () => {
  it("is said where nothing is said yet, and left by Escape with the keys at its button", async () => {
    const { kept } = shown();
    fireEvent.click(opens());
    fireEvent.keyDown(field(), { key: "Escape" });
    await waitFor(() => expect(document.activeElement).toBe(opens()));
    expect(kept).toEqual([]);
    fireEvent.click(opens());
    fireEvent.change(field(), { target: { value: "Holds the lamps" } });
    expect(kept).toEqual(["Holds the lamps"]);
  });

  it("folds up where nothing was said and somebody goes elsewhere, and takes no keys from there", () => {
    const { onDone } = shown();
    fireEvent.click(opens());
    fireEvent.blur(field());
    expect(onDone).toHaveBeenCalledTimes(1);
    expect(document.activeElement).not.toBe(opens());
  });

  it("stands there where something is said", () => {
    shown("For the lamps");
    expect((field() as HTMLTextAreaElement).value).toBe("For the lamps");
  });

  it("is read by those who may not change it, once", () => {
    const Studio = studio();
    render(
      <Studio>
        <StepToRead step={{ kind: "saturation", factor: 0.8, note: "Quiet colours" }} summary="less colour" />
      </Studio>,
    );
    expect(screen.getAllByText(/Quiet colours/)).toHaveLength(1);
  });
});
