import { configure, fireEvent, render, screen, waitFor } from "@testing-library/react";
import { useState } from "react";
import { MemoryRouter } from "react-router";
import { beforeEach, describe, expect, it, vi } from "vitest";
import api from "../../../openapi.json";
import type { Step, StepOf } from "../../api/types";
import { benchOf, serve, studio } from "../../testing";
import { BenchContext } from "../useBench";
import { mostStrength } from "./beyond";
import { editors, fetchEditors } from "./editors";
import { StepEditor } from "./StepEditor";

// Whether each part is to be seen is asked of the whole document each time, and takes longer than all the rest.
configure({ defaultHidden: true });

const encodings = [
  { id: "srgb", name: "sRGB", family: "display", own: false },
  { id: "acescct", name: "ACEScct", family: "log", own: false },
];

/** The editor of one step, which goes on with what it was changed to, as on the Bench. */
async function opened(first: Step) {
  serve(({ path }) => ({
    body: path.endsWith("/encodings") ? encodings : path.endsWith("/shelf/entries") ? { entries: [] } : [],
  }));
  const bench = benchOf({ steps: [first] });
  const seen = { step: first, names: [] as string[], gestures: [] as (string | undefined)[] };
  const done = vi.fn();
  function Tried() {
    const [step, setStep] = useState<Step>(first);
    return (
      <StepEditor
        step={step}
        sketch={undefined}
        reaching={undefined}
        picture={undefined}
        done={done}
        change={(name, next, gesture) => {
          seen.names.push(name);
          seen.gestures.push(gesture);
          seen.step = next(seen.step);
          setStep(seen.step);
        }}
      />
    );
  }
  const Studio = studio();
  const { container } = render(
    <MemoryRouter>
      <Studio>
        <BenchContext value={bench}>
          <Tried />
        </BenchContext>
      </Studio>
    </MemoryRouter>,
  );
  await waitFor(() => expect(container.querySelector("input, button, svg, p")).not.toBeNull());
  return { seen, done };
}

/** Types a number and leaves the field. */
async function type(label: string, text: string) {
  const box = (await screen.findAllByLabelText<HTMLInputElement>(label)).filter((one) => one.type !== "range").at(-1);
  if (!box) throw new Error(`no field ${label}`);
  fireEvent.focus(box);
  fireEvent.change(box, { target: { value: text } });
  fireEvent.blur(box);
}

const kindsOfServer = Object.values(api.components.schemas as Record<string, { properties?: Record<string, unknown> }>)
  .map((schema) => schema.properties?.kind as { const?: string } | undefined)
  .flatMap((kind) => (kind?.const ? [kind.const] : []));

beforeEach(() => void fetchEditors());

describe("every kind of step", () => {
  it("that the server knows has an editor here", () => {
    expect(Object.keys(editors).sort()).toEqual([...new Set(kindsOfServer)].filter((kind) => kind in editors).sort());
    expect(kindsOfServer).toEqual(expect.arrayContaining(Object.keys(editors)));
    expect(Object.keys(editors)).toHaveLength(24);
  });

  it("goes beyond full where the server lets it", () => {
    const schemas = Object.values(api.components.schemas as Record<string, { properties?: Record<string, unknown> }>);
    for (const kind of Object.keys(editors)) {
      const own = schemas.find((one) => (one.properties?.kind as { const?: string } | undefined)?.const === kind);
      const { maximum } = own!.properties!.strength as { maximum: number };
      expect([kind, mostStrength([{ kind } as Step])]).toEqual([kind, maximum]);
    }
    expect(mostStrength([{ kind: "group", steps: [{ kind: "limit" }] }])).toBe(1);
  });

  it.each(Object.keys(editors))(
    "%s opens as it is when added, and with settings that show what it does",
    async (kind) => {
      const editor = editors[kind];
      if (!editor) throw new Error("none");
      const shown = editor.example ? [{ ...editor.fresh(), ...editor.example } as Step] : [];
      for (const step of [editor.fresh(), ...shown]) {
        const { seen } = await opened({ ...step, id: "s" });
        expect(seen.names, "to look at a step changes nothing").toEqual([]);
        expect(screen.queryByText(/could not be fetched/)).toBeNull();
      }
    },
  );
});

type Case = readonly [kind: Step["kind"], label: string, text: string, wanted: Record<string, unknown>, name: RegExp];

const cases: readonly Case[] = [
  ["tone", "Contrast", "1.4", { contrast: 1.4 }, /^Tone: /],
  ["tone", "Exposure, EV", "-0.5", { exposure: -0.5 }, /^Tone: /],
  ["saturation", "Saturation, x", "1.35", { factor: 1.35 }, /^Saturation: /],
  ["soft-focus", "Amount", "0.6", { amount: 0.6 }, /^Soft focus: /],
  ["sharpen", "Amount", "1.2", { amount: 1.2 }, /^Sharpen: /],
  ["bloom", "Brighter than, light", "0.4", { threshold: 0.4 }, /^Bloom: /],
  ["halation", "Wide radius, h", "0.05", { wide_radius: 0.05 }, /^Halation: /],
  ["tone-wash", "At tone, of 255", "51", { colours: [{ at: 0.2 }, { at: 0.9 }] }, /^Wash over tones: /],
  ["hue-bands", "Leave skin", "0.8", { leave_skin: { amount: 0.8 } }, /^Hue bands: /],
  ["split-tone", "Leave skin", "1", { leave_skin: { amount: 1 } }, /^Split tone: /],
  ["colour-curves", "Leave skin", "0.5", { leave_skin: { amount: 0.5 } }, /^Colour curves: /],
  ["lut", "Leave skin", "0.5", { leave_skin: { amount: 0.5 } }, /^LUT: /],
  ["halation", "Radius, h", "0.02", { radius: 0.02 }, /^Halation: /],
  ["grain", "Number of the pattern", "77", { seed: 77 }, /^Grain: /],
  ["vignette", "Midpoint", "0.5", { midpoint: 0.5 }, /^Vignette: /],
  ["cdl", "red, slope", "1.2", { slope: [1.2, 1, 1] }, /^CDL: /],
  ["cdl", "blue, offset", "-0.05", { offset: [0, 0, -0.05] }, /^CDL: /],
  ["channel-mix", "red, green", "0.25", { red: [1, 0.25, 0] }, /^Channel mix: /],
  ["graduated-wash", "Full at, percent across", "25", { start: [0.25, 0] }, /^Graduated wash: /],
];

describe("hue bands", () => {
  it("turn together once several are chosen", async () => {
    const { seen } = await opened({ ...(editors["hue-bands"]?.fresh() ?? { kind: "hue-bands" }), id: "s" });
    fireEvent.click(await screen.findByRole("button", { name: "All" }));
    await type("Hue, °", "12");
    const { bands } = seen.step as StepOf<"hue-bands">;
    expect(bands?.map((one) => one.hue)).toEqual(Array.from({ length: 8 }, () => 12));
  });
});

describe("a number that is typed", () => {
  it.each(cases)("into %s, %s, is what the step has then", async (kind, label, text, wanted, name) => {
    const { seen, done } = await opened({ ...(editors[kind]?.fresh() ?? { kind }), id: "s" });
    await type(label, text);
    expect(seen.step).toMatchObject({ kind, id: "s", ...wanted });
    expect(seen.names).toHaveLength(1);
    expect(seen.names[0]).toMatch(name);
    expect(seen.gestures, "is one change by itself").toEqual([undefined]);
    expect(done.mock.calls.length).toBeGreaterThan(0);
  });

  it("that no step may have changes nothing", async () => {
    const { seen } = await opened({ kind: "vignette", id: "s", amount: 0.3 });
    await type("Amount", "7");
    await type("Amount", "much");
    expect(seen.names).toEqual([]);
  });
});

describe("editors with more than numbers", () => {
  it("of split tone set the zone that is chosen, and leave the others", async () => {
    const { seen } = await opened({ kind: "split-tone", id: "s" });
    await type("Hue, °", "250");
    await type("Amount, C", "0.06");
    fireEvent.click(screen.getByRole("radio", { name: "Highlights" }));
    await type("Hue, °", "80");
    await type("Lean", "0.4");
    const { shadows, midtones, highlights, lean } = seen.step as StepOf<"split-tone">;
    expect([shadows?.hue, shadows?.amount, highlights?.hue, lean]).toEqual([250, 0.06, 80, 0.4]);
    expect(midtones?.amount ?? 0).toBe(0);
  });

  it("of hue bands turn one band, and its neighbours stay", async () => {
    const { seen } = await opened({ kind: "hue-bands", id: "s" });
    await type("Hue, °", "-25");
    const { bands = [] } = seen.step as StepOf<"hue-bands">;
    expect(bands).toHaveLength(8);
    expect(bands.map((band) => band.hue)).toEqual([-25, 0, 0, 0, 0, 0, 0, 0]);
  });

  it("of hue bands never let a band pass its neighbour", async () => {
    const { seen } = await opened({ kind: "hue-bands", id: "s" });
    const band = screen.getByRole("slider", { name: "Band 1 of 8" });
    for (let press = 0; press < 9; press += 1) fireEvent.keyDown(band, { key: "ArrowRight", shiftKey: true });
    const { bands = [] } = seen.step as StepOf<"hue-bands">;
    const [first, second] = bands;
    expect(first?.centre).toBeGreaterThan(29);
    expect(first?.centre).toBeLessThan(second?.centre ?? 0);
  });

  it("of colour curves move, type and delete points by keys", async () => {
    const { seen, done } = await opened({
      kind: "colour-curves",
      id: "s",
      saturation: [
        [20, 1.3],
        [110, 1],
        [250, 0.4],
      ],
    });
    const points = () => (seen.step as StepOf<"colour-curves">).saturation ?? [];
    fireEvent.keyDown(screen.getByRole("slider", { name: "Point 2 of 3" }), { key: "ArrowUp" });
    expect(points()[1]?.[1]).toBeGreaterThan(1);
    expect(points()[0]).toEqual([20, 1.3]);
    fireEvent.focus(screen.getByRole("slider", { name: "Point 3 of 3" }));
    await type("At hue, degrees", "260");
    expect(points()[2]).toEqual([260, 0.4]);
    fireEvent.keyDown(screen.getByRole("slider", { name: "Point 3 of 3" }), { key: "Delete" });
    expect(points()).toHaveLength(2);
    fireEvent.click(screen.getByRole("button", { name: "Straighten" }));
    expect(points()).toEqual([]);
    expect(done).toHaveBeenCalled();
  });

  it("of channel mix make one row for all three and go back to three", async () => {
    const { seen } = await opened({ kind: "channel-mix", id: "s" });
    fireEvent.click(screen.getByRole("switch", { name: "Monochrome: one row for all three" }));
    await type("grey, blue", "0.5");
    expect(seen.step).toMatchObject({ monochrome: true });
    expect((seen.step as StepOf<"channel-mix">).grey?.[2]).toBe(0.5);
  });

  it("of white balance go by keys, a tenth with Alt and ten with Shift", async () => {
    const { seen } = await opened({ kind: "white-balance", id: "s" });
    const white = await screen.findByRole("slider", { name: "White" });
    fireEvent.keyDown(white, { key: "ArrowRight" });
    fireEvent.keyDown(white, { key: "ArrowRight", shiftKey: true });
    fireEvent.keyDown(white, { key: "ArrowRight", altKey: true });
    expect((seen.step as StepOf<"white-balance">).warm).toBeCloseTo(11.2, 5);
    expect((seen.step as StepOf<"white-balance">).tint ?? 0).toBeCloseTo(0, 9);
  });

  it("of levels move gamma by keys", async () => {
    const { seen } = await opened({ kind: "levels", id: "s" });
    const [gamma] = await screen.findAllByRole("slider", { name: "Gamma" });
    if (gamma) fireEvent.keyDown(gamma, { key: "ArrowLeft", shiftKey: true });
    const { master } = seen.step as StepOf<"levels">;
    expect(master?.gamma).toBeCloseTo(1.1, 6);
    expect(master?.input_black ?? 0).toBe(0);
  });

  it("of grain draw another pattern, which is the same one each time", async () => {
    const { seen } = await opened({ kind: "grain", id: "s", amount: 0.2, seed: 1 });
    fireEvent.click(screen.getByRole("button", { name: "Another one" }));
    expect((seen.step as StepOf<"grain">).seed).toBe(48271);
    fireEvent.click(screen.getByRole("switch", { name: "Each channel its own grain" }));
    expect((seen.step as StepOf<"grain">).colour).toBe(true);
  });

  it("of curves type a point of a channel, and leave the others", async () => {
    const { seen } = await opened({ kind: "curves", id: "s" });
    fireEvent.click(await screen.findByRole("radio", { name: "Red" }));
    await type("Point 2 out", "230");
    const step = seen.step as StepOf<"curves">;
    expect(step.red?.at(-1)?.[1]).toBeCloseTo(230 / 255, 6);
    expect(step.master ?? []).toEqual(
      editors.curves ? ((editors.curves.fresh() as StepOf<"curves">).master ?? []) : [],
    );
  });

  it("of curves take points as a list, say what is wrong with one, and leave it by Escape", async () => {
    const { seen } = await opened({ kind: "curves", id: "s" });
    fireEvent.click(await screen.findByRole("radio", { name: "Blue" }));
    const press = () => fireEvent.click(screen.getByRole("button", { name: "As a list…" }));
    press();
    const field = () => screen.getByRole<HTMLInputElement>("textbox", { name: "Points, in-out, 8-bit" });
    expect(field().value).toBe("0-0, 255-255");
    fireEvent.change(field(), { target: { value: "0-20, 70-300" } });
    fireEvent.submit(field());
    expect(screen.getByRole("alert").textContent).toContain("Point 2, “70-300”: 300 is outside");
    expect((seen.step as StepOf<"curves">).blue).toBeUndefined();
    fireEvent.change(field(), { target: { value: "0-20, 70-78, 255-190" } });
    fireEvent.submit(field());
    const blue = (seen.step as StepOf<"curves">).blue ?? [];
    expect(blue.flat().map((one) => Math.round(one * 255))).toEqual([0, 20, 70, 78, 255, 190]);
    press();
    fireEvent.change(field(), { target: { value: "0-0" } });
    fireEvent.keyDown(field(), { key: "Escape" });
    expect((seen.step as StepOf<"curves">).blue).toEqual(blue);
    expect(screen.getByRole("button", { name: "As a list…" })).toBeTruthy();
  });

  it("of isolate hue move what is kept and what others keep by keys, round the circle and no further than there is", async () => {
    const { seen } = await opened({ kind: "isolate-hue", id: "s", centre: 355 });
    const others = await screen.findByRole("slider", { name: "Softness, and what others keep" });
    for (let press = 0; press < 3; press += 1) fireEvent.keyDown(others, { key: "ArrowDown", shiftKey: true });
    fireEvent.keyDown(screen.getByRole("slider", { name: "Hue that is kept" }), { key: "ArrowRight", shiftKey: true });
    const step = () => seen.step as StepOf<"isolate-hue">;
    expect(step().others).toBeCloseTo(0.7, 6);
    expect(step().centre).toBe(5);
    const width = screen.getByRole("slider", { name: "Width of what is kept" });
    for (let press = 0; press < 9; press += 1) fireEvent.keyDown(width, { key: "ArrowLeft", shiftKey: true });
    expect(step().width).toBe(0);
  });

  it("of a wash set its colour by codes and how it is laid over, and leave the rest", async () => {
    const { seen } = await opened({ kind: "wash", id: "s" });
    await type("Colour, code values, red, 8-bit", "230");
    await type("Colour, code values, blue, 8-bit", "60");
    const step = () => seen.step as StepOf<"wash">;
    expect(step().colour?.map((value) => Math.round(value * 255))).toEqual([230, 255, 60]);
    fireEvent.click(screen.getByRole("button", { name: /Laid over by/ }));
    fireEvent.click(await screen.findByRole("option", { name: /^Soft light/, hidden: false }));
    expect(step().mode).toBe("soft-light");
  });

  it("of limit hold an end only where that is asked for", async () => {
    const { seen } = await opened({ kind: "limit", id: "s" });
    fireEvent.click(await screen.findByRole("switch", { name: "High end held" }));
    await type("High end", "200");
    await type("Knee", "0.5");
    const step = () => seen.step as StepOf<"limit">;
    expect([step().high, step().knee]).toEqual([200 / 255, 0.5]);
    const low = step().low;
    fireEvent.click(screen.getByRole("switch", { name: "High end held" }));
    expect([step().high, step().low]).toEqual([null, low]);
  });

  it("of tone go by the keys of their bars, and back to neutral by a double click", async () => {
    const { seen, done } = await opened({ kind: "tone", id: "s" });
    const bar = await screen.findByRole("slider", { name: "Exposure" });
    fireEvent.keyDown(bar, { key: "PageDown" });
    fireEvent.keyUp(bar, { key: "PageDown" });
    expect((seen.step as StepOf<"tone">).exposure).toBeLessThan(-0.05);
    const box = (await screen.findAllByLabelText("Contrast")).at(-1);
    await type("Contrast", "1.4");
    if (box) fireEvent.doubleClick(box);
    expect((seen.step as StepOf<"tone">).contrast).toBe(1);
    expect(done).toHaveBeenCalled();
  });
});
