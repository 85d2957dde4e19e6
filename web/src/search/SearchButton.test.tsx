import { fireEvent, render, screen, waitFor } from "@testing-library/react";
import { MemoryRouter, useLocation } from "react-router";
import { describe, expect, it, vi } from "vitest";
import { useActions, type Action } from "../browser/actions";
import { serve, studio } from "../testing";
import { SearchButton } from "./SearchButton";

function Page({ actions }: { actions: readonly Action[] }) {
  useActions(actions);
  return <main>{useLocation().pathname}</main>;
}

function opened(actions: readonly Action[] = []) {
  const sent = serve(({ path }) => {
    if (path.endsWith("/session")) return { body: { person: { username: "ilse", name: "Ilse" }, may: ["design"] } };
    if (path.endsWith("/search"))
      return { body: { entries: [], boards: [], projects: [{ id: 3, name: "Salt" }], shots: [], pictures: [] } };
    return { body: [] };
  });
  const Studio = studio();
  render(
    <MemoryRouter>
      <Studio>
        <Page actions={actions} />
        <SearchButton />
      </Studio>
    </MemoryRouter>,
  );
  return sent;
}
const press = (field: HTMLElement, key: string) => fireEvent.keyDown(field, { key, code: key });

async function search(words: string) {
  fireEvent.keyDown(window, { key: "k", ctrlKey: true });
  const field = await screen.findByLabelText("Search everything", { selector: "input" });
  fireEvent.change(field, { target: { value: words } });
  return field;
}

describe("the search over everything", () => {
  it("opens on Ctrl K and goes to the first that was found on Enter, however soon it is pressed", async () => {
    opened();
    press(await search("salt"), "Enter");
    await waitFor(() => expect(screen.getByRole("main", { hidden: true }).textContent).toBe("/projects/3"));
    expect(screen.queryByRole("dialog")).toBeNull();
  });

  it("does what the page in view can do", async () => {
    const run = vi.fn();
    opened([{ name: "Save version", run }]);
    const field = await search("save");
    await screen.findByRole("option", { name: /Save version/ });
    press(field, "Enter");
    await waitFor(() => expect(run).toHaveBeenCalledTimes(1));
    expect(screen.getByRole("main", { hidden: true }).textContent).toBe("/");
  });

  it("presses any button of the page, for who has chosen it", async () => {
    const pressed = vi.fn();
    opened();
    const button = document.createElement("button");
    button.textContent = "Blend  the two";
    button.addEventListener("click", pressed);
    document.body.append(button);
    const field = await search("blend");
    await screen.findByRole("option", { name: "Blend the two" });
    press(field, "Enter");
    expect(pressed).not.toHaveBeenCalled();
    fireEvent.click(screen.getByRole("option", { name: "Blend the two" }));
    await waitFor(() => expect(pressed).toHaveBeenCalledTimes(1));
    button.remove();
  });

  it("asks the server for nothing before something was typed, and says where nothing has the name", async () => {
    const sent = opened();
    fireEvent.keyDown(window, { key: "k", metaKey: true });
    await screen.findByRole("option", { name: /Shelf/ });
    expect(sent.some((one) => one.path.endsWith("/search"))).toBe(false);
  });

  it("does not open over what asks for an answer", () => {
    opened();
    const sheet = document.createElement("div");
    sheet.dataset.veil = "";
    document.body.append(sheet);
    fireEvent.keyDown(window, { key: "k", ctrlKey: true });
    expect(screen.queryByRole("dialog")).toBeNull();
    sheet.remove();
  });
});
