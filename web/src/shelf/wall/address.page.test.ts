import { describe, expect, it } from "vitest";
import { EVERYTHING } from "../../api/shelf";
import { isNarrowed, readAddress, toggle, writeAddress, type Seen } from "./address";

describe("the address of the wall", () => {
  it("says nothing about the plain wall", () => {
    const plain = readAddress(new URLSearchParams());
    expect(plain).toEqual({ wanted: EVERYTHING, layout: "cards", picture: null, like: null });
    expect(writeAddress(plain).toString()).toBe("");
    expect(isNarrowed(plain.wanted)).toBe(false);
  });

  it("brings back all that was chosen", () => {
    const seen: Seen = {
      wanted: {
        search: "warm faded",
        kinds: ["look"],
        categories: ["Film/Night", "/"],
        tags: ["scene 1", "a & b"],
        states: ["sent back"],
        expects: ["film-log"],
        formats: ["cube"],
        health: ["bad"],
        holds: ["breaks"],
        mayPassOn: ["unknown"],
        owners: ["3"],
        favourite: true,
        days: 30,
        ending: true,
        used: "no",
        order: "softer",
      },
      layout: "rows",
      picture: 7,
      like: 12,
    };
    expect(readAddress(new URLSearchParams(writeAddress(seen).toString()))).toEqual(seen);
  });

  it("leaves what no wall knows", () => {
    const odd = readAddress(new URLSearchParams("order=sideways&layout=spiral&days=soon&picture=x"));
    expect(odd).toEqual({ wanted: EVERYTHING, layout: "cards", picture: null, like: null });
  });

  it("takes a choice in and out", () => {
    const one = toggle(EVERYTHING, "tags", "night");
    expect(one.tags).toEqual(["night"]);
    expect(isNarrowed(one)).toBe(true);
    expect(toggle(one, "tags", "night")).toEqual(EVERYTHING);
  });
});
