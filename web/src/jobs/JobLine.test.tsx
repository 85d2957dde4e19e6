import { fireEvent, render, screen, waitFor } from "@testing-library/react";
import { describe, expect, it } from "vitest";
import type { Job } from "../api/types";
import { serve, studio } from "../testing";
import { JobLine } from "./JobLine";

const job = (given: Partial<Job>): Job => ({
  id: 3,
  kind: "bake",
  state: "running",
  progress: 0,
  problem: "",
  created: "2026-01-01T00:00:00Z",
  download: "",
  entry: null,
  file_name: "",
  left_out: [],
  may_restart: false,
  page: "",
  picture: null,
  ...given,
});

const line = <JobLine id={3} what="Baking" cancelled="Baking was cancelled; nothing was kept." />;

describe("a job's line", () => {
  it("says that it waits for a worker, then how far it is, then nothing", async () => {
    const states = [job({ state: "waiting" }), job({ progress: 0.4 }), job({ state: "done", progress: 1 })];
    serve(() => ({ body: states.length > 1 ? states.shift() : states[0] }));
    render(line, { wrapper: studio() });
    await screen.findByText("Waiting for a worker…");
    await screen.findByText("Baking…");
    expect(screen.getByLabelText<HTMLProgressElement>("Baking").value).toBeCloseTo(0.4);
    await waitFor(() => expect(screen.queryByRole("status")).toBeNull());
  });

  it("cancels, and says what became of it", async () => {
    let state: Job["state"] = "running";
    const sent = serve(({ method }) => {
      if (method === "POST") state = "cancelled";
      return { body: job({ state }) };
    });
    render(line, { wrapper: studio() });
    fireEvent.click(await screen.findByRole("button", { name: "Cancel" }));
    await screen.findByText("Baking was cancelled; nothing was kept.");
    expect(sent.filter((one) => one.method === "POST").map((one) => one.path)).toEqual(["/api/jobs/3/cancel"]);
    expect(screen.queryByRole("button", { name: "Cancel" })).toBeNull();
  });

  it("says in its own words why it failed", async () => {
    serve(() => ({ body: job({ state: "failed", problem: "Line 12 of tone.cube: two numbers where three belong." }) }));
    render(line, { wrapper: studio() });
    await screen.findByText("Line 12 of tone.cube: two numbers where three belong.");
  });

  it("says why it cannot be cancelled, and goes on", async () => {
    serve(({ method }) =>
      method === "POST"
        ? { status: 403, body: { detail: "Only whoever started a job cancels it." } }
        : { body: job({ progress: 0.2 }) },
    );
    render(line, { wrapper: studio() });
    fireEvent.click(await screen.findByRole("button", { name: "Cancel" }));
    await screen.findByText("Only whoever started a job cancels it.");
    expect(screen.getByText("Baking…")).toBeTruthy();
  });

  it("of no job is nothing, and asks nothing", () => {
    const sent = serve(() => null);
    const { container } = render(<JobLine id={null} what="Baking" cancelled="" />, { wrapper: studio() });
    expect(container.textContent).toBe("");
    expect(sent).toEqual([]);
  });
});
