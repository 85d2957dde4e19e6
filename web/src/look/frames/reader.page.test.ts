import { beforeEach, describe, expect, it, vi } from "vitest";
import { Unreachable } from "../../api/client";
import type { Look, Picture } from "../../api/types";
import { BenchStore, opened as openedLook } from "../store";
import { fromSearch, ViewStore } from "../view/view";
import { Reader } from "./reader";

const calls: { what: string; given: unknown[] }[] = [];
const drawnAt: number[] = [];
let failing: Record<string, Error> = {};
let held: (() => void)[] | null = null;

vi.mock("../../api/seen", () => {
  const call =
    (what: string, give: (...given: unknown[]) => unknown) =>
    async (...given: unknown[]) => {
      calls.push({ what, given });
      if (held) await new Promise<void>((go) => held?.push(go));
      if (failing[what]) throw failing[what];
      return give(...given);
    };
  const line = (look: Look) => ({
    end: "srgb",
    steps: (look.steps ?? []).map((step, at) => ({
      id: step.id,
      path: `steps[${String(at)}]`,
      before: "log",
      after: "srgb",
      summary: JSON.stringify(step),
    })),
  });
  return {
    readSketch: call("sketch", (look) => line(look as Look)),
    readScopes: call("scopes", () => ({ all: [], source: [], result: [] })),
    MOST_HELD: 8,
    readTold: call("told", (look) =>
      ((look as Look).steps ?? []).map(({ id }) => ({ id, path: "", words: `does ${id ?? ""}` })),
    ),
    readHolding: call("holding", (_, pictures) =>
      (pictures as { picture: number }[]).map(({ picture }) => ({
        picture,
        failings: picture % 2 ? [{ what: "clipped", words: "3 % clipped", times: 1.5, id: "t", title: "Tone" }] : [],
      })),
    ),
    readAdvice: call("advice", () => [{ words: "raise it" }]),
    fetchDiscs: call("discs", () => ({ width: 10, height: 20, close: vi.fn() })),
    fetchFingerprint: call("fingerprint", () => new Blob(["x"])),
  };
});

const made = () => calls.map((one) => one.what);
const tray = [{ id: 7 }, { id: 8 }] as Picture[];
let urls = 0;
const revoked: string[] = [];

function opened() {
  const store = new BenchStore(
    openedLook({
      input: "srgb",
      output: "srgb",
      steps: [
        { kind: "tone", id: "t" },
        { kind: "saturation", id: "s" },
      ],
    }),
  );
  const view = new ViewStore(fromSearch(new URLSearchParams()));
  const reader = new Reader(store, view);
  reader.open();
  reader.see(7, tray);
  return { store, view, reader, read: () => reader.readings.get() };
}

const settle = () => vi.advanceTimersByTimeAsync(50);

beforeEach(() => {
  [calls.length, revoked.length, drawnAt.length, failing, held, urls] = [0, 0, 0, {}, null, 0];
  vi.useFakeTimers();
  vi.stubGlobal("URL", {
    createObjectURL: () => `blob:${String((urls += 1))}`,
    revokeObjectURL: (url: string) => revoked.push(url),
  });
  vi.stubGlobal(
    "Image",
    class {
      src = "";
      decode = () => Promise.resolve();
    },
  );
  vi.stubGlobal(
    "OffscreenCanvas",
    class {
      constructor(
        readonly width: number,
        readonly height: number,
      ) {}
      getContext = () => ({ drawImage: (_: unknown, __: number, top: number) => drawnAt.push(top) });
      convertToBlob = () => Promise.resolve(new Blob(["y"]));
    },
  );
});

describe("what is read off a look", () => {
  it("at rest is all of it, one after the other, and counted once", async () => {
    const { reader, read } = opened();
    reader.atRest();
    await settle();
    expect(made()).toEqual(["sketch", "scopes", "discs", "fingerprint", "advice", "told", "holding"]);
    expect(read()).toMatchObject({ rests: 1, advice: [{ words: "raise it" }], discs: "blob:1", fingerprint: "blob:2" });
    expect([...read().told]).toEqual([
      ["t", "does t"],
      ["s", "does s"],
    ]);
    expect([...read().failings].map(([id, one]) => [id, one.length])).toEqual([
      [7, 1],
      [8, 0],
    ]);
    expect(read().sketch?.steps).toHaveLength(2);
  });

  it("waits for a picture to be there, but draws lines without one", async () => {
    const { reader, read } = opened();
    reader.see(null, []);
    reader.atRest();
    await settle();
    expect(made()).toEqual(["sketch"]);
    expect(read().rests).toBe(0);
  });

  it("that fails does not keep the others from being read", async () => {
    failing = { scopes: new Error("no"), discs: new Error("no") };
    const { reader, read } = opened();
    reader.atRest();
    await settle();
    expect(made()).toEqual(["sketch", "scopes", "discs", "fingerprint", "advice", "told", "holding"]);
    expect(read()).toMatchObject({ rests: 1, scopes: null, discs: null, fingerprint: "blob:1" });
  });

  it("stops at the first where the server is away, and that was no rest", async () => {
    failing = { scopes: new Unreachable() };
    const { reader, read } = opened();
    reader.atRest();
    await settle();
    expect(made()).toEqual(["sketch", "scopes"]);
    expect(read().rests).toBe(0);
  });

  it("comes in parts where the tray holds many", async () => {
    const { reader } = opened();
    reader.see(
      7,
      Array.from({ length: 50 }, (_, id) => ({ id }) as Picture),
    );
    reader.atRest();
    await settle();
    const discs = calls.filter((one) => one.what === "discs").map((one) => (one.given[1] as number[]).length);
    expect(discs).toEqual([24, 24, 2]);
    const held = calls.filter((one) => one.what === "holding").map((one) => (one.given[1] as unknown[]).length);
    expect(held).toEqual([8, 8, 8, 8, 8, 8, 2]);
  });

  it("asks for no discs where the tray is empty, and hangs those of parts below each other", async () => {
    const { reader, read } = opened();
    reader.see(7, []);
    reader.atRest();
    await settle();
    expect(made()).not.toContain("discs");
    expect(read().discs).toBeNull();
    reader.see(
      7,
      Array.from({ length: 50 }, (_, id) => ({ id }) as Picture),
    );
    reader.atRest();
    await settle();
    expect(drawnAt).toEqual([0, 20, 40]);
  });

  it("stands before what is counted of the picture that is pinned, which others are held against", async () => {
    const { reader, view } = opened();
    const pinned = { picture: 9, look: null, at: null, read_as: "log", name: "Quay, as it came" };
    view.set({ reference: pinned, readAs: { 7: "film-log" } });
    reader.atRest();
    await settle();
    const asked = calls.filter((one) => one.what === "scopes").map((one) => one.given);
    expect(asked.map(([, seen]) => seen)).toEqual([
      { picture: 7, read_as: "film-log" },
      { picture: 9, read_as: "log" },
    ]);
    expect((asked[1]![0] as Look).steps).toEqual([]);
  });

  it("is of what is being tried where that is seen, and of the look itself where it is edited", async () => {
    const { store, reader } = opened();
    const trial: Look = { ...store.get().look, name: "tried" };
    store.dispatch({ type: "try", look: trial });
    reader.atRest();
    await settle();
    const of = (what: string) => (calls.find((one) => one.what === what)!.given[0] as Look).name;
    expect([of("scopes"), of("discs"), of("fingerprint"), of("advice")]).toEqual([
      "tried",
      "tried",
      undefined,
      undefined,
    ]);
  });
});

describe("lines while a step moves", () => {
  it("are of that step alone, in the encoding of its own place, and the others stay", async () => {
    const { store, reader, read } = opened();
    reader.atRest();
    await settle();
    const before = read().sketch?.steps ?? [];
    store.dispatch({ type: "select", id: "s" });
    store.editStep("Saturation", "s", (step) => ({ ...step, factor: 2 }) as typeof step, "factor");
    calls.length = 0;
    reader.drawLines();
    await settle();
    const [asked] = calls[0]!.given as [Look];
    expect([asked.input, asked.steps?.map((step) => step.id)]).toEqual(["log", ["s"]]);
    const after = read().sketch?.steps ?? [];
    expect(after[0]).toBe(before[0]);
    expect(after[1]).toMatchObject({ id: "s", path: "steps[1]", before: "log" });
    expect(after[1]?.summary).toContain('"factor":2');
  });

  it("are of all steps where nothing is held", async () => {
    const { reader } = opened();
    reader.drawLines();
    await settle();
    expect((calls[0]!.given[0] as Look).steps).toHaveLength(2);
  });
});

describe("a reader that is closed", () => {
  it("gives back what it showed, and tells nothing more", async () => {
    const { reader, read } = opened();
    reader.atRest();
    await settle();
    held = [];
    reader.atRest();
    reader.close();
    expect(revoked.sort()).toEqual(["blob:1", "blob:2"]);
    const last = read();
    held.forEach((go) => go());
    await settle();
    expect(read()).toBe(last);
    expect(last).toMatchObject({ discs: null, fingerprint: null });
  });

  it("lets the picture before go only after the next one is drawn", async () => {
    const { reader } = opened();
    reader.atRest();
    await settle();
    reader.atRest();
    await settle();
    expect(revoked).toEqual([]);
    await vi.advanceTimersByTimeAsync(1100);
    expect(revoked.sort()).toEqual(["blob:1", "blob:2"]);
  });
});
