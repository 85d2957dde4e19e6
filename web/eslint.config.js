import boundaries from "eslint-plugin-boundaries";
import tseslint from "typescript-eslint";

/** From the bottom up: a folder takes from those before it. What people go to, a page each, stands side by side and takes nothing from each other. */
const BELOW = ["browser", "theme", "kit", "api", "jobs", "play", "frame", "media", "entries", "guests", "look"];
const FEATURES = ["search", "start", "visit", "bench", "shelf", "pictures", "people", "encodings", "projects"];
const layers = [
  ...BELOW.map((folder, at) => ({ from: folder, to: BELOW.slice(0, at + 1) })),
  ...FEATURES.map((folder) => ({ from: folder, to: [...BELOW, folder] })),
  { from: "top", to: [...BELOW, ...FEATURES, "top"] },
];

/** What talks to the server. Everything else asks by the names that `api/` gives to what is asked. */
const CALLS = ["api", "got", "asForm", "callImage", "callWideImage", "loadImage", "callBlob", "callWithFigures", "callCounts", "callFiles"];

/** What `.oxlintrc.json` cannot say: which folder takes from which, by what names the server is asked, what is written otherwise here. */
export default tseslint.config(
  { ignores: ["dist", "src/api/schema.ts"] },
  { files: ["src/**/*.{ts,tsx}"], languageOptions: { parser: tseslint.parser } },
  {
    plugins: { boundaries },
    settings: {
      "import/resolver": { node: { extensions: [".ts", ".tsx"] } },
      "boundaries/elements": [
        ...[...BELOW, ...FEATURES].map((folder) => ({ type: folder, pattern: `src/${folder}` })),
        { type: "top", pattern: "src" },
      ],
      "boundaries/files": [{ category: "testing", pattern: "src/testing.tsx" }],
    },
    rules: {
      "boundaries/no-unknown-files": "error",
      "boundaries/dependencies": ["error", {
        default: "disallow",
        message: "{{from.element.type}} takes nothing from {{to.element.type}} (docs/layout.md, eslint.config.js)",
        policies: [
          { allow: { to: { file: { categories: "testing" } } } },
          ...layers.map(({ from, to }) => ({ from: { element: { type: from } }, allow: { to: { element: { types: { anyOf: to } } } } })),
        ],
      }],
    },
  },
  {
    files: ["src/**"],
    ignores: ["src/api/**", "src/**/*.test.*"],
    rules: {
      "no-restricted-imports": ["error", {
        patterns: [{ regex: "/api/client$", importNames: CALLS, message: "A call to the server gets a name of its own in src/api." }],
      }],
    },
  },
  {
    rules: {
      "no-restricted-syntax": [
        "error",
        { selector: "TSEnumDeclaration", message: "A union of strings says the same and needs no code." },
        { selector: "JSXAttribute[name.name='style'] Literal[value=/#[0-9a-fA-F]{3}/]", message: "Colours come from the theme." },
      ],
    },
  },
);
