import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { act, fireEvent, render, screen, waitFor } from "@testing-library/react";
import { describe, expect, it, vi } from "vitest";
import { App } from "./App";
import { serve } from "./testing";
import { SurroundProvider } from "./theme/surround";

vi.mock("./Inside", () => ({ Inside: () => <main>inside</main> }));

const ilse = { username: "ilse", name: "Ilse Harrow", role: "designer" };
const nadia = { username: "nadia", name: "Nadia Quill", role: "viewer" };

function opened(first: object | null) {
  let person = first;
  let refuse = false;
  const sent = serve(({ method, body }) => {
    if (method === "POST" && refuse) return { status: 401, body: { detail: "Name or password is not right." } };
    if (method === "POST") person = (body as { username: string }).username === "nadia" ? nadia : ilse;
    return { body: { person, may: [] } };
  });
  const client = new QueryClient({ defaultOptions: { queries: { retry: false, staleTime: 5000 } } });
  render(
    <QueryClientProvider client={client}>
      <SurroundProvider>
        <App />
      </SurroundProvider>
    </QueryClientProvider>,
  );
  const leave = async () => {
    person = null;
    await act(async () => {
      window.dispatchEvent(new Event("saucer:signed-out"));
      await Promise.resolve();
    });
  };
  return { client, sent, leave, refuseAll: () => (refuse = true) };
}

async function enterAs(name: string) {
  fireEvent.change(await screen.findByLabelText("Name"), { target: { value: name } });
  fireEvent.change(screen.getByLabelText("Password"), { target: { value: "a-long-password" } });
  fireEvent.click(screen.getByRole("button", { name: "Sign in" }));
}

describe("the door", () => {
  it("asks for a name and a password, and lets in", async () => {
    const { sent } = opened(null);
    expect(await screen.findByRole("button", { name: "Sign in" })).toHaveProperty("disabled", true);
    await enterAs("ilse");
    await screen.findByText("inside");
    expect(sent.find((one) => one.method === "POST")?.body).toEqual({ username: "ilse", password: "a-long-password" });
  });

  it("says in words why not, and keeps what was typed", async () => {
    const { refuseAll } = opened(null);
    refuseAll();
    await enterAs("ilse");
    await screen.findByText("Name or password is not right.");
    expect(screen.getByLabelText("Name")).toHaveProperty("value", "ilse");
  });

  it("is there again when the session has ended elsewhere", async () => {
    const { leave } = opened(ilse);
    await screen.findByText("inside");
    await leave();
    await screen.findByRole("button", { name: "Sign in" });
    expect(screen.queryByText("inside")).toBeNull();
  });

  it("lets the next person see nothing of what the last one was shown", async () => {
    const { client, leave } = opened(ilse);
    await screen.findByText("inside");
    client.setQueryData(["shelf", "first"], ["a draft of Ilse's"]);
    await leave();
    await waitFor(() => expect(client.getQueryData(["shelf", "first"])).toBeUndefined());
    client.setQueryData(["pictures"], ["left behind"]);
    await enterAs("nadia");
    await screen.findByText("inside");
    expect(client.getQueryData(["pictures"])).toBeUndefined();
  });
});
