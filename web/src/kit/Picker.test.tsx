import { fireEvent, render, screen, within } from "@testing-library/react";
import { describe, expect, it, vi } from "vitest";
import { studio } from "../testing";
import { grouped, Picker, type Option } from "./Picker";

const many: Option[] = Array.from({ length: 20 }, (_, at) => ({
  id: `e${String(at)}`,
  name: `Curve ${String(at)}`,
  group: at % 2 ? "Odd" : "Even",
  ...(at === 7 ? { also: "night" } : {}),
}));

function opened(options: readonly Option[]) {
  const onChange = vi.fn();
  render(<Picker label="Encoding" value="e3" options={options} onChange={onChange} />, { wrapper: studio() });
  fireEvent.click(screen.getByRole("button"));
  return onChange;
}

describe("a list that opens", () => {
  it("groups in the order in which groups come first, those of none before all", () =>
    expect(grouped([{ id: "x", name: "X" }, ...many.slice(0, 3)]).map((one) => [one.name, one.options.length])).toEqual(
      [
        ["", 1],
        ["Even", 2],
        ["Odd", 1],
      ],
    ));

  it("shows what is chosen by its name alone, and a long list under headings", async () => {
    opened([{ id: "", name: "None" }, ...many]);
    const list = await screen.findByRole("listbox");
    expect(within(list).getByText("Even")).toBeTruthy();
    expect(within(list).getAllByRole("option")).toHaveLength(21);
    expect(screen.getByRole("button", { hidden: true, name: /Curve 3/ }).textContent).toBe("Curve 3");
  });

  it("is searched by any of a thing's names where it is long", async () => {
    const onChange = opened(many);
    const field = await screen.findByRole("searchbox", { name: "Find: Encoding" });
    fireEvent.change(field, { target: { value: "night" } });
    const options = await screen.findAllByRole("option");
    expect(options.map((one) => one.textContent)).toEqual(["Curve 7"]);
    fireEvent.click(options[0] as HTMLElement);
    expect(onChange).toHaveBeenCalledWith("e7");
  });

  it("is not searched where it is short", async () => {
    opened(many.slice(0, 5));
    expect(await screen.findAllByRole("option")).toHaveLength(5);
    expect(screen.queryByRole("searchbox")).toBeNull();
  });
});
