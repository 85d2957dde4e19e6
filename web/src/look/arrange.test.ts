import { describe, expect, it } from "vitest";
import type { Look, Step } from "../api/types";
import { withAdded, withReplaced } from "./placing";
import {
  duplicated,
  grouped,
  insertedAfter,
  listed,
  movedBy,
  movedTo,
  outline,
  ungrouped,
  withIds,
  without,
} from "./arrange";

/** "a b(c d) e": steps by id, groups with what they hold; small letters are curves, capitals spatial ones. */
function steps(text: string): Step[] {
  const found: Step[][] = [[]];
  for (const part of text.match(/[a-zA-Z]\(|[a-zA-Z]|\)/g) ?? []) {
    if (part === ")") {
      const inner = found.pop() ?? [];
      const group = found.at(-1)?.at(-1);
      if (group?.kind === "group") group.steps = inner;
    } else if (part.endsWith("(")) {
      found.at(-1)?.push({ kind: "group", id: part[0] ?? "", steps: [] });
      found.push([]);
    } else found.at(-1)?.push({ kind: part === part.toUpperCase() ? "grain" : "curves", id: part });
  }
  return found[0] ?? [];
}

const text = (list: readonly Step[]): string =>
  list.map((step) => (step.kind === "group" ? `${step.id}(${text(step.steps ?? [])})` : step.id)).join(" ");
const isSpatial = (kind: string) => kind === "grain";

describe("arranging steps", () => {
  it.each([
    ["a b c", "b", -1, "b a c"],
    ["a b c", "a", -1, "a b c"],
    ["a g(b c) d", "d", -1, "a g(b c d)"],
    ["a g(b c) d", "a", 1, "g(a b c) d"],
    ["a g(b c) d", "b", -1, "a b g(c) d"],
    ["a g(b c) d", "c", 1, "a g(b) c d"],
    ["a g(b) h(c)", "g", 1, "a h(c) g(b)"],
  ] as const)("moves one place: %s, %s by %i", (before, id, by, after) => {
    expect(text(movedBy(steps(before), id, by) ?? [])).toBe(after);
  });

  it.each([
    ["a b c d", ["a", "c"], { into: null, before: null }, "b d a c"],
    ["a b c d", ["d"], { into: null, before: "a" }, "d a b c"],
    ["a g(b c) d", ["a", "d"], { into: "g", before: "c" }, "g(b a d c)"],
    ["a g(b c) d", ["b"], { into: null, before: null }, "a g(c) d b"],
    ["a g(b c) d", ["g"], { into: "g", before: "c" }, "a g(b c) d"],
    ["a g(b c) d", ["g", "b"], { into: null, before: "a" }, "g(b c) a d"],
  ] as const)("moves several to a place: %s, %j to %j", (before, ids, place, after) => {
    expect(text(movedTo(steps(before), new Set(ids), place))).toBe(after);
  });

  it("groups where the first stood, and takes apart again", () => {
    const { steps: made, group } = grouped(steps("a b c d"), new Set(["b", "d"]), "Night");
    expect(text(made).replace(group.id ?? "", "g")).toBe("a g(b d) c");
    expect(text(ungrouped(made, group.id ?? ""))).toBe("a b d c");
  });

  it("duplicates with ids of their own, whatever groups hold", () => {
    const { steps: made, added } = duplicated(steps("a g(b c) d"), new Set(["g"]));
    expect(made).toHaveLength(4);
    const ids = listed(made).map((step) => step.id);
    expect(new Set(ids).size).toBe(ids.length);
    expect(added[0]?.kind === "group" && added[0].steps).toHaveLength(2);
  });

  it("deletes and puts in, deep down too", () => {
    expect(text(without(steps("a g(b c) d"), new Set(["b", "d"])))).toBe("a g(c)");
    expect(text(insertedAfter(steps("a g(b c) d"), "b", steps("x")))).toBe("a g(b x c) d");
    expect(outline(steps("a g(b)"))).not.toBe(outline(steps("a b")));
  });

  it("adds after the chosen step, never behind the finish, and spatial steps to it", () => {
    const order = (look: { steps?: Step[] }, added: readonly Step[]) =>
      text(
        (look.steps ?? []).map((step) =>
          added.includes(step) ? { ...step, id: step.kind === "grain" ? "NEW" : "new" } : step,
        ),
      );
    const base = { steps: steps("a b F") };
    const one = withAdded(base, steps("x"), "a", isSpatial);
    expect(order(one.look, one.added)).toBe("a new b F");
    const late = withAdded(base, steps("x"), "F", isSpatial);
    expect(order(late.look, late.added)).toBe("a b new F");
    const both = withAdded(base, steps("x Y"), "b", isSpatial);
    expect(order(both.look, both.added)).toBe("a b new F NEW");
    const instead = withReplaced(
      both.look,
      both.added.map((step) => step.id ?? ""),
      steps("z"),
      isSpatial,
    );
    expect(order(instead.look, instead.added)).toBe("a b new F");
    const first = withReplaced({ steps: steps("a b F") }, ["a"], steps("z"), isSpatial);
    expect(order(first.look, first.added)).toBe("new b F");
  });
});

describe("ids of steps that have none", () => {
  it("are the same on every page and never twice", () => {
    const look: Look = {
      steps: [
        { kind: "curves" },
        { kind: "group", steps: [{ kind: "tone" }, { kind: "tone", id: "own" }] },
        { kind: "wash", id: "step 1" },
      ],
    };
    const ids = (of: Look) => listed(withIds(of).steps ?? []).map((step) => step.id);
    expect(ids(look).slice(1)).toEqual(["step 2", "step 2.1", "own", "step 1"]);
    expect(new Set(ids(look)).size).toBe(5);
    expect(ids({ steps: [{ kind: "curves" }] })).toEqual(ids({ steps: [{ kind: "curves" }] }));
  });
});
