import { fireEvent, render, screen, waitFor } from "@testing-library/react";
import { describe, expect, it, vi } from "vitest";
import { serve, studio } from "../testing";
import { TakeApart } from "./TakeApart";

const job = (state: string) => ({
  id: 4,
  kind: "apart",
  state,
  progress: 1,
  problem: state === "failed" ? "It is light of a scene." : "",
});

describe("taking a LUT apart", () => {
  it("sends what it is taken for and how simple it may be, and hands the steps on once", async () => {
    const apart = { name: "Print", steps: [] };
    const sent = serve(({ path, method }) => ({
      status: method === "POST" ? 202 : 200,
      body: path === "/api/apart/4" ? apart : job("done"),
    }));
    const onApart = vi.fn();
    render(<TakeApart lut={9} expects="rec709" gives="rec709" label="Take it apart" onApart={onApart} />, {
      wrapper: studio(),
    });
    fireEvent.click(await screen.findByRole("button", { name: "Take it apart" }));
    await waitFor(() => expect(onApart).toHaveBeenCalledWith(apart));
    expect(sent[0]).toMatchObject({
      path: "/api/luts/9/apart",
      body: { simple: 0.3, expects: "rec709", gives: "rec709" },
    });
    expect(onApart).toHaveBeenCalledTimes(1);
  });

  it("begins by itself where it was asked for elsewhere, once", async () => {
    const sent = serve(({ path, method }) => ({
      status: method === "POST" ? 202 : 200,
      body: path === "/api/apart/4" ? { name: "Print", steps: [] } : job("done"),
    }));
    const [onApart, onBegun] = [vi.fn(), vi.fn()];
    const part = (atOnce: boolean) => (
      <TakeApart lut={9} label="Take it apart" atOnce={atOnce} onBegun={onBegun} onApart={onApart} />
    );
    const { rerender } = render(part(true), { wrapper: studio() });
    rerender(part(false));
    await waitFor(() => expect(onApart).toHaveBeenCalledTimes(1));
    expect(onBegun).toHaveBeenCalledTimes(1);
    expect(sent.filter((one) => one.method === "POST")).toHaveLength(1);
  });

  it("says why it cannot be", async () => {
    serve(({ method }) => ({ status: method === "POST" ? 202 : 200, body: job("failed") }));
    const onApart = vi.fn();
    render(<TakeApart lut={9} label="Take it apart" onApart={onApart} />, { wrapper: studio() });
    fireEvent.click(await screen.findByRole("button", { name: "Take it apart" }));
    await screen.findByText("It is light of a scene.");
    expect(onApart).not.toHaveBeenCalled();
    expect(screen.getByRole("button", { name: "Take it apart" })).toBeTruthy();
  });
});
