import { fireEvent, render, screen, waitFor, within } from "@testing-library/react";
import { expect, test } from "vitest";
import type { Door, ShownPage, ShownThing } from "../api/types";
import { serve, studio, type Sent } from "../testing";
import { VisitPage } from "./VisitPage";

const CODE = "abc-1";
const door: Door = {
  studio: "Salt House",
  by: "Ilse",
  shows: "board",
  asks_password: false,
  name: "Wren",
  until: "2027-01-31",
};
const thing = (id: number, name: string, more: Partial<ShownThing> = {}): ShownThing => ({
  kind: "entry",
  id,
  name,
  group: "",
  shows: "2",
  sides: 0,
  choice: "",
  ...more,
});
const page: ShownPage = {
  title: "Evenings",
  words: "Before Friday",
  stamped: false,
  things: [thing(4, "Hearth"), thing(5, "Tide")],
  pictures: [
    { id: 7, name: "Quay", sides: 1.5 },
    { id: 8, name: "Room", sides: 0.75 },
  ],
  remarks: [],
};
const shot = (id: number, name: string, group: string) => thing(id, name, { kind: "shot", group, sides: 1.5 });

function opened(given: { door?: Partial<Door>; page?: Partial<ShownPage>; status?: number }): Sent[] {
  let name = given.door?.name === undefined ? door.name : given.door.name;
  const sent = serve(({ method, path, body }) => {
    if (path === `/api/guest/${CODE}/shown`) return { body: { ...page, ...given.page } };
    if (path === `/api/guest/${CODE}` && method === "POST") {
      if (given.status) return { status: given.status, body: { detail: "This is not the password of this link." } };
      ({ name } = body as { name: string });
    }
    if (path === `/api/guest/${CODE}`) return { body: { ...door, ...given.door, name } };
    if (path.endsWith("/remarks")) return { body: { id: 1 } };
    return { status: 204, body: null };
  });
  render(<VisitPage code={CODE} />, { wrapper: studio() });
  return sent;
}
const changes = (sent: readonly Sent[]) =>
  sent.filter((one) => one.method !== "GET").map((one) => [one.method, one.path, one.body]);

test("who comes says a name, and then sees what is shown", async () => {
  const sent = opened({ door: { name: null } });
  expect(await screen.findByText(/shows you some looks beside each other, until 2027-01-31/)).toBeTruthy();
  expect(screen.queryByLabelText("Password that you were given")).toBeNull();
  expect(sent.some((one) => one.path.endsWith("/shown"))).toBe(false);
  fireEvent.change(screen.getByLabelText(/^Your name/), { target: { value: "Wren" } });
  fireEvent.click(screen.getByRole("button", { name: "Look" }));
  expect(await screen.findByText("Before Friday")).toBeTruthy();
  expect(changes(sent)).toEqual([["POST", `/api/guest/${CODE}`, { name: "Wren", password: "" }]]);
  expect(screen.getByText("Salt House, open until 2027-01-31, you are Wren")).toBeTruthy();
});

test("a wrong password is told where it is typed", async () => {
  opened({ door: { name: null, asks_password: true }, status: 403 });
  fireEvent.change(await screen.findByLabelText(/^Your name/), { target: { value: "Wren" } });
  fireEvent.change(screen.getByLabelText("Password that you were given"), { target: { value: "wrong" } });
  fireEvent.click(screen.getByRole("button", { name: "Look" }));
  expect((await screen.findByRole("alert")).textContent).toContain("not the password of this link");
});

test("a link that is over says so, and nothing else", async () => {
  serve(() => ({ status: 404, body: { detail: "This link was revoked." } }));
  render(<VisitPage code={CODE} />, { wrapper: studio() });
  expect((await screen.findByRole("alert")).textContent).toContain("This link was revoked.");
  expect(screen.queryByRole("textbox")).toBeNull();
});

test("each entry is seen on every picture, and judged once", async () => {
  const sent = opened({ page: { things: [thing(4, "Hearth", { choice: "yes" }), thing(5, "Tide")] } });
  const row = await screen.findByRole("region", { name: "Tide" });
  const sources = within(row)
    .getAllByRole("img")
    .map((one) => one.getAttribute("src"));
  expect(sources).toEqual([
    `/api/guest/${CODE}/entry/5/preview.jpg?state=2&picture=7`,
    `/api/guest/${CODE}/entry/5/preview.jpg?state=2&picture=8`,
  ]);
  fireEvent.click(within(row).getByRole("button", { name: "No" }));
  await waitFor(() => expect(changes(sent)).toEqual([["PUT", `/api/guest/${CODE}/entry/5/verdict`, { choice: "no" }]]));
  const first = screen.getByRole("region", { name: "Hearth" });
  expect(within(first).getByRole("button", { name: "Yes" }).getAttribute("aria-pressed")).toBe("true");
  fireEvent.click(within(first).getByRole("button", { name: "Yes" }));
  await waitFor(() => expect(changes(sent)[1]).toEqual(["PUT", `/api/guest/${CODE}/entry/4/verdict`, { choice: "" }]));
});

test("shots stand under their scenes", async () => {
  opened({ page: { pictures: [], things: [shot(1, "q1", "Quay"), shot(2, "q2", "Quay"), shot(3, "r1", "Room")] } });
  const quay = await screen.findByRole("region", { name: "Quay" });
  expect(within(quay).getAllByRole("button", { name: /larger$/ })).toHaveLength(2);
  expect(within(screen.getByRole("region", { name: "Room" })).getAllByRole("img")).toHaveLength(1);
});

test("near, a place that is pressed is spoken of, and one goes round through all", async () => {
  const remark = {
    id: 9,
    kind: "shot" as const,
    of: 1,
    words: "Cold",
    picture: null,
    frame: null,
    x: 0.1,
    y: 0.2,
    at: "2026-12-01T10:00:00Z",
  };
  const sent = opened({
    page: { pictures: [], things: [shot(1, "q1", "Quay"), shot(2, "q2", "Quay")], remarks: [remark] },
  });
  fireEvent.click(await screen.findByRole("button", { name: "q1, larger" }));
  const near = await screen.findByRole("dialog");
  expect(within(near).getByText("1 of 2")).toBeTruthy();
  expect(within(near).getByText("Cold")).toBeTruthy();
  const picture = within(near).getByRole("img");
  expect(picture.getAttribute("src")).toContain("large=true");
  picture.getBoundingClientRect = () => ({ left: 100, top: 50, width: 400, height: 200 }) as DOMRect;
  fireEvent.click(picture, { clientX: 300, clientY: 100 });
  fireEvent.change(within(near).getByLabelText("What about this place?"), { target: { value: "Warmer" } });
  fireEvent.click(within(near).getByRole("button", { name: "Say it" }));
  await waitFor(() =>
    expect(changes(sent)).toEqual([
      ["POST", `/api/guest/${CODE}/shot/1/remarks`, { words: "Warmer", frame: null, x: 0.5, y: 0.25, picture: null }],
    ]),
  );
  await within(near).findByLabelText("What do you say of it?");
  fireEvent.click(within(near).getByRole("button", { name: "Take back" }));
  await waitFor(() => expect(changes(sent)[1]?.slice(0, 2)).toEqual(["DELETE", `/api/guest/${CODE}/remarks/9`]));
  fireEvent.click(within(near).getByRole("button", { name: "The one before" }));
  expect(await screen.findByText("2 of 2")).toBeTruthy();
});

test("a shot that moves is gone through frame by frame, and a frame is spoken of", async () => {
  const clip = { ...shot(1, "c1", "Quay"), first: 10, last: 13, poster: 11 };
  const before = {
    id: 9,
    kind: "shot" as const,
    of: 1,
    words: "Here",
    picture: null,
    frame: 13,
    x: 0.1,
    y: 0.2,
    at: "",
  };
  const sent = opened({ page: { pictures: [], things: [clip], remarks: [before] } });
  fireEvent.click(await screen.findByRole("button", { name: "c1, larger" }));
  const near = await screen.findByRole("dialog");
  const frame = () =>
    new URLSearchParams(within(near).getByRole("img").getAttribute("src")?.split("?")[1]).get("frame");
  expect(frame()).toBe("11");
  expect(within(near).getByText("2 of 4")).toBeTruthy();
  const slider = within(near).getByRole("slider", { name: "Frame" });
  fireEvent.change(slider, { target: { value: "3" } });
  fireEvent.change(slider, { target: { value: "4" } });
  expect(frame()).toBe("11"); // one is on its way
  fireEvent.load(within(near).getByRole("img"));
  await waitFor(() => expect(frame()).toBe("13"));
  fireEvent.change(slider, { target: { value: "1" } });
  fireEvent.click(within(near).getByRole("button", { name: "4" }));
  expect(within(near).getByText("4 of 4")).toBeTruthy();
  fireEvent.change(within(near).getByLabelText("What do you say of it?"), { target: { value: "Hold it" } });
  fireEvent.click(within(near).getByRole("button", { name: "Say it" }));
  await waitFor(() => expect(changes(sent)[0]?.[2]).toEqual({ words: "Hold it", frame: 13 }));
});
