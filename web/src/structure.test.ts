// @vitest-environment node
import { ESLint, type Linter } from "eslint";
import tseslint from "typescript-eslint";
import { describe, expect, it } from "vitest";
// @ts-expect-error: the configuration is plain JavaScript
import everything from "../eslint.config.js";

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

const ruleOf = (name: string) => (everything as Linter.Config[]).find((one) => one.rules?.[name]);
const folders = ruleOf("boundaries/dependencies");
const calls = ruleOf("no-restricted-imports");

/** One rule alone (eslint.config.js), on a file that is not there. */
async function told(rule: Linter.Config | undefined, file: string, text: string): Promise<string[]> {
  const parser = tseslint.parser as Linter.Parser;
  const all = { files: ["**/*.{ts,tsx}"], languageOptions: { parser } };
  const eslint = new ESLint({ overrideConfigFile: true, overrideConfig: [all, rule ?? {}] });
  const [found] = await eslint.lintText(text, { filePath: file });
  return (found?.messages ?? []).map((one) => one.message.split(" (")[0] ?? "");
}

describe("the folders of the web application", () => {
  it("are all looked at", () => {
    expect(files.length).toBeGreaterThan(120);
    expect([...graph.values()].flat().length).toBeGreaterThan(400);
  });

  it("have no circle of imports", () => expect(circle()).toBeNull());

  it.each([
    ["src/projects/wall/planted.tsx", "../../bench/BenchPage", ["projects takes nothing from bench"]],
    ["src/look/planted.ts", "../shelf/words", ["look takes nothing from shelf"]],
    ["src/kit/planted.tsx", "../api/client", ["kit takes nothing from api"]],
    ["src/encodings/planted.tsx", "../pictures/PicturesPage", ["encodings takes nothing from pictures"]],
    ["src/bench/planted.tsx", "../look/store", []],
  ])("%s may not take %s, unless it stands below", async (file, from, wanted) => {
    expect(await told(folders, file, `import { one } from "${from}";\nexport const two = one;\n`)).toEqual(wanted);
  });

  it.each([
    ["src/bench/planted.ts", "api", 1],
    ["src/look/frames/planted.ts", "callImage", 1],
    ["src/bench/planted.ts", "wordsFor", 0],
    ["src/api/planted.ts", "api", 0],
  ])("%s may not call the server itself, as %s does", async (file, name, wanted) => {
    expect(
      await told(calls, file, `import { ${name} } from "../api/client";\nexport const two = ${name};\n`),
    ).toHaveLength(wanted);
  });

  it("are all known to the rule", () => {
    const elements = folders?.settings?.["boundaries/elements"] as { type: string }[];
    const known = elements.map((one) => one.type).filter((type) => type !== "top");
    const there = new Set(files.filter((file) => file.includes("/")).map((file) => file.split("/")[0]));
    expect([...there].sort()).toEqual(known.sort());
  });
});
