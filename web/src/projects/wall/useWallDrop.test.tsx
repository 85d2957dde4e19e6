import { describe, expect, it } from "vitest";
import { meantBy } from "./useWallDrop";

describe("what is dropped on a wall", () => {
  const on = (html: string) => {
    document.body.innerHTML = html;
    return document.body.querySelector("[data-here]");
  };

  it("means the shot under the pointer", () =>
    expect(meantBy(on('<div data-shot="7"><button><i data-here></i></button></div>'), new Set([3]))).toEqual([7]));

  it("means all that are chosen where that shot is one of them, or where there is none", () => {
    expect(meantBy(on('<div data-shot="7" data-here></div>'), new Set([7, 9]))).toEqual([7, 9]);
    expect(meantBy(on("<div data-here></div>"), new Set([9]))).toEqual([9]);
    expect(meantBy(null, new Set())).toEqual([]);
  });
});
