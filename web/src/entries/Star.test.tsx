import { fireEvent, render, screen, waitFor } from "@testing-library/react";
import { describe, expect, it } from "vitest";
import { Passing } from "../frame/Passing";
import { serve, studio } from "../testing";
import { Star } from "./Star";

function starred(answer: { status?: number; body: unknown }) {
  const sent = serve(() => answer);
  const Studio = studio();
  render(
    <Studio>
      <Star entry={{ kind: "look", id: 4, name: "Low tide", favourite: false }} />
      <Passing />
    </Studio>,
  );
  return sent;
}

describe("a star", () => {
  it("says why where it could not be kept, and goes back", async () => {
    starred({ status: 429, body: { detail: "Too many changes at once. Wait a minute, then try again." } });
    fireEvent.click(screen.getByRole("button", { name: "Star Low tide" }));
    const words = await screen.findByText(
      "The star of Low tide is as it was. Too many changes at once. Wait a minute, then try again.",
    );
    expect(words.closest("[role=alertdialog]")).not.toBeNull();
    await waitFor(() =>
      expect(screen.getByRole("button", { name: "Star Low tide", hidden: true }).getAttribute("aria-pressed")).toBe(
        "false",
      ),
    );
    fireEvent.click(screen.getByRole("button", { name: "Close these words" }));
    await waitFor(() => expect(screen.queryByText(/is as it was/)).toBeNull());
  });

  it("says nothing where it was", async () => {
    const sent = starred({ body: {} });
    fireEvent.click(screen.getByRole("button", { name: "Star Low tide" }));
    await waitFor(() => expect(sent.map((one) => one.body)).toEqual([{ favourite: true }]));
    expect(screen.queryByRole("alertdialog")).toBeNull();
  });
});
