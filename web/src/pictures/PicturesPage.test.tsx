import { fireEvent, render, screen, waitFor, within } from "@testing-library/react";
import { MemoryRouter } from "react-router";
import { describe, expect, it } from "vitest";
import type { Picture } from "../api/types";
import { serve, studio } from "../testing";
import { PicturesPage } from "./PicturesPage";

const picture = (id: number, name: string, more: Partial<Picture> = {}) =>
  ({
    id,
    name,
    file_name: `${name}.png`,
    width: 960,
    height: 540,
    kind: "png",
    depth: "u16",
    state: "a",
    encoding: "srgb",
    white: 0,
    moving: null,
    mended: 0,
    note: "",
    stated: "",
    may_change: true,
    test: false,
    of_shots: false,
    passing: false,
    ...more,
  }) as Picture;

function opened(pictures: Picture[], answer: { status?: number; body: unknown } = { body: picture(1, "Quay") }) {
  const sent = serve(({ path, method }) => {
    if (method !== "GET") return answer;
    if (path.endsWith("/pictures")) return { body: pictures };
    if (path.endsWith("/encodings"))
      return {
        body: [
          { id: "srgb", name: "sRGB" },
          { id: "s-log3", name: "S-Log3" },
        ],
      };
    if (path.includes("/jobs/")) return { body: { id: 4, state: "running", progress: 0.2, kind: "picture" } };
    return { body: { person: null, may: ["design"] } };
  });
  const Studio = studio();
  render(
    <MemoryRouter>
      <Studio>
        <PicturesPage />
      </Studio>
    </MemoryRouter>,
  );
  return () => sent.filter((one) => one.method !== "GET").map((one) => [one.method, one.path, one.body]);
}

const named = () => screen.queryAllByRole("img").map((one) => one.getAttribute("alt"));

describe("the pictures", () => {
  it("leave out what is passing, and shots of projects until they are asked for", async () => {
    opened([
      picture(1, "Quay", { test: true, of_shots: true }),
      picture(2, "Shot one", { of_shots: true }),
      picture(3, "Frame", { passing: true }),
      picture(4, "Own"),
    ]);
    await waitFor(() => expect(named()).toEqual(["Quay", "Own"]));
    fireEvent.click(screen.getByRole("checkbox", { name: "With the 1 that are shots of projects" }));
    expect(named()).toEqual(["Quay", "Shot one", "Own"]);
  });

  it("tell what was mended and noted as a file came in", async () => {
    opened([picture(1, "Quay", { kind: "openexr", mended: 12, note: "Alpha is carried" })]);
    await screen.findByText(/EXR.*12 pixels that were not finite · Alpha is carried/);
  });

  it("go and come back", async () => {
    const changes = opened([picture(7, "Quay")], { status: 204, body: null });
    fireEvent.click(await screen.findByRole("button", { name: "Delete Quay" }));
    fireEvent.click(await screen.findByRole("button", { name: "Bring it back" }));
    await waitFor(() =>
      expect(changes()).toEqual([
        ["DELETE", "/api/pictures/7", null],
        ["POST", "/api/pictures/7/restore", null],
      ]),
    );
    await waitFor(() => expect(screen.queryByText(/was deleted/)).toBeNull());
  });

  it("say why one stays", async () => {
    opened([picture(7, "Quay")], { status: 422, body: { detail: "It stands in the board Harbour." } });
    fireEvent.click(await screen.findByRole("button", { name: "Delete Quay" }));
    await screen.findByText("It stands in the board Harbour.");
    expect(screen.queryByText(/was deleted/)).toBeNull();
  });

  it("are said to be in another encoding; a large one by a job that is waited for", async () => {
    const changes = opened([picture(7, "Quay")], {
      status: 202,
      body: { id: 4, state: "waiting", progress: 0, kind: "picture" },
    });
    fireEvent.click(await screen.findByRole("button", { name: /Encoding of Quay/ }));
    fireEvent.click(await screen.findByRole("option", { name: "S-Log3" }));
    await waitFor(() => expect(changes()).toEqual([["PATCH", "/api/pictures/7", { encoding: "s-log3" }]]));
    await screen.findByText(/Reading it anew/);
  });

  it("of a camera's raw data are balanced as it said, or to a chosen white", async () => {
    const changes = opened([
      picture(7, "Quay", { kind: "raw" }),
      picture(8, "Lamp", { kind: "raw", white: 3200 }),
      picture(9, "Room"),
    ]);
    fireEvent.click(await screen.findByRole("checkbox", { name: "White as its camera said", checked: true }));
    await waitFor(() => expect(changes()).toEqual([["PATCH", "/api/pictures/7", { white: 5500 }]]));
    const kelvin = screen.getByRole("textbox", { name: "White of Lamp, kelvin" });
    for (let presses = 0; presses < 3; presses += 1) fireEvent.keyDown(kelvin, { key: "ArrowUp" });
    expect(kelvin).toHaveProperty("value", "3500");
    // Reading a file anew takes a while: only where the keys came to rest is asked for.
    await waitFor(() => expect(changes().slice(1)).toEqual([["PATCH", "/api/pictures/8", { white: 3500 }]]));
    expect(screen.getByText(/RAW, 16 bit, white 3200 K/)).toBeTruthy();
    expect(screen.queryByRole("group", { name: "White of Room" })).toBeNull();
  });

  it("of others are there to be looked at, with nothing to change", async () => {
    opened([picture(7, "Quay", { may_change: false })]);
    const card = (await screen.findByRole("img", { name: "Quay" })).closest("li");
    expect(card && within(card).queryAllByRole("button")).toEqual([]);
    await screen.findByText("sRGB");
  });

  it("are dropped where there are none yet", async () => {
    const sent = opened([], { body: { pictures: [4], left_out: ["odd.gif: no picture that is read here"] } });
    const place = await screen.findByRole("button", { name: /Drop pictures and clips here/ });
    const field = place.parentElement?.querySelector("input[type=file]");
    expect(field).not.toBeNull();
    if (field)
      fireEvent.change(field, { target: { files: [new File(["x"], "quay.png"), new File(["y"], "odd.gif")] } });
    expect((await screen.findByRole("alert")).textContent).toContain("odd.gif: no picture");
    expect(sent().map(([method, path]) => [method, path])).toEqual([["POST", "/api/footage"]]);
  });
});
