import { act, renderHook } from "@testing-library/react";
import { beforeEach, describe, expect, it, vi } from "vitest";
import { forget, recall, remember, useKept } from "./kept";
import "../testing";

const wordIn = (found: unknown) => (typeof found === "string" ? found : "none");

beforeEach(() => localStorage.clear());

describe("what the browser remembers", () => {
  it("is there again under its name, and gone once forgotten", () => {
    remember("a", { size: 33 });
    expect(recall("a")).toEqual({ size: 33 });
    expect(recall("b")).toBeNull();
    forget("a");
    expect(recall("a")).toBeNull();
  });

  it("is read as a plain word where it is no JSON, as earlier versions kept it", () => {
    localStorage.setItem("saucer.surround", "dark");
    expect(recall("surround")).toBe("dark");
  });

  it("stands apart in a tab and in the browser", () => {
    remember("a", 1, sessionStorage);
    expect([recall("a"), recall("a", sessionStorage)]).toEqual([null, 1]);
  });

  it("stops nobody's work where there is no room for it", () => {
    vi.spyOn(Storage.prototype, "setItem").mockImplementation(() => {
      throw new DOMException("full", "QuotaExceededError");
    });
    expect(() => remember("a", 1)).not.toThrow();
    vi.restoreAllMocks();
  });

  it("is the same for everything on the page that asks for it", () => {
    const one = renderHook(() => useKept("word", wordIn));
    const other = renderHook(() => useKept("word", wordIn));
    expect(other.result.current[0]).toBe("none");
    act(() => one.result.current[1]("salt"));
    expect([one.result.current[0], other.result.current[0]]).toEqual(["salt", "salt"]);
    act(() => forget("word"));
    expect(one.result.current[0]).toBe("none");
  });
});
