import { fireEvent, render, screen, waitFor } from "@testing-library/react";
import { describe, expect, it, vi } from "vitest";
import type { Project } from "../../api/types";
import { serve, studio } from "../../testing";
import { TimelineSheet } from "./TimelineSheet";

const HELD = {
  events: [
    { name: "QUAY", media: "quay.mov", picture: 4, first: 5, last: 16, cdl: true, words: "", in_folder: false },
    {
      name: "GULL",
      media: "gull.mov",
      picture: null,
      first: null,
      last: null,
      cdl: false,
      words: "not here",
      in_folder: false,
    },
  ],
};
const job = (state: string) => ({ id: 12, kind: "timeline", state, progress: 0.1, problem: "", left_out: [] });

function open() {
  const onTaken = vi.fn();
  const sheet = <TimelineSheet project={{ id: 7 } as Project} onClose={() => undefined} onTaken={onTaken} />;
  render(sheet, { wrapper: studio() });
  const chooser = document.querySelector<HTMLInputElement>("input[type=file]");
  if (!chooser) throw new Error("no place for a file");
  fireEvent.change(chooser, { target: { files: [new File(["TITLE: FERRY"], "ferry.edl")] } });
  return onTaken;
}

describe("shots out of a timeline", () => {
  it("shows what a small one holds and sends it to be taken", async () => {
    const sent = serve(({ path }) => ({ body: path.endsWith("/look") ? HELD : { shots: [31], left_out: [] } }));
    const onTaken = open();
    expect(await screen.findByText("5 to 16")).toBeTruthy();
    expect(screen.getByText("Left out: not here")).toBeTruthy();
    fireEvent.click(screen.getByRole("button", { name: "Bring in 1" }));
    await waitFor(() => expect(onTaken).toHaveBeenCalledWith([31]));
    expect(sent.map((one) => one.path)).toEqual(["/api/projects/7/timeline/look", "/api/projects/7/timeline"]);
  });

  it("waits for the job that reads a large one, and takes what that has read", async () => {
    const states = [job("running"), job("done")];
    const sent = serve(({ path }) => {
      if (path.endsWith("/look")) return { status: 202, body: job("waiting") };
      if (path.startsWith("/api/jobs/")) return { body: states.length > 1 ? states.shift() : states[0] };
      return { body: path.endsWith("/read/12") ? HELD : { shots: [31], left_out: [] } };
    });
    const onTaken = open();
    expect(await screen.findByText("Reading the timeline…")).toBeTruthy();
    expect(screen.getByRole("button", { name: "Bring in 0" })).toHaveProperty("disabled", true);
    expect(await screen.findByText("5 to 16")).toBeTruthy();
    fireEvent.click(screen.getByRole("button", { name: "Bring in 1" }));
    await waitFor(() => expect(onTaken).toHaveBeenCalledWith([31]));
    expect(sent.filter((one) => one.path.endsWith("/look"))).toHaveLength(1);
  });
});
