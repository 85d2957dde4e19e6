import { expect, it } from "vitest";
import { asHex, colourIn } from "./hex";

it.each([
  ["#E8C9A0", [232, 201, 160]],
  ["e8c9a0", [232, 201, 160]],
  [" #fc0 ; ", [255, 204, 0]],
  ["#000", [0, 0, 0]],
])("reads %s", (text, bytes) => expect(colourIn(text)).toEqual(bytes.map((one) => one / 255)));

it.each(["", "#", "#12", "#12345", "#gggggg", "rgb(1 2 3)", "#E8C9A0FF"])("knows that %j is no colour", (text) =>
  expect(colourIn(text)).toBeNull(),
);

it("writes every byte the way it reads it", () => {
  for (let byte = 0; byte < 256; byte += 1) {
    const colour = [byte / 255, 1 - byte / 255, 0.5] as const;
    expect(asHex(colourIn(asHex(colour)) ?? [9, 9, 9])).toBe(asHex(colour));
  }
  expect(asHex([232 / 255, 201 / 255, 160 / 255])).toBe("#E8C9A0");
});
