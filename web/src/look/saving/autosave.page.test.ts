import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import type { Look } from "../../api/types";
import { Autosave, keptDraft, type SaveState } from "./autosave";

const look = (name: string): Look => ({ name, steps: [] });
let answers: (() => Response | Promise<Response>)[] = [];
let sent: { look: Look; revision: number }[] = [];
let said: SaveState["kind"][] = [];

const saved = (revision: number) => () => new Response(JSON.stringify({ revision }), { status: 200 });
const conflict = (revision: number) => () =>
  new Response(JSON.stringify({ detail: "changed", by: "Ada", revision }), { status: 409 });

function saver(): Autosave {
  return new Autosave(7, 1, (state) => said.push(state.kind));
}

beforeEach(() => {
  vi.useFakeTimers();
  localStorage.clear();
  [answers, sent, said] = [[], [], []];
  vi.stubGlobal("fetch", async (request: Request) => {
    sent.push((await request.json()) as { look: Look; revision: number });
    const answer = answers.shift();
    if (!answer) throw new TypeError("no network");
    return answer();
  });
});
afterEach(() => {
  vi.useRealTimers();
  vi.unstubAllGlobals();
});

describe("the draft that saves itself", () => {
  it("sends the last of several changes, once", async () => {
    answers = [saved(2)];
    const auto = saver();
    for (const name of ["a", "b", "c"]) auto.changed(look(name));
    await vi.advanceTimersByTimeAsync(600);
    expect(sent).toEqual([{ look: look("c"), revision: 1 }]);
    expect(said.at(-1)).toBe("saved");
    expect(keptDraft(7)).toBeNull();
  });

  it("keeps what could not be sent, and sends it when the server answers again", async () => {
    const auto = saver();
    auto.changed(look("a"));
    await vi.advanceTimersByTimeAsync(600);
    expect(said.at(-1)).toBe("offline");
    expect(keptDraft(7)).toEqual({ look: look("a"), revision: 1 });
    answers = [saved(2)];
    await vi.advanceTimersByTimeAsync(2100);
    expect(said.at(-1)).toBe("saved");
    expect(sent.at(-1)?.look).toEqual(look("a"));
  });

  it("goes over nobody's draft, and goes on from it once that is settled", async () => {
    answers = [conflict(5), saved(6)];
    const auto = saver();
    auto.changed(look("mine"));
    await vi.advanceTimersByTimeAsync(600);
    expect(said.at(-1)).toBe("conflict");
    auto.changed(look("mine still"));
    await vi.advanceTimersByTimeAsync(3000);
    expect(sent).toHaveLength(1);
    expect(keptDraft(7)?.look).toEqual(look("mine still"));
    auto.rebase(5);
    auto.changed(look("settled"));
    await vi.advanceTimersByTimeAsync(600);
    expect(sent.at(-1)).toEqual({ look: look("settled"), revision: 5 });
    expect(said.at(-1)).toBe("saved");
  });

  it("does not send back what it was told to follow", async () => {
    const auto = saver();
    const theirs = look("theirs");
    auto.follow(theirs, 9);
    auto.changed(theirs);
    await vi.advanceTimersByTimeAsync(3000);
    expect(sent).toHaveLength(0);
    answers = [saved(10)];
    auto.changed(look("mine on top"));
    await vi.advanceTimersByTimeAsync(600);
    expect(sent).toEqual([{ look: look("mine on top"), revision: 9 }]);
  });

  it.each([500, 502, 503, 504])("waits and sends again where the server answers %d", async (status) => {
    answers = [() => new Response(JSON.stringify({ detail: "It broke." }), { status }), saved(2)];
    const auto = saver();
    auto.changed(look("a"));
    await vi.advanceTimersByTimeAsync(600);
    expect(said.at(-1)).toBe("offline");
    expect(keptDraft(7)?.look).toEqual(look("a"));
    await vi.advanceTimersByTimeAsync(1000);
    expect(sent).toHaveLength(1);
    await vi.advanceTimersByTimeAsync(1100);
    expect(sent).toHaveLength(2);
    expect(said.at(-1)).toBe("saved");
    expect(keptDraft(7)).toBeNull();
  });

  it("does not send again what is refused, and says why", async () => {
    answers = [() => new Response(JSON.stringify({ detail: "There are too many steps." }), { status: 422 })];
    const auto = saver();
    auto.changed(look("a"));
    await vi.advanceTimersByTimeAsync(6000);
    expect(sent).toHaveLength(1);
    expect(auto.state).toEqual({ kind: "refused", words: "There are too many steps." });
    expect(keptDraft(7)?.look, "is still here").toEqual(look("a"));
  });

  it("sends what was changed while an answer was on its way", async () => {
    let come: (answer: Response) => void = () => undefined;
    answers = [() => new Promise<Response>((given) => (come = given)), saved(3)];
    const auto = saver();
    auto.changed(look("a"));
    await vi.advanceTimersByTimeAsync(600);
    auto.changed(look("b"));
    come(new Response(JSON.stringify({ revision: 2 })));
    await vi.advanceTimersByTimeAsync(0);
    expect(keptDraft(7)).toEqual({ look: look("b"), revision: 2 });
    await vi.advanceTimersByTimeAsync(600);
    expect(sent.map((one) => [one.look.name, one.revision])).toEqual([
      ["a", 1],
      ["b", 2],
    ]);
  });

  it("sends at once what waits when the page is left, and tells nothing any more", async () => {
    answers = [saved(2)];
    const auto = saver();
    auto.changed(look("a"));
    auto.close();
    await vi.advanceTimersByTimeAsync(0);
    expect(sent).toHaveLength(1);
    expect(said).toEqual(["waiting"]);
    auto.changed(look("b"));
    await vi.advanceTimersByTimeAsync(3000);
    expect(sent).toHaveLength(1);
  });

  it("waits until all is saved when that is asked for, and says where it cannot be", async () => {
    answers = [saved(2)];
    const auto = saver();
    auto.changed(look("a"));
    const all = auto.flush();
    await vi.advanceTimersByTimeAsync(100);
    await expect(all).resolves.toBeUndefined();
    expect(sent).toHaveLength(1);
    auto.changed(look("b"));
    const failed = expect(auto.flush()).rejects.toThrow("The draft could not be saved yet.");
    await vi.advanceTimersByTimeAsync(100);
    await failed;
  });
});
