import { fireEvent, render, screen, waitFor } from "@testing-library/react";
import { expect, it } from "vitest";
import { serve, studio, type Answer } from "../testing";
import { StressLimits } from "./StressLimits";

const limits = [
  { what: "lut", most: 1, usual: 1, largest: 100 },
  { what: "skin", most: 10, usual: 10, largest: 180 },
  { what: "clipped", most: 0.05, usual: 0.02, largest: 1 },
];

function shown(answer: Answer = () => ({ body: limits })) {
  const sent = serve(answer);
  const Studio = studio();
  render(
    <Studio>
      <StressLimits />
    </Studio>,
  );
  return sent;
}

it("says every limit in its own unit, in the order of the report, and skin's elsewhere", async () => {
  shown();
  const boxes = await screen.findAllByRole("textbox");
  expect(boxes.map((box) => [box.getAttribute("aria-label"), (box as HTMLInputElement).value])).toEqual([
    ["Clipped, at most", "5"],
    ["As a LUT of 33 nodes, at most", "1"],
  ]);
  expect(screen.getByText("% of the picture, usually 2")).toBeTruthy();
});

it("keeps one that is typed with all the others, and puts them back to the usual ones", async () => {
  const sent = shown();
  const box = await screen.findByLabelText("As a LUT of 33 nodes, at most");
  fireEvent.focus(box);
  fireEvent.change(box, { target: { value: "0.5" } });
  fireEvent.blur(box);
  const kept = () => sent.filter((one) => one.method === "PUT").map((one) => one.body);
  await waitFor(() => expect(kept()).toEqual([{ limits: { clipped: 0.05, lut: 0.5 } }]));
  fireEvent.click(screen.getByRole("button", { name: "Back to the usual ones" }));
  await waitFor(() => expect(kept().at(-1)).toEqual({ limits: {} }));
});

it("says why one was not kept", async () => {
  shown((one) => (one.method === "PUT" ? { status: 422, body: { detail: "lut: must be above 0" } } : { body: limits }));
  const box = await screen.findByLabelText("As a LUT of 33 nodes, at most");
  fireEvent.focus(box);
  fireEvent.change(box, { target: { value: "7" } });
  fireEvent.blur(box);
  expect(await screen.findByText(/must be above 0/)).toBeTruthy();
});
