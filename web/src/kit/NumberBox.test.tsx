import { fireEvent, render, screen } from "@testing-library/react";
import { describe, expect, it, vi } from "vitest";
import { studio } from "../testing";
import { HexBox } from "./HexBox";
import { NumberBox } from "./NumberBox";

function numberBox(value: number) {
  const onChange = vi.fn<(value: number) => void>();
  const box = { label: "Exposure", low: -4, high: 4, step: 0.05, digits: 2, neutral: 0 };
  render(<NumberBox {...box} value={value} onChange={onChange} />, { wrapper: studio() });
  const field = screen.getByLabelText<HTMLInputElement>("Exposure");
  const type = (text: string) => {
    fireEvent.focus(field);
    fireEvent.change(field, { target: { value: text } });
  };
  return { field, type, onChange };
}

describe("a number that is typed", () => {
  it.each([
    ["1.5", 1.5],
    ["1,5", 1.5],
    [" -2 ", -2],
    ["4", 4],
  ])("%j is taken over on leaving", (text, value) => {
    const { field, type, onChange } = numberBox(0);
    type(text);
    expect(onChange).not.toHaveBeenCalled();
    fireEvent.blur(field);
    expect(onChange.mock.calls).toEqual([[value]]);
  });

  it.each(["4.01", "-9", "", "three", "1e400"])("%j is said to be wrong, and the value stands", (text) => {
    const { field, type, onChange } = numberBox(1);
    type(text);
    expect(field.getAttribute("aria-invalid")).toBe("true");
    expect(field.title).toBe("From -4 to 4");
    fireEvent.blur(field);
    expect(onChange).not.toHaveBeenCalled();
    expect(field.value).toBe("1");
  });

  it("gives the single keys back to the page with Enter", () => {
    const { field, type, onChange } = numberBox(0);
    field.focus();
    type("2");
    fireEvent.keyDown(field, { key: "Enter" });
    expect(document.activeElement).not.toBe(field);
    expect(onChange.mock.calls).toEqual([[2]]);
  });

  it("is forgotten with Escape", () => {
    const { field, type, onChange } = numberBox(0.5);
    type("2");
    fireEvent.keyDown(field, { key: "Escape" });
    fireEvent.blur(field);
    expect(onChange).not.toHaveBeenCalled();
    expect(field.value).toBe("0.5");
  });

  it.each([
    [{ key: "ArrowUp" }, 0.05],
    [{ key: "ArrowDown" }, -0.05],
    [{ key: "ArrowUp", shiftKey: true }, 0.5],
    [{ key: "ArrowDown", altKey: true }, -0.005],
  ])("is nudged by %j", (keys, value) => {
    const { field, onChange } = numberBox(0);
    fireEvent.keyDown(field, keys);
    expect(onChange.mock.calls[0]?.[0]).toBeCloseTo(value, 12);
  });

  it("is not nudged past its end, and goes back to neutral by a double click", () => {
    const { field, onChange } = numberBox(3.99);
    fireEvent.keyDown(field, { key: "ArrowUp" });
    fireEvent.doubleClick(field);
    expect(onChange.mock.calls).toEqual([[4], [0]]);
  });
});

describe("a colour that is typed", () => {
  function hexBox() {
    const onChange = vi.fn<(value: [number, number, number]) => void>();
    render(<HexBox label="Tint" value={[1, 1, 1]} onChange={onChange} />, { wrapper: studio() });
    const field = screen.getByLabelText<HTMLInputElement>("Tint");
    fireEvent.focus(field);
    return { field, onChange };
  }

  it.each(["#E8C9A0", "e8c9a0", " #e8c9a0 "])("%j is taken over with Enter", (text) => {
    const { field, onChange } = hexBox();
    field.focus();
    fireEvent.change(field, { target: { value: text } });
    fireEvent.keyDown(field, { key: "Enter" });
    expect(onChange.mock.calls).toHaveLength(1);
    expect(onChange.mock.calls[0]?.[0].map((one) => Math.round(one * 255))).toEqual([0xe8, 0xc9, 0xa0]);
  });

  it("is not taken over while it is no colour", () => {
    const { field, onChange } = hexBox();
    fireEvent.change(field, { target: { value: "#E8C9" } });
    expect(field.getAttribute("aria-invalid")).toBe("true");
    fireEvent.blur(field);
    expect(onChange).not.toHaveBeenCalled();
    expect(field.value).toBe("#FFFFFF");
  });
});
