import { fireEvent, render, screen, waitFor } from "@testing-library/react";
import { describe, expect, it } from "vitest";
import { serve, studio } from "../testing";
import { Unreadable } from "./Unreadable";

const ROW = {
  kind: "entry",
  key: "7",
  name: "preset 7 Dusk",
  problem: "may_pass_on is none of these",
  at: "2026-01-01",
};

function withUnreadable(unreadable: number) {
  return serve(({ path }) => ({
    body: path === "/api/unreadable" ? [ROW] : { person: null, may: ["administer"], unreadable },
  }));
}

describe("what lists leave out because it cannot be read", () => {
  it("is told with its reason, and asked for only when somebody looks", async () => {
    const sent = withUnreadable(1);
    render(<Unreadable />, { wrapper: studio() });
    const sign = await screen.findByRole("button", { name: "1 thing cannot be read" });
    expect(sent.map((one) => one.path)).not.toContain("/api/unreadable");
    fireEvent.click(sign);
    expect(await screen.findByText("may_pass_on is none of these")).toBeTruthy();
    expect(screen.getByText("preset 7 Dusk")).toBeTruthy();
  });

  it("shows nothing where there is nothing", async () => {
    const sent = withUnreadable(0);
    render(<Unreadable />, { wrapper: studio() });
    await waitFor(() => expect(sent.length).toBeGreaterThan(0));
    expect(screen.queryByRole("button")).toBeNull();
  });
});
