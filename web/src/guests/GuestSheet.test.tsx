import { fireEvent, render, screen, waitFor } from "@testing-library/react";
import { expect, test, vi } from "vitest";
import { serve, studio } from "../testing";
import { GuestSheet } from "./GuestSheet";

const link = {
  id: 3,
  shows: "board",
  title: "Evenings",
  until: "2027-01-31",
  has_password: true,
  stamp: true,
  by: "Ilse",
  made: "2026-12-01T10:00:00Z",
  is_open: true,
  came: 2,
  may_revoke: true,
};

test("a link is made on terms, told once, and those of before are listed and revoked", async () => {
  const sent = serve(({ method, path }) => {
    if (path === "/api/pictures") return { body: [] };
    if (method === "POST") return { body: { link, address: "/guest/abc" } };
    if (method === "DELETE") return { status: 204, body: null };
    return {
      body: [link, { ...link, id: 2, is_open: false, may_revoke: false, came: 0, has_password: false, stamp: false }],
    };
  });
  const onClose = vi.fn();
  render(<GuestSheet shows={{ board: 9 }} name="Evenings" onClose={onClose} />, { wrapper: studio() });
  await screen.findByText("with a password, names in the pictures");
  expect(screen.getByText("closed")).toBeTruthy();
  expect(screen.getAllByRole("button", { name: /^Revoke/ })).toHaveLength(1);
  fireEvent.change(screen.getByLabelText("Open until, 92 days at most"), { target: { value: "2026-12-31" } });
  fireEvent.change(screen.getByLabelText(/^Password/), { target: { value: "salt-and-ink" } });
  fireEvent.click(screen.getByLabelText("Write the name of who looks across every picture"));
  fireEvent.click(screen.getByRole("button", { name: "Make the link" }));
  expect((await screen.findByLabelText("The address")).textContent).toBe(`${window.location.origin}/guest/abc`);
  expect(sent.find((one) => one.method === "POST")?.body).toEqual({
    board: 9,
    until: "2026-12-31",
    password: "salt-and-ink",
    words: "",
    stamp: true,
  });
  fireEvent.click(screen.getByRole("button", { name: /^Revoke/ }));
  await waitFor(() => expect(sent.find((one) => one.method === "DELETE")?.path).toBe("/api/guests/links/3"));
  fireEvent.click(screen.getByRole("button", { name: "Done" }));
  expect(onClose).toHaveBeenCalledOnce();
});

test("chosen entries need a name and a picture before they are shown", async () => {
  const picture = {
    id: 7,
    name: "Quay",
    file_name: "quay.png",
    passing: false,
    added: "2026-12-01T10:00:00Z",
    folder: "",
  };
  const sent = serve(({ method, path }) => {
    if (path === "/api/pictures") return { body: [picture] };
    return method === "POST" ? { body: { link, address: "/guest/abc" } } : { body: [] };
  });
  render(<GuestSheet shows={{ entries: [4, 5] }} name="2 entries" onClose={vi.fn()} />, { wrapper: studio() });
  const make = await screen.findByRole("button", { name: "Make the link" });
  expect(make.hasAttribute("disabled")).toBe(true);
  await screen.findByRole("option", { name: /Quay/ });
  fireEvent.change(screen.getByLabelText("What is it called?"), { target: { value: "First choice" } });
  fireEvent.click(make);
  await screen.findByLabelText("The address");
  expect(sent.find((one) => one.method === "POST")?.body).toMatchObject({
    gallery: { name: "First choice", entries: [4, 5], pictures: [7] },
  });
});
