import { describe, expect, it } from "vitest";

const FOLDERS = [
  "theme",
  "kit",
  "api",
  "jobs",
  "play",
  "frame",
  "pictures",
  "people",
  "bench",
  "shelf",
  "projects",
] as const;

const texts = import.meta.glob<string>("./**/*.{ts,tsx}", { query: "?raw", import: "default", eager: true });
const files = Object.keys(texts)
  .map((path) => path.slice(2))
  .filter((name) => !name.includes(".test."));

/** `../kit/Disc` as seen from `bench/add/AddPanel.tsx` is `bench/kit/Disc`. */
function resolved(from: string, path: string): string {
  const parts = from.split("/").slice(0, -1);
  for (const part of path.split("/")) {
    if (part === "..") parts.pop();
    else if (part !== ".") parts.push(part);
  }
  return parts.join("/");
}

/** What a file takes from others of ours; types are nothing at run time, yet they tie files together all the same. */
function importsOf(file: string): string[] {
  const found = [...(texts[`./${file}`] ?? "").matchAll(/from "(\.[^"]+)"/g)].map((match) =>
    resolved(file, match[1] ?? ""),
  );
  return found.flatMap((path) => files.filter((one) => one === `${path}.ts` || one === `${path}.tsx`));
}

const graph = new Map(files.map((file) => [file, importsOf(file)]));

function circle(): string[] | null {
  const done = new Set<string>();
  const walk = (file: string, way: readonly string[]): string[] | null => {
    if (way.includes(file)) return [...way.slice(way.indexOf(file)), file];
    if (done.has(file)) return null;
    for (const next of graph.get(file) ?? []) {
      const found = walk(next, [...way, file]);
      if (found) return found;
    }
    done.add(file);
    return null;
  };
  for (const file of files) {
    const found = walk(file, []);
    if (found) return found;
  }
  return null;
}

describe("the folders of the web application", () => {
  it("are all looked at", () => {
    expect(files.length).toBeGreaterThan(120);
    expect([...graph.values()].flat().length).toBeGreaterThan(400);
  });

  it("have no circle of imports", () => expect(circle()).toBeNull());

  it.each(FOLDERS)("%s takes nothing from a folder above it", (folder) => {
    const below = new Set<string>(FOLDERS.slice(0, FOLDERS.indexOf(folder) + 1));
    const upwards = [...graph]
      .filter(([file]) => file.startsWith(`${folder}/`))
      .flatMap(([file, taken]) =>
        taken.filter((one) => !below.has(one.split("/")[0] ?? "")).map((one) => `${file} takes ${one}`),
      );
    expect(upwards).toEqual([]);
  });
});
