import { render, screen, waitFor } from "@testing-library/react";
import { describe, expect, it } from "vitest";
import { serve, studio } from "../testing";
import { RightsNote } from "./RightsNote";

describe("what is said where files are taken", () => {
  it("is why they are not free to be passed on, the first two reasons and how many more", async () => {
    const sent = serve(() => ({
      body: { held: ["may not be passed on", "it holds Print", "it comes from Salt"], inside: [] },
    }));
    render(<RightsNote kind="look" id={4} version={2} />, { wrapper: studio() });
    expect((await screen.findByRole("status")).textContent).toBe(
      "Not free to be passed on: may not be passed on; it holds Print, and 1 more.",
    );
    expect(sent[0]?.path).toBe("/api/packing/rights/look/4");
  });

  it("is nothing where they are free", async () => {
    const sent = serve(() => ({ body: { held: [], inside: ["Print"] } }));
    render(<RightsNote kind="lut" id={4} />, { wrapper: studio() });
    await waitFor(() => expect(sent).toHaveLength(1));
    expect(screen.queryByRole("status")).toBeNull();
  });
});
