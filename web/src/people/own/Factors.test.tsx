import { fireEvent, render, screen, waitFor } from "@testing-library/react";
import { expect, test } from "vitest";
import { serve, studio, type Answer, type Sent } from "../../testing";
import { Factors } from "./Factors";

const wants = { status: 401, body: { meta: { is_authenticated: true }, data: { flows: [{ id: "reauthenticate" }] } } };

/** A server that wants the password said again before anything is changed. */
function careful(then: Answer): { sent: Sent[] } {
  let said = false;
  const sent = serve((one) => {
    if (one.path === "/api/auth/factors") return { body: { data: [] } };
    if (one.path === "/api/auth/reauthenticate") {
      const right = (one.body as { password: string }).password === "the right one";
      said = said || right;
      return right ? { body: { data: {} } } : { status: 400, body: { errors: [{ message: "Incorrect password." }] } };
    }
    if (one.method !== "GET" && !said) return wants;
    return then(one);
  });
  return { sent };
}

test("what was begun goes on once the password was said again, and a wrong one is told", async () => {
  const { sent } = careful(({ path, method }) => {
    if (path.endsWith("totp") && method === "GET")
      return { status: 404, body: { meta: { secret: "ABCDEFGHIJKL", totp_url: "" } } };
    if (path.endsWith("totp")) return { body: { data: { type: "totp" } } };
    return { body: { data: { unused_codes: ["11112222", "33334444"] } } };
  });
  render(<Factors />, { wrapper: studio() });
  fireEvent.click(await screen.findByRole("button", { name: "Set up an app" }));
  expect(await screen.findByText("ABCD EFGH IJKL")).toBeTruthy();
  fireEvent.change(screen.getByLabelText("Code"), { target: { value: "123 456" } });
  fireEvent.click(screen.getByRole("button", { name: "Set it up" }));
  const field = await screen.findByLabelText("Your password, once more");
  fireEvent.change(field, { target: { value: "wrong" } });
  fireEvent.click(screen.getByRole("button", { name: "Go on" }));
  expect((await screen.findByRole("alert")).textContent).toContain("Incorrect password.");
  fireEvent.change(field, { target: { value: "the right one" } });
  fireEvent.click(screen.getByRole("button", { name: "Go on" }));
  await waitFor(() =>
    expect(screen.getAllByRole("listitem").map((one) => one.textContent)).toEqual(["11112222", "33334444"]),
  );
  const codes = sent.filter((one) => one.path.endsWith("totp") && one.method === "POST").map((one) => one.body);
  expect(codes).toEqual([{ code: "123456" }, { code: "123456" }]);
});

test("a browser that knows no keys is offered none", async () => {
  serve(() => ({ body: { data: [] } }));
  render(<Factors />, { wrapper: studio() });
  expect(await screen.findByRole("button", { name: "Set up an app" })).toBeTruthy();
  expect(screen.queryByRole("button", { name: "Add a passkey" })).toBeNull();
});

test("what there is is listed, with what can be done to each", async () => {
  serve(() => ({
    body: {
      data: [
        { type: "totp", created_at: 1, last_used_at: null },
        { type: "webauthn", id: 4, name: "Key on the ring", created_at: 1, last_used_at: 2 },
        { type: "recovery_codes", created_at: 1, last_used_at: null, unused_code_count: 7 },
      ],
    },
  }));
  render(<Factors />, { wrapper: studio() });
  expect(await screen.findByText("7 left")).toBeTruthy();
  expect(screen.getByRole("button", { name: "Remove Passkey Key on the ring" })).toBeTruthy();
  expect(screen.getByRole("button", { name: "Make new ones" })).toBeTruthy();
  expect(screen.queryByRole("button", { name: "Set up an app" })).toBeNull();
});
