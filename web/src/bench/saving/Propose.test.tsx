import { fireEvent, render, screen, waitFor } from "@testing-library/react";
import { describe, expect, it } from "vitest";
import { serve, studio } from "../../testing";
import { Propose } from "./Propose";

function opened(versions: object[]) {
  const sent = serve(({ method }) =>
    method === "GET" ? { body: { versions, reviews: [], pins: [], may_remark: true } } : { body: {} },
  );
  render(<Propose look={4} />, { wrapper: studio() });
  return sent;
}
const version = (number: number, state: string, next: string[]) => ({ number, state, next });

describe("proposing from the Bench", () => {
  it("gives the latest version with a word, by Enter", async () => {
    const sent = opened([version(2, "draft", ["proposed"]), version(1, "published", ["retired"])]);
    fireEvent.click(await screen.findByRole("button", { name: "Propose version 2" }));
    const field = await screen.findByRole("textbox");
    fireEvent.change(field, { target: { value: "For the ferry" } });
    if (field instanceof HTMLInputElement && field.form) fireEvent.submit(field.form);
    await waitFor(() => expect(sent.filter((one) => one.method === "POST")).toHaveLength(1));
    const [{ path, body } = { path: "", body: null }] = sent.filter((one) => one.method === "POST");
    expect(path).toBe("/api/review/look/4/2");
    expect(body).toEqual({ to: "proposed", words: "For the ferry" });
  });

  it.each([
    ["waits already", [version(2, "proposed", ["draft"])]],
    ["is published", [version(2, "published", ["retired"])]],
    ["is not there", []],
  ])("is not offered where a version %s", async (_, versions) => {
    const sent = opened(versions);
    await waitFor(() => expect(sent).toHaveLength(1));
    await new Promise((done) => setTimeout(done, 20));
    expect(screen.queryByRole("button")).toBeNull();
  });
});
