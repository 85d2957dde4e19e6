import { describe, expect, it } from "vitest";
import schema from "../../../docs/look.schema.json";
import type { Look, Step } from "../api/types";
import { asMember, following, MOST_MEMBERS, SHARED, whyNot, withMember, withoutMember } from "./family";
import { BenchStore, opened } from "./store";

const tone: Step = { kind: "tone", id: "t", exposure: 0.25, contrast: 1 };
const wash: Step = { kind: "wash", id: "w", enabled: false };
const group: Step = { kind: "group", id: "g", steps: [wash] };
const look: Look = {
  name: "Quay",
  strength: 1,
  steps: [tone, group],
  family: [
    { name: "Night", settings: { t: { exposure: -1 }, w: { enabled: true } } },
    { name: "Thin", strength: 0.4, settings: {} },
  ],
};

const toned = (seen: Look) => seen.steps?.[0] as { exposure?: number; contrast?: number };
const washed = (seen: Look) => (seen.steps![1] as { steps: Step[] }).steps[0];
const exposed = (store: BenchStore, exposure: number, gesture?: string) =>
  store.editStep("Exposure", "t", (step) => ({ ...step, exposure }) as Step, gesture);
const own = (store: BenchStore, name: string) => store.get().whole.family?.find((one) => one.name === name)?.settings;

function at(member: string, whole = look): BenchStore {
  const store = new BenchStore(opened(whole));
  store.dispatch({ type: "member", member });
  return store;
}

describe("a family", () => {
  it("is seen as the one in hand, with its own settings over the recipe's", () => {
    const { look: seen } = at("Night").get();
    expect([toned(seen).exposure, washed(seen)?.enabled, seen.strength, seen.family]).toEqual([-1, true, 1, undefined]);
    expect(asMember(look, "Thin").strength).toBe(0.4);
    expect(toned(asMember(look, "")).exposure).toBe(0.25);
    expect(asMember(look, "Thin").steps?.[0]).toBe(tone);
  });

  it("shares what the core says that it shares", () => {
    expect([...SHARED].sort()).toEqual(schema.$defs.FamilyMember.properties.settings.shared);
    expect(MOST_MEMBERS).toBe(schema.properties.family.maxItems);
  });

  it("keeps what is set with the one in hand", () => {
    const store = at("Night");
    exposed(store, -2);
    store.editStep("Contrast", "t", (step) => ({ ...step, contrast: 1.2 }) as Step);
    expect(own(store, "Night")?.t).toEqual({ exposure: -2, contrast: 1.2 });
    expect(store.get().whole.steps?.[0]).toMatchObject({ exposure: 0.25, contrast: 1 });
    expect(own(store, "Thin")).toEqual({});
    exposed(store, 0.25);
    expect(own(store, "Night")?.t).toEqual({ contrast: 1.2 });
    expect(toned(store.get().look)).toMatchObject({ exposure: 0.25, contrast: 1.2 });
  });

  it("follows the recipe where a member says nothing of its own", () => {
    const store = at("");
    exposed(store, 0.75);
    store.editStep("Contrast", "t", (step) => ({ ...step, contrast: 1.4 }) as Step);
    expect(toned(asMember(store.get().whole, "Thin"))).toMatchObject({ exposure: 0.75, contrast: 1.4 });
    expect(toned(asMember(store.get().whole, "Night"))).toMatchObject({ exposure: -1, contrast: 1.4 });
  });

  it("is set in all of it at once", () => {
    const store = at("Night");
    store.dispatch({ type: "together", together: true });
    exposed(store, 0.5);
    expect(["", "Night", "Thin"].map((name) => toned(asMember(store.get().whole, name)).exposure)).toEqual([
      0.5, 0.5, 0.5,
    ]);
    expect(own(store, "Night")).toEqual({ w: { enabled: true } });
    store.edit("Strength", (before) => ({ ...before, strength: 0.8 }));
    expect(["", "Night", "Thin"].map((name) => asMember(store.get().whole, name).strength)).toEqual([0.8, 0.8, 0.8]);
    store.dispatch({ type: "member", member: "" });
    expect(store.get().together).toBe(false);
  });

  it("has the strength of the look apart", () => {
    const store = at("Night");
    const strong = (strength: number) => store.edit("Strength", (before) => ({ ...before, strength }));
    strong(0.7);
    expect(store.get().whole).toMatchObject({ strength: 1, family: [{ strength: 0.7 }, { strength: 0.4 }] });
    strong(1);
    expect(store.get().whole.family?.[0]?.strength).toBeNull();
  });

  it("has its steps, their order, names and encodings in common", () => {
    const store = at("Night");
    store.edit("Move", (before) => ({ ...before, steps: [...(before.steps ?? [])].reverse() }));
    store.editStep("Rename", "t", (step) => ({ ...step, name: "Base" }));
    store.edit("Made for", (before) => ({ ...before, input: "rec709" }));
    const { whole } = store.get();
    expect(whole.input).toBe("rec709");
    expect(whole.steps?.map((step) => [step.id, step.name])).toEqual([
      ["g", undefined],
      ["t", "Base"],
    ]);
    expect(whole.steps?.[1]).toMatchObject({ exposure: 0.25 });
    expect(own(store, "Night")).toEqual({ t: { exposure: -1 }, w: { enabled: true } });
  });

  it("loses what it had of a step that is gone or of another kind, and has a new one in common", () => {
    const store = at("Night");
    store.edit("Delete", (before) => ({ ...before, steps: [...(before.steps ?? [])].slice(1) }));
    expect(own(store, "Night")).toEqual({ w: { enabled: true } });
    store.dispatch({ type: "undo" });
    expect(own(store, "Night")).toEqual({ t: { exposure: -1 }, w: { enabled: true } });
    store.editStep("Swap", "t", () => ({ kind: "levels", id: "t" }));
    expect(own(store, "Night")).toEqual({ w: { enabled: true } });
    store.edit("Add", (before) => ({
      ...before,
      steps: [...(before.steps ?? []), { kind: "tone", id: "n", exposure: 2 }],
    }));
    expect(store.get().whole.steps?.at(-1)).toMatchObject({ id: "n", exposure: 2 });
    expect(own(store, "Night")?.n).toBeUndefined();
  });

  it("is undone with its drags as one change, whoever is in hand by then", () => {
    const store = at("Night");
    exposed(store, -1.5, "drag");
    exposed(store, -2, "drag");
    expect(store.get().past).toHaveLength(1);
    store.dispatch({ type: "member", member: "Thin" });
    store.dispatch({ type: "undo" });
    expect([store.get().member, own(store, "Night")?.t]).toEqual(["Thin", { exposure: -1 }]);
    store.dispatch({ type: "redo" });
    expect(own(store, "Night")?.t).toEqual({ exposure: -2 });
  });

  it("has one more in hand at once, and the recipe once that one is gone", () => {
    const store = at("Night");
    store.replace(
      "Dusk in the family",
      withMember(store.get().whole, { name: "Dusk", settings: { t: { exposure: 0 } } }),
      "Dusk",
    );
    expect([store.get().member, toned(store.get().look).exposure]).toEqual(["Dusk", 0]);
    store.replace("Dusk out", withoutMember(store.get().whole, "Dusk"));
    expect([store.get().member, toned(store.get().look).exposure]).toEqual(["", 0.25]);
    store.dispatch({ type: "undo" });
    expect(store.get().whole.family?.map((one) => one.name)).toEqual(["Night", "Thin", "Dusk"]);
  });

  it("follows the recipe again in a step, or in all", () => {
    expect(following(look, "Night", "t").family?.[0]).toEqual({ name: "Night", settings: { w: { enabled: true } } });
    expect(following(look, "Night").family?.[0]).toEqual({ name: "Night" });
  });

  it("has no name twice, and none that says nothing", () => {
    expect([whyNot(look, " night "), whyNot(look, "night", "Night"), whyNot(look, "  "), whyNot(look, "Dusk")]).toEqual(
      ['There is a "night" already.', "", "Give it a name.", ""],
    );
  });

  it("is none of a look without one, which is the same object all along", () => {
    const store = new BenchStore(opened({ steps: [tone] }));
    expect(store.get().look).toBe(store.get().whole);
    exposed(store, 1);
    expect(store.get().look).toBe(store.get().whole);
    store.dispatch({ type: "together", together: true });
    expect(store.get().together).toBe(false);
  });
});
