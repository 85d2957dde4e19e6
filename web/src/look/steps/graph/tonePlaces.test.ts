import { describe, expect, it } from "vitest";
import { added, moved, type Place } from "./tonePlaces";

const three: Place[] = [
  { at: 0.1, colour: [0, 0, 0.2] },
  { at: 0.3, colour: [0.4, 0.4, 0.4] },
  { at: 0.9, colour: [1, 0.8, 0.6] },
];

describe("colours at their tones", () => {
  it("stay between their neighbours", () => {
    expect(moved(three, 1, 0.95)[1]?.at).toBe(0.89);
    expect(moved(three, 1, 0)[1]?.at).toBe(0.11);
    expect(moved(three, 0, -1)[0]?.at).toBe(0);
    expect(moved(three, 2, 2)[2]?.at).toBe(1);
    expect(moved(three, 1, 0.5)[0]).toBe(three[0]);
  });

  it("get another one in the middle of the widest gap, of the colour there", () => {
    const { places, index } = added(three);
    expect(index).toBe(2);
    expect(places).toHaveLength(4);
    expect(places[2]).toEqual({ at: 0.6, colour: [0.7, 0.6, 0.5] });
  });

  it("begin with black and white", () => {
    expect(added([]).places.map((one) => one.at)).toEqual([0, 1]);
  });
});
