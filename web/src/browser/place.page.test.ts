import { beforeEach, expect, test } from "vitest";
import { forgetPlace, lastPlace, placeOf, rememberPlace } from "./place";
import { remember } from "./kept";

beforeEach(() => localStorage.clear());

test("a place is one person's, and stands in an address", () => {
  rememberPlace("ilse", { look: 7, search: "picture=2&compare=wipe", step: "a" });
  expect(lastPlace("marek")).toBeNull();
  const place = lastPlace("ilse");
  expect(place).toEqual({ look: 7, search: "picture=2&compare=wipe", step: "a" });
  expect(place && placeOf(place)).toBe("/bench/7?picture=2&compare=wipe");
  expect(placeOf({ look: 7, search: "", step: null })).toBe("/bench/7");
});

test("what does not read as a place is none", () => {
  for (const found of [null, 3, "x", {}, { look: "7", search: "" }, { look: 7 }]) {
    remember("place.ilse", found);
    expect(lastPlace("ilse"), JSON.stringify(found)).toBeNull();
  }
  remember("place.ilse", { look: 7, search: "", step: 3 });
  expect(lastPlace("ilse")?.step).toBeNull();
});

test("a place whose look is gone is forgotten, another one is not", () => {
  rememberPlace("ilse", { look: 7, search: "", step: null });
  forgetPlace("ilse", 8);
  expect(lastPlace("ilse")?.look).toBe(7);
  forgetPlace("ilse", 7);
  expect(lastPlace("ilse")).toBeNull();
});
