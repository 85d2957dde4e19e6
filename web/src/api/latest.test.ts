import { expect, it } from "vitest";
import { Latest } from "./latest";

const turn = () => new Promise((resolve) => setTimeout(resolve, 0));

it("keeps one request in flight and only the newest waiting", async () => {
  const running: ((value: number) => void)[] = [];
  const asked: number[] = [];
  const answered: number[] = [];
  const latest = new Latest<number, number>(
    (input) => {
      asked.push(input);
      return new Promise((resolve) => running.push(resolve));
    },
    (result) => answered.push(result),
    () => undefined,
  );
  for (const input of [1, 2, 3, 4]) latest.ask(input);
  expect(asked).toEqual([1]);
  running[0]?.(10);
  await turn();
  expect(asked).toEqual([1, 4]);
  running[1]?.(40);
  await turn();
  expect(answered).toEqual([10, 40]);
});

it("delivers nothing once closed and goes on after an error", async () => {
  const answered: number[] = [];
  const failed: unknown[] = [];
  const latest = new Latest<number, number>(
    (input) => (input < 0 ? Promise.reject(new Error("no")) : Promise.resolve(input)),
    (result) => answered.push(result),
    (error) => failed.push(error),
  );
  latest.ask(-1);
  await turn();
  latest.ask(2);
  await turn();
  expect([answered, failed.length]).toEqual([[2], 1]);
  latest.ask(3);
  latest.close();
  await turn();
  expect(answered).toEqual([2]);
});
