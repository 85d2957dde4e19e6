import { describe, expect, it } from "vitest";
import { EVERYWHERE, liesIn, narrowed, STARRED } from "../../entries/within";
import { arrangeFound, inOrderOfWork, type Candidate } from "./candidates";

const one = (section: Candidate["section"], name: string, note = ""): Candidate => ({
  id: `${section} ${name}`,
  section,
  name,
  note,
  steps: [],
});

const ALL = [
  one("Steps", "Curves", "tone and colour by points"),
  one("Steps", "Tone", "exposure, contrast, shadows and highlights"),
  one("Steps", "Split tone", "a hue for shadows and one for lights"),
  one("Presets", "Tonal lift", "favourite · Tone"),
  one("LUTs", "Harbour print", "33 points Tone"),
];
const names = (search: string) =>
  arrangeFound(ALL, search).map((section) => [section.name, ...section.items.map((item) => item.name)]);

describe("what is found among what can be added", () => {
  it("begins with what is called so", () =>
    expect(names("tone")).toEqual([
      ["Steps", "Tone", "Split tone", "Curves"],
      ["Presets", "Tonal lift"],
      ["LUTs", "Harbour print"],
    ]));

  it("puts the section first whose first name fits best", () =>
    expect(names("harb")).toEqual([["LUTs", "Harbour print"]]));

  it("puts the section that is meant first where nothing is searched", () => {
    expect(arrangeFound(ALL, "", "LUTs").map((one) => one.id)).toEqual(["LUTs", "Steps", "Presets"]);
    expect(arrangeFound(ALL, "tonal", "LUTs").map((one) => one.id)).toEqual(["Presets"]);
  });

  it("lists kinds in the order of work, the one used last first", () => {
    const kinds = ["grain", "wash", "curves", "split-tone", "white-balance"].map((kind) => ({ kind }));
    const order = (last?: string) => inOrderOfWork(kinds, last).map((one) => one.kind);
    expect(order()).toEqual(["white-balance", "curves", "split-tone", "wash", "grain"]);
    expect(order("wash")[0]).toBe("wash");
  });

  it("lies in a folder and what is above it, not in one that only begins so", () => {
    const found = (category: string, favourite = false) =>
      [EVERYWHERE, STARRED, "Film", "Film/Prints"].filter((within) => liesIn({ category, favourite }, within));
    expect(found("")).toEqual([EVERYWHERE]);
    expect(found("", true)).toEqual([EVERYWHERE, STARRED]);
    expect(found("Film")).toEqual([EVERYWHERE, "Film"]);
    expect(found("Film/Prints")).toEqual([EVERYWHERE, "Film", "Film/Prints"]);
    expect(found("Filmed")).toEqual([EVERYWHERE]);
    expect([EVERYWHERE, STARRED, "Film"].map(narrowed)).toEqual([{}, { favourite: true }, { categories: ["Film"] }]);
  });

  it("takes the words in any order and any case", () => expect(names("TONE split")).toEqual([["Steps", "Split tone"]]));

  it("is everything where nothing is asked, and nothing where nothing fits", () => {
    expect(names("").flat()).toHaveLength(3 + ALL.length);
    expect(names("grain")).toEqual([]);
  });
});
