import { render, screen, waitFor } from "@testing-library/react";
import { describe, expect, it } from "vitest";
import { serve, studio } from "../testing";
import { RoomLeft } from "./RoomLeft";

function told(room: number, most: number | null, bytes?: number) {
  const sent = serve(() => ({ body: { room, most } }));
  const Studio = studio();
  const { container } = render(
    <Studio>
      <RoomLeft {...(bytes === undefined ? {} : { bytes })} />
    </Studio>,
  );
  return { sent, container };
}

describe("the room that is left for one's files", () => {
  it.each([
    [5e9, null],
    [5e9, 10e9],
  ])("is not spoken of while there is enough: %d of %d", async (room, most) => {
    const { sent, container } = told(room, most);
    await waitFor(() => expect(sent.length).toBe(1));
    expect(container.textContent).toBe("");
  });

  it("is told from nine tenths on, and what it would be with what was chosen", async () => {
    told(5e9, 10e9, 4.5e9);
    expect((await screen.findByRole("status")).textContent).toBe(
      "Your files take 5.0 GB of the 10.0 GB there are, with these 9.5 GB.",
    );
  });

  it("is told before anything is sent that it would not do", async () => {
    told(9.5e9, 10e9, 0.8e9);
    expect((await screen.findByRole("alert")).textContent).toContain("for these 800 MB there is no room");
  });
});
