import { beforeEach, describe, expect, it, vi } from "vitest";
import type { Look, Picture } from "../../api/types";
import type { Painter } from "../../look/frames/painter";
import { fromSearch, ViewStore } from "../../look/view/view";
import { pinInView } from "./pinning";

const quay = { id: 4, name: "Quay" } as Picture;
const salt: Look = { name: "Salt", steps: [] };
const painterOf = (look: Look | null) => ({ lookOf: () => look, frameOf: () => 7 }) as unknown as Painter;

beforeEach(() => localStorage.clear());

describe("pinning what is in view", () => {
  it("keeps it as it is seen, with the look as it stood, and stands it beside", () => {
    const view = new ViewStore(fromSearch(new URLSearchParams()));
    const said = vi.fn();
    pinInView(view, painterOf(salt), quay, said);
    expect(view.get()).toMatchObject({
      mode: "beside",
      against: "reference",
      reference: { picture: 4, look: salt, at: 7, read_as: "", name: "Quay, through Salt" },
    });
    expect(said).toHaveBeenCalledWith("Pinned: Quay, through Salt");
    expect(fromSearch(new URLSearchParams()).reference?.name, "other looks are held against it too").toBe(
      "Quay, through Salt",
    );
  });

  it("while the original is held, keeps the picture as it came", () => {
    const view = new ViewStore(fromSearch(new URLSearchParams()));
    view.set({ held: true });
    pinInView(view, painterOf(salt), quay, vi.fn());
    expect(view.get().reference).toMatchObject({ look: null, name: "Quay, as it came" });
  });

  it("does nothing without a picture, or where what is seen is not there yet", () => {
    const view = new ViewStore(fromSearch(new URLSearchParams()));
    pinInView(view, painterOf(salt), undefined, vi.fn());
    pinInView(view, painterOf(null), quay, vi.fn());
    expect(view.get().reference).toBeNull();
  });
});
