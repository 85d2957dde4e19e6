import { afterEach, beforeEach, expect, it, vi } from "vitest";
import { Cards } from "./cards";

type Seen = { newest: boolean };
const PINNED: Seen = { newest: false };
const NEWEST: Seen = { newest: true };
let made = 0;

beforeEach(() => {
  made = 0;
  vi.stubGlobal("URL", { createObjectURL: () => `blob:${String((made += 1))}`, revokeObjectURL: vi.fn() });
});
afterEach(() => vi.unstubAllGlobals());

/** Answers when it is told to. */
function server() {
  const asked: { shots: readonly number[]; seen: Seen; answer: (files: readonly (Blob | null)[]) => void }[] = [];
  const fetch = (shots: readonly number[], seen: Seen) =>
    new Promise<readonly (Blob | null)[]>((answer) => asked.push({ shots, seen, answer }));
  return { asked, fetch };
}
const settled = () => new Promise((done) => setTimeout(done));
const key = (shot: number, seen: Seen) => `${String(shot)}/${JSON.stringify(seen)}`;

it("asks for many at once, the last asked for first, and never for more than a few requests at a time", async () => {
  const { asked, fetch } = server();
  const cards = new Cards<Seen>(fetch, 4, 2);
  for (let shot = 1; shot <= 12; shot += 1) cards.ask(shot, PINNED, key(shot, PINNED), () => undefined);
  await settled();
  expect(asked.map((one) => one.shots)).toEqual([
    [9, 10, 11, 12],
    [5, 6, 7, 8],
  ]);
  asked[0]?.answer(Array.from({ length: 4 }, () => new Blob(["x"])));
  await settled();
  expect(asked.map((one) => one.shots)).toHaveLength(3);
});

it("keeps apart what is seen in different ways, and asks for nothing twice", async () => {
  const { asked, fetch } = server();
  const cards = new Cards<Seen>(fetch);
  const told: (string | null)[] = [];
  cards.ask(1, PINNED, key(1, PINNED), (address) => told.push(address));
  cards.ask(1, NEWEST, key(1, NEWEST), () => undefined);
  cards.ask(1, { newest: false }, key(1, PINNED), (address) => told.push(address));
  await settled();
  expect(asked.map((one) => one.seen.newest).sort()).toEqual([false, true]);
  asked.find((one) => !one.seen.newest)?.answer([new Blob(["x"])]);
  await settled();
  expect(told).toEqual(["blob:1", "blob:1"]);
  cards.ask(1, PINNED, key(1, PINNED), (address) => told.push(address));
  expect(told[2]).toBe("blob:1");
  expect(asked).toHaveLength(2);
});

it("leaves out what went out of sight before it was asked for, and tells what cannot be shown", async () => {
  const { asked, fetch } = server();
  const cards = new Cards<Seen>(fetch, 2, 1);
  const told: (string | null)[] = [];
  const back = cards.ask(1, PINNED, key(1, PINNED), (address) => told.push(address));
  cards.ask(2, PINNED, key(2, PINNED), (address) => told.push(address));
  back();
  await settled();
  expect(asked.map((one) => one.shots)).toEqual([[2]]);
  asked[0]?.answer([null]);
  await settled();
  expect(told).toEqual([null]);
});

it("tells nothing any more once it is closed, and lets its pictures go", async () => {
  const { asked, fetch } = server();
  const cards = new Cards<Seen>(fetch);
  const told: (string | null)[] = [];
  cards.ask(1, PINNED, key(1, PINNED), (address) => told.push(address));
  await settled();
  cards.close();
  asked[0]?.answer([new Blob(["x"])]);
  await settled();
  expect(told).toEqual([]);
  expect(cards.get(key(1, PINNED))).toBeUndefined();
});
