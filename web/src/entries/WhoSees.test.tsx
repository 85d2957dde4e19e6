import { fireEvent, render, screen, waitFor } from "@testing-library/react";
import { describe, expect, it } from "vitest";
import { serve, studio } from "../testing";
import { WhoSees, wordsOfSharing } from "./WhoSees";

const nothing = { seen_by: "studio" as const, proposed: false, people: [], projects: [] };
const people = [
  { username: "marek", name: "Marek", role: "curator" },
  { username: "nadia", name: "Nadia", role: "viewer" },
];

function opened(sharing: object, mayChange = true) {
  const sent = serve(({ method, path }) => {
    if (path === "/api/people") return { body: people };
    if (path === "/api/projects") return { body: [{ id: 7, name: "The Salt Ferry" }] };
    return method === "GET" ? { body: sharing } : { body: { ...nothing, seen_by: "owner" } };
  });
  render(<WhoSees kind="look" id={4} mayChange={mayChange} />, { wrapper: studio() });
  return sent;
}

describe("who sees a draft", () => {
  it.each([
    [{ ...nothing }, "All who design see it"],
    [{ ...nothing, seen_by: "owner" as const }, "Only its owner sees it"],
    [{ ...nothing, proposed: true, seen_by: "owner" as const }, "Everybody sees it"],
    [{ ...nothing, seen_by: "chosen" as const, people: [{ name: "nadia", shown: "Nadia" }] }, "Shared with Nadia"],
    [
      {
        ...nothing,
        seen_by: "chosen" as const,
        people: [{ name: "nadia", shown: "Nadia" }],
        projects: [{ id: 7, name: "The Salt Ferry" }],
      },
      "Shared with 2",
    ],
    [{ ...nothing, seen_by: "chosen" as const }, "Shared"],
  ])("is said in few words", (sharing, words) => {
    expect(wordsOfSharing(sharing)).toBe(words);
  });

  it("is one press for only me", async () => {
    const sent = opened(nothing);
    fireEvent.click(await screen.findByRole("button", { name: "Who sees it: All who design see it" }));
    fireEvent.click(await screen.findByRole("radio", { name: "Only me" }));
    await waitFor(() => expect(sent.find((one) => one.method === "PUT")).toBeDefined());
    const put = sent.find((one) => one.method === "PUT");
    expect(put?.path).toBe("/api/catalogue/look/4/sharing");
    expect(put?.body).toEqual({ seen_by: "owner", people: [], projects: [] });
  });

  it("is sent for some only once somebody is chosen, and keeps those who are", async () => {
    const sent = opened({ ...nothing, seen_by: "chosen", people: [{ name: "nadia", shown: "Nadia" }] });
    fireEvent.click(await screen.findByRole("button", { name: "Who sees it: Shared with Nadia" }));
    fireEvent.click(await screen.findByRole("button", { name: "Not with Nadia" }));
    expect(screen.getByRole<HTMLButtonElement>("button", { name: "Share it" }).disabled).toBe(true);
    expect(sent.some((one) => one.method === "PUT")).toBe(false);
  });

  it.each([
    ["who may not change it", nothing, false],
    ["what was proposed", { ...nothing, proposed: true }, true],
  ])("is only told for %s", async (_, sharing, mayChange) => {
    opened(sharing, mayChange);
    await screen.findByText(sharing.proposed ? "Everybody sees it" : "All who design see it");
    expect(screen.queryByRole("button")).toBeNull();
  });
});
