import { beforeEach, expect, test } from "vitest";
import { ALL, bakeChoice, measuredChoice, membersOf, keepChoices, nameOf, recallChoices, toggled } from "./choices";

const kept = new Map<string, string>();
beforeEach(() => {
  kept.clear();
  Object.defineProperty(globalThis, "localStorage", {
    configurable: true,
    value: {
      getItem: (key: string) => kept.get(key) ?? null,
      setItem: (key: string, value: string) => kept.set(key, value),
    },
  });
});

test("the last choices are remembered, but not the title and the part", () => {
  const choices = {
    ...recallChoices(3),
    size: 65,
    author: "Ilse",
    title: "Ferry",
    what: "steps" as const,
    formats: toggled(recallChoices(3).formats, "clf", true),
  };
  keepChoices(choices);
  const next = recallChoices(5);
  expect(next).toMatchObject({ size: 65, author: "Ilse", title: null, what: "whole", last: 5 });
  expect(next.formats.map((one) => one.format)).toEqual(["cube", "clf"]);
});

test("what is kept but cannot be used is left alone", () => {
  kept.set("saucer.bake", JSON.stringify({ size: "large", formats: [], author: 7 }));
  expect(recallChoices(1)).toMatchObject({ size: 33, author: "", formats: [{ format: "cube" }] });
  kept.set("saucer.bake", "{");
  expect(recallChoices(1).size).toBe(33);
  expect([recallChoices(0).last, recallChoices(1).last], "a look without steps").toEqual([1, 1]);
});

test("one format always stays", () => {
  const one = recallChoices(1).formats;
  expect(toggled(one, "cube", false)).toBe(one);
  const two = toggled(one, "clf", true);
  expect(toggled(two, "cube", false).map((format) => format.format)).toEqual(["clf"]);
});

test("the part follows what is chosen", () => {
  const choices = { ...recallChoices(4), first: 2, last: 3, path: "steps[1]" };
  expect(bakeChoice(choices, { name: "Salt" }).part).toEqual({ first: null, last: null, path: "" });
  expect(bakeChoice({ ...choices, what: "steps" }, { name: "Salt" }).part).toEqual({ first: 2, last: 3, path: "" });
  expect(bakeChoice({ ...choices, what: "one" }, { name: "Salt" }).part).toEqual({
    first: null,
    last: null,
    path: "steps[1]",
  });
  expect(bakeChoice(choices, { name: "Salt" }).title).toBe("Salt");
});

test("words and size change nothing that is measured", () => {
  const choices = recallChoices(1);
  expect(measuredChoice({ ...choices, author: "Ilse", note: "x", size: 65, title: "y" })).toEqual(
    measuredChoice(choices),
  );
  expect(measuredChoice({ ...choices, ownEntry: true })).toMatchObject({
    size: 33,
    own_entry: false,
    formats: [{ format: "cube", depth: 0, suffix: "" }],
  });
});

test("one of the family is baked under its name, or all of it, each under its own", () => {
  const look = { name: "Quay", family: [{ name: "Night" }, { name: "Thin" }] };
  const night = { ...recallChoices(1), member: "Night" };
  expect(bakeChoice(night, look)).toMatchObject({ member: "Night", title: "Quay, Night" });
  expect(bakeChoice({ ...night, title: "Evening" }, look).title).toBe("Evening");
  expect(measuredChoice(night).member, "the look that is measured is the one already").toBe("");
  const all = { ...night, member: ALL };
  expect(membersOf(all, look)).toEqual(["", "Night", "Thin"]);
  expect(membersOf(all, look).map((member) => bakeChoice({ ...all, title: "Evening" }, look, member).title)).toEqual([
    "Evening",
    "Evening, Night",
    "Evening, Thin",
  ]);
  expect([nameOf(look, all), nameOf(look, night)]).toEqual(["Quay", "Quay, Night"]);
});
