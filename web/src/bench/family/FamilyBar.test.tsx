import { act, fireEvent, render, screen, waitFor, within } from "@testing-library/react";
import { describe, expect, it, vi } from "vitest";
import type { FamilyMember, Look, Step } from "../../api/types";
import { StepFamily } from "../../look/steps/StepFamily";
import { BenchContext } from "../../look/useBench";
import { benchOf, serve, studio } from "../../testing";
import { AddMember } from "./AddMember";
import { FamilyBar } from "./FamilyBar";

const quay: Look = {
  name: "Quay",
  steps: [{ kind: "tone", id: "t", exposure: 0.25 }],
  family: [
    { name: "Night", settings: { t: { exposure: -1 } } },
    { name: "Thin", strength: 0.4, settings: {} },
  ],
};
const between = { name: "between", strength: null, settings: { t: { exposure: -0.4 } } };
const told = [
  { name: "Night", changes: ["Tone: exposure 0.25 -> -1"] },
  { name: "Thin", changes: ["Strength of the look: 100 % -> 40 %"] },
];

function opened(look: Look = quay, mayEdit = true) {
  const sent = serve(({ path }) => ({
    body: path.endsWith("/between") ? between : path.endsWith("/family") ? told : [],
  }));
  vi.stubGlobal("URL", Object.assign(URL, { createObjectURL: () => "blob:a", revokeObjectURL: () => undefined }));
  const bench = benchOf(look, mayEdit);
  const Studio = studio();
  render(
    <Studio>
      <BenchContext value={bench}>
        <FamilyBar picture={undefined} />
        <AddMember />
        <StepFamily id="t" name="Tone" />
      </BenchContext>
    </Studio>,
  );
  const names = () => bench.store.get().whole.family?.map((one) => one.name);
  const press = (name: string) => fireEvent.click(screen.getByRole("button", { name }));
  const choose = (name: string) => fireEvent.click(screen.getByRole("radio", { name }));
  return { sent, bench, names, press, choose };
}
const exposed = (look: Look | null) => (look?.steps?.[0] as { exposure?: number } | undefined)?.exposure;

describe("the family of a look", () => {
  it("has one in hand, which is seen and told with what is its own", () => {
    const { bench, choose } = opened();
    expect(screen.getByText("Night has settings of its own here.")).toBeTruthy();
    choose("Night");
    expect([bench.store.get().member, exposed(bench.store.get().look)]).toEqual(["Night", -1]);
    expect(screen.getByText("1 of its own")).toBeTruthy();
    expect(screen.getByText("Of Night alone: exposure.")).toBeTruthy();
    choose("Thin");
    expect(bench.store.get().look.strength).toBe(0.4);
    expect(screen.queryByText(/^Of Thin alone/)).toBeNull();
  });

  it("follows the recipe again in a step", () => {
    const { bench, choose, press } = opened();
    choose("Night");
    press("As the recipe");
    expect(exposed(bench.store.get().look)).toBe(0.25);
    expect(bench.store.get().past.map((one) => one.name)).toEqual(["Tone: Night as the recipe"]);
  });

  it("has one more, as what is in hand", async () => {
    const { bench, names, choose, press } = opened();
    choose("Night");
    press("One more of the family");
    const form = await screen.findByRole("dialog", { name: "One more of the family" });
    const add = () => within(form).getByRole<HTMLButtonElement>("button", { name: "Add" });
    expect(add().disabled).toBe(true);
    fireEvent.change(within(form).getByRole("textbox", { name: "Name" }), { target: { value: "night" } });
    expect(within(form).getByText('There is a "night" already.')).toBeTruthy();
    fireEvent.change(within(form).getByRole("textbox", { name: "Name" }), { target: { value: " Dusk " } });
    fireEvent.click(add());
    expect(names()).toEqual(["Night", "Thin", "Dusk"]);
    expect([bench.store.get().member, exposed(bench.store.get().look)]).toEqual(["Dusk", -1]);
  });

  it("has one more between two, tried while the bar moves", async () => {
    const { sent, bench, names, press } = opened();
    press("One more of the family");
    const form = await screen.findByRole("dialog", { name: "One more of the family" });
    fireEvent.change(within(form).getByRole("textbox", { name: "Name" }), { target: { value: "Dusk" } });
    fireEvent.click(within(form).getByRole("radio", { name: "Between two" }));
    await waitFor(() => expect(exposed(bench.store.get().trial)).toBe(-0.4));
    const [asked] = sent.filter((one) => one.path.endsWith("/between"));
    expect(asked?.body).toMatchObject({ first: "", second: "Night", at: 0.5 });
    fireEvent.click(within(form).getByRole("button", { name: "Add" }));
    expect(names()).toEqual(["Night", "Thin", "Dusk"]);
    expect(exposed(bench.store.get().look)).toBe(-0.4);
    await waitFor(() => expect(bench.store.get().trial).toBeNull());
  });

  it("is told, renamed and taken out", async () => {
    const { bench, names, choose, press } = opened();
    choose("Night");
    press("About Night");
    const sheet = await screen.findByRole("dialog", { name: "Night" });
    await within(sheet).findByText("Tone: exposure 0.25 -> -1");
    fireEvent.change(within(sheet).getByRole("textbox", { name: "Name" }), { target: { value: "Dark" } });
    fireEvent.click(within(sheet).getByRole("button", { name: "Rename" }));
    expect([names(), bench.store.get().member]).toEqual([["Dark", "Thin"], "Dark"]);
    press("About Dark");
    fireEvent.click(
      within(await screen.findByRole("dialog", { name: "Dark" })).getByRole("button", { name: "Take it out" }),
    );
    expect([names(), bench.store.get().member]).toEqual([["Thin"], ""]);
  });

  it("is set in all of it at once", () => {
    const { bench, choose } = opened();
    choose("Night");
    fireEvent.click(screen.getByRole("switch", { name: "Set in all" }));
    act(() => bench.store.editStep("Exposure", "t", (step) => ({ ...step, exposure: 1 }) as Step));
    const { whole } = bench.store.get();
    expect([exposed(whole), whole.family?.[0]?.settings]).toEqual([1, {}]);
  });

  it("begins with the recipe alone, and holds no more than it may", () => {
    const many: FamilyMember[] = Array.from({ length: 12 }, (_, index) => ({ name: `one ${String(index)}` }));
    opened({ ...quay, family: many });
    expect(screen.getAllByRole("radio")).toHaveLength(13);
    expect(screen.queryByRole("button", { name: "One more of the family" })).toBeNull();
  });

  it("is looked at by who may not change it, and nothing is said where there is none", () => {
    const { bench, choose } = opened(quay, false);
    choose("Night");
    expect(bench.store.get().member).toBe("Night");
    expect(screen.queryByRole("button", { name: "One more of the family" })).toBeNull();
    expect(screen.queryByRole("switch", { name: "Set in all" })).toBeNull();
  });

  it("stands nowhere for a viewer where there is none", () => {
    opened({ ...quay, family: [] }, false);
    expect(screen.queryByRole("region", { name: "Family of the look" })).toBeNull();
  });
});
