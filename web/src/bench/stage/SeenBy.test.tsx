import { fireEvent, render, screen } from "@testing-library/react";

import { describe, expect, it } from "vitest";
import type { Look, Picture } from "../../api/types";
import type { BenchStore } from "../../look/store";
import { BenchContext } from "../../look/useBench";
import { benchOf, serve, studio } from "../../testing";
import { SeenBy } from "./SeenBy";

const encodings = [
  { id: "srgb", name: "sRGB", referred: "display" },
  { id: "rec709", name: "Rec.709", referred: "display" },
  { id: "s-log3", name: "S-Log3", referred: "scene" },
];

function shown(look: Look, encoding: string, mayEdit = true): BenchStore {
  serve(({ path }) => ({ body: path === "/api/encodings" ? encodings : { person: null, view: "soft" } }));
  const bench = benchOf(look, mayEdit);
  const Studio = studio();
  render(
    <Studio>
      <BenchContext value={bench}>
        <SeenBy picture={{ id: 1, encoding } as Picture} />
        <p>here</p>
      </BenchContext>
    </Studio>,
  );
  return bench.store;
}

describe("the view that a look is seen by", () => {
  it.each([
    ["a log picture", { steps: [] }, "s-log3"],
    ["a log look", { input: "s-log3", output: "s-log3", steps: [] }, "srgb"],
    ["a LUT in a group", { steps: [{ kind: "group", steps: [{ kind: "lut", expects: "s-log3" }] }] }, "srgb"],
    ["a conversion", { steps: [{ kind: "convert", to: "s-log3" }] }, "srgb"],
  ] as [string, Look, string][])("is told for %s, and that the studio's is another", async (_, look, encoding) => {
    shown(look, encoding);
    expect((await screen.findByTestId("seen-by")).textContent).toContain("seen plainly");
    expect(await screen.findByText(/studio: softly/)).toBeTruthy();
  });

  it("is changed as a step of the look's own history", async () => {
    const store = shown({ input: "s-log3", output: "s-log3", steps: [] }, "s-log3");
    fireEvent.click(await screen.findByTestId("seen-by"));
    expect(store.get().look.view).toBe("soft");
    expect(store.get().past.at(-1)?.name).toBe("See softly");
    expect(screen.getByTestId("seen-by").textContent).toBe("seen softly");
    store.dispatch({ type: "undo" });
    expect(store.get().look.view ?? "plain").toBe("plain");
  });

  it("is only told to those who may not change the look", async () => {
    shown({ view: "soft", input: "s-log3", output: "s-log3", steps: [] }, "s-log3", false);
    expect((await screen.findByTestId("seen-by")).tagName).toBe("SPAN");
  });

  it("is not spoken of where no scene's light takes part", async () => {
    shown({ steps: [{ kind: "lut", expects: "rec709" }] }, "srgb");
    await screen.findByText("here");
    await new Promise((done) => setTimeout(done, 50));
    expect(screen.queryByTestId("seen-by")).toBeNull();
  });
});
