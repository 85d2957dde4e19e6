import { fireEvent, render, screen, waitFor } from "@testing-library/react";
import { expect, test } from "vitest";
import { serve, studio } from "../testing";
import { SignIn } from "./SignIn";

const nobody = { person: null, may: [], waits_for: [] as string[], lacks_second: false, mail: false };

test("a second factor is asked for in the words of what is set up, and a wrong code is told", async () => {
  const sent = serve(({ path }) => {
    if (path === "/api/session") return { body: { ...nobody, waits_for: ["recovery_codes", "totp"] } };
    return { status: 400, body: { errors: [{ message: "Incorrect code." }] } };
  });
  render(<SignIn />, { wrapper: studio() });
  const field = await screen.findByLabelText("Code from your app, or a recovery code");
  expect(screen.queryByRole("button", { name: "Use a passkey" })).toBeNull();
  fireEvent.change(field, { target: { value: "12 34 56" } });
  fireEvent.click(screen.getByRole("button", { name: "Go on" }));
  expect((await screen.findByRole("alert")).textContent).toContain("Incorrect code.");
  expect(sent.at(-1)).toEqual({ method: "POST", path: "/api/auth/2fa/authenticate", body: { code: "123456" } });
});

test.each([
  [false, "Ask an admin of your studio"],
  [true, "A link for a new password is sent"],
])("who cannot get in is told what there is, with mail: %s", async (mail, words) => {
  const sent = serve(({ path }) =>
    path === "/api/session" ? { body: { ...nobody, mail } } : { status: 204, body: null },
  );
  render(<SignIn />, { wrapper: studio() });
  await waitFor(() => expect(sent.length).toBe(1));
  fireEvent.click(screen.getByRole("button", { name: "I cannot get in" }));
  expect(await screen.findByText(words, { exact: false })).toBeTruthy();
  if (!mail) return;
  fireEvent.change(screen.getByLabelText("Name or mail address"), { target: { value: "ilse" } });
  fireEvent.click(screen.getByRole("button", { name: "Send the link" }));
  expect((await screen.findByRole("status")).textContent).toContain("If there is such an account");
  expect(sent.at(-1)?.body).toEqual({ name: "ilse" });
});

test.each([
  ["no_group", "in none of the groups"],
  ["unknown", "That did not work"],
])("who came from elsewhere and is not let in for %s is told, and can try again", async (code, words) => {
  window.history.replaceState(null, "", `/?error=${code}`);
  const sent = serve(({ path }) =>
    path === "/api/session"
      ? { body: { ...nobody, elsewhere: "Salt House" } }
      : { status: 422, body: { detail: "Away." } },
  );
  render(<SignIn />, { wrapper: studio() });
  expect((await screen.findByRole("alert")).textContent).toContain(words);
  fireEvent.click(await screen.findByRole("button", { name: "Sign in with Salt House" }));
  await waitFor(() => expect(screen.getByRole("alert").textContent).toContain("Away."));
  expect(sent.at(-1)).toMatchObject({ method: "POST", path: "/api/session/elsewhere" });
  window.history.replaceState(null, "", "/");
});
