import { describe, expect, it } from "vitest";
import type { DescribedPath } from "../../api/types";
import { fits, takenBy } from "./finding";

const call: DescribedPath = {
  group: "luts",
  method: "POST",
  path: "/api/v1/luts",
  words: "A LUT is put onto the Shelf.",
  takes: "bring in",
  is_open: false,
  fields: [],
  files: ["file"],
  body: "",
  answer: "",
  example: "",
};

describe("calls of the API", () => {
  it.each([
    ["", "", true],
    ["shelf LUT", "", true],
    ["post luts", "", true],
    ["v1/luts", "bring in", true],
    ["shelf", "read", false],
    ["delete", "", false],
  ])("are found by %j and %j: %s", (words, scope, found) => {
    expect(fits(call, words, scope)).toBe(found);
  });

  it("say what lets a program call them", () => {
    expect(takenBy(call)).toBe("bring in");
    expect(takenBy({ ...call, takes: "" })).toBe("in person");
    expect(takenBy({ ...call, takes: "", is_open: true })).toBe("anybody");
  });
});
