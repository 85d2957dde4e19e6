import { act, fireEvent, renderHook } from "@testing-library/react";
import { describe, expect, it } from "vitest";
import { actionsHere } from "../../browser/actions";
import { useAlone } from "./useAlone";

describe("a shot's picture alone", () => {
  it("comes by V, and goes by V or Escape", () => {
    const { result } = renderHook(useAlone);
    const press = (key: string, more = {}) => fireEvent.keyDown(document.body, { key, ...more });
    expect(result.current[0]).toBe(false);
    press("v");
    expect(result.current[0]).toBe(true);
    press("Escape");
    expect(result.current[0]).toBe(false);
    press("v");
    press("v");
    expect(result.current[0]).toBe(false);
    press("v", { ctrlKey: true });
    expect(result.current[0]).toBe(false);
  });

  it("stays away from whoever types, and is found by its name", () => {
    const { result } = renderHook(useAlone);
    const field = document.createElement("input");
    document.body.append(field);
    fireEvent.keyDown(field, { key: "v" });
    field.remove();
    expect(result.current[0]).toBe(false);
    act(() =>
      actionsHere()
        .find((one) => one.name === "The picture alone")
        ?.run(),
    );
    expect(result.current[0]).toBe(true);
  });
});
