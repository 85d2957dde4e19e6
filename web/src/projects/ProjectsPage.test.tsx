import { fireEvent, render, screen, waitFor, within } from "@testing-library/react";
import { MemoryRouter } from "react-router";
import { describe, expect, it } from "vitest";
import type { ProjectLine } from "../api/types";
import { stateOf } from "../media/ProjectRow";
import { serve, studio } from "../testing";
import { arrangeProjects, ProjectsPage } from "./ProjectsPage";

const project = (name: string, more: Partial<ProjectLine> = {}): ProjectLine => ({
  id: name.length,
  name,
  code: "",
  by: "Ilse Harrow",
  closed: false,
  created: "2026-11-01T00:00:00Z",
  worked: "2026-11-01T00:00:00Z",
  shots: 0,
  scenes: 0,
  approved: 0,
  misfits: 0,
  newer: 0,
  strip: [],
  last: null,
  people: ["Ilse Harrow"],
  mine: "",
  ...more,
});

describe("a list of projects", () => {
  const all = [
    project("Low Water", { worked: "2026-11-03T00:00:00Z", people: ["Marek Sorel"] }),
    project("The Salt Ferry", { code: "TSF", created: "2026-11-02T00:00:00Z" }),
    project("Alder", { worked: "2026-11-02T00:00:00Z" }),
  ];
  const names = (search: string, order: "worked" | "name" | "created" = "worked") =>
    arrangeProjects(all, search, order).map((one) => one.name);

  it("is in the order that was asked for", () => {
    expect(names("")).toEqual(["Low Water", "Alder", "The Salt Ferry"]);
    expect(names("", "name")).toEqual(["Alder", "Low Water", "The Salt Ferry"]);
    expect(names("", "created")[0]).toBe("The Salt Ferry");
  });

  it("finds by names, codes and people, each word anywhere", () => {
    expect(names("tsf")).toEqual(["The Salt Ferry"]);
    expect(names("sorel low")).toEqual(["Low Water"]);
    expect(names("ilse ferry")).toEqual(["The Salt Ferry"]);
    expect(names("sorel ferry")).toEqual([]);
  });

  it("says how far each is", () => {
    expect(stateOf(project("a"))).toEqual([]);
    expect(stateOf(project("a", { shots: 3, approved: 3 }))).toEqual(["all approved"]);
    const last = { number: 2, files: 1, made: "2026-11-24T10:00:00Z" };
    expect(stateOf(project("a", { shots: 1, misfits: 1, newer: 2, last }))).toEqual([
      "0 of 1 shot approved",
      "1 misfit, a newer version of 2 looks",
      "delivery 2, 2026-11-24: 1 file",
    ]);
  });

  it("shows a strip of each, and says when nothing is found", async () => {
    const strip = [{ shot: 7, code: "1A", shows: "x/1" }];
    serve(({ path }) => ({
      body: path === "/api/projects" ? [project("Quay", { shots: 1, strip, mine: "grades" })] : [],
    }));
    render(
      <MemoryRouter>
        <ProjectsPage />
      </MemoryRouter>,
      { wrapper: studio() },
    );
    const row = await screen.findByRole("link", { name: /Quay/ });
    expect(within(row).getByAltText("1A").getAttribute("src")).toBe("/api/projects/4/shots/7/preview.jpg?state=x%2F1");
    expect(row.textContent).toContain("you grade");
    fireEvent.change(screen.getByRole("searchbox", { name: "Find a project" }), { target: { value: "ferry" } });
    expect(screen.getByText("No project has all of these words.")).toBeTruthy();
  });
});

describe("a new project", () => {
  it("leaves in the encoding that the studio says, where nothing else is chosen", async () => {
    const sent = serve(({ method, path }) => {
      if (path === "/api/session")
        return { body: { person: { username: "ilse", name: "Ilse" }, may: ["design"], delivery: "display-p3" } };
      if (method === "POST") return { body: project("Ferry") };
      return { body: [] };
    });
    const Studio = studio();
    render(
      <Studio>
        <MemoryRouter>
          <ProjectsPage />
        </MemoryRouter>
      </Studio>,
    );
    const name = await screen.findByRole("textbox", { name: "Name" });
    fireEvent.change(name, { target: { value: "Ferry" } });
    fireEvent.click(screen.getByRole("button", { name: "Make it" }));
    await waitFor(() =>
      expect(sent.find((one) => one.method === "POST")?.body).toMatchObject({ name: "Ferry", delivery: "display-p3" }),
    );
  });
});
