import { beforeEach, describe, expect, it } from "vitest";
import { fromSearch, MOST_WATCHED, toSearch, ViewStore } from "./view";

beforeEach(() => localStorage.clear());

describe("how the Bench is looked at", () => {
  it("is said by the address and read from it again", () => {
    const text = "picture=4&watch=5.6&set=2&compare=beside&show=version-2&against=look-7&stage=3";
    expect(new URLSearchParams(toSearch(fromSearch(new URLSearchParams(text)))).toString()).toBe(text);
  });

  it("takes nothing from an address that it cannot mean", () => {
    const view = fromSearch(
      new URLSearchParams("picture=x&watch=a.5&compare=spin&show=version-&against=javascript:&stage=-1"),
    );
    expect(view).toMatchObject({
      picture: null,
      watched: [5],
      mode: "single",
      shown: "draft",
      against: "original",
      stage: null,
    });
    expect(toSearch(view)).toEqual({ watch: "5" });
  });

  it("watches at most so many pictures, the oldest giving way, and changes places with the chosen one", () => {
    const store = new ViewStore(fromSearch(new URLSearchParams("picture=1")));
    for (const id of [2, 3, 4, 5]) store.watch(id);
    expect(store.get().watched).toEqual([3, 4, 5]);
    expect(store.get().watched).toHaveLength(MOST_WATCHED);
    store.choose(4);
    expect(store.get()).toMatchObject({ picture: 4, watched: [3, 1, 5] });
    store.watch(3);
    expect(store.get().watched).toEqual([1, 5]);
    store.watch(4);
    expect(store.get()).toMatchObject({ picture: 1, watched: [5] });
  });

  it("tells nobody of what stays the same, and remembers the tolerance", () => {
    const store = new ViewStore(fromSearch(new URLSearchParams()));
    let told = 0;
    store.subscribe(() => {
      told += 1;
    });
    store.set({ mode: "single", held: false });
    expect(told).toBe(0);
    store.set({ tolerance: 9 });
    expect(told).toBe(1);
    expect(fromSearch(new URLSearchParams()).tolerance).toBe(9);
  });
});
