import { fireEvent, render, screen, waitFor } from "@testing-library/react";
import { expect, it } from "vitest";
import { serve, studio } from "../testing";
import { gigabytesOf, RoomLimits } from "./RoomLimits";

it("reads GB as they are typed", () => {
  expect(["", " 12 ", "0", "1000000"].map(gigabytesOf)).toEqual([0, 12, 0, 1_000_000]);
  expect(["1.5", "-1", "ten", "1000001"].map(gigabytesOf)).toEqual([null, null, null, null]);
});

it("keeps both at once, and nothing that is no number", async () => {
  const sent = serve(() => ({ body: {} }));
  const Studio = studio();
  render(
    <Studio>
      <RoomLimits person={0} project={50} />
    </Studio>,
  );
  const keep = screen.getByRole("button", { name: "Keep" });
  const person = screen.getByLabelText("GB for each person");
  expect(keep).toHaveProperty("disabled", true);
  fireEvent.change(person, { target: { value: "a lot" } });
  expect(screen.getByText(/Whole numbers of GB/)).toBeTruthy();
  expect(keep).toHaveProperty("disabled", true);
  fireEvent.change(person, { target: { value: "20" } });
  fireEvent.click(keep);
  await waitFor(() => expect(sent.map((one) => one.body)).toContainEqual({ person_gb: 20, project_gb: 50 }));
});
