import { describe, expect, it } from "vitest";
import api from "../../../openapi.json";
import { pictureFormats } from "../../media/pictureFormats";
import { depthsOf, readChoices } from "./choices";

describe("how graded pictures are taken", () => {
  it("is what was chosen last, as far as it still is a choice", () => {
    expect(readChoices(null)).toEqual({ format: "", depth: "", encoding: "" });
    expect(readChoices({ format: "tiff", depth: "f32", encoding: "rec709" })).toEqual({
      format: "tiff",
      depth: "f32",
      encoding: "rec709",
    });
    expect(readChoices({ format: "jpeg", depth: "u16", encoding: 4 })).toEqual({
      format: "jpeg",
      depth: "",
      encoding: "",
    });
    expect(readChoices("gif")).toEqual({ format: "", depth: "", encoding: "" });
  });

  it("is offered as the server takes it, with the depths that a format holds", () => {
    const { format } = api.components.schemas.GradedWork.properties;
    expect(pictureFormats.map((one) => one.id).sort()).toEqual([...format.enum].sort());
    expect(depthsOf("openexr").map((one) => one.id)).toEqual(["", "f16", "f32"]);
  });
});
