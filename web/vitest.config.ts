import { defineConfig } from "vitest/config";
import { dependencies } from "./package.json";

/**
 * What is only computed needs no document, and keeps nothing that another file could stumble over: all of it shares one thread.
 * What needs a page (`.page.test.ts`) or draws one (`.test.tsx`) gets a document, whose making takes longer than most tests, and a fresh
 * thread. Packages are bundled for those once: each thread would read their hundreds of files again, which took half of all this.
 */
export default defineConfig({
  // Bundled from their modules: what a package has for Node gives its names away only when it is run.
  resolve: { mainFields: ["module", "main"] },
  test: {
    pool: "threads",
    testTimeout: 30_000,
    projects: [
      {
        extends: true,
        test: {
          name: "logic",
          environment: "node",
          include: ["src/**/*.test.ts"],
          exclude: ["src/**/*.page.test.ts"],
          isolate: false,
        },
      },
      {
        extends: true,
        test: {
          name: "components",
          environment: "happy-dom",
          include: ["src/**/*.test.tsx", "src/**/*.page.test.ts"],
          deps: {
            optimizer: {
              client: {
                enabled: true,
                include: [
                  ...Object.keys(dependencies).filter((name) => !name.startsWith("@fontsource/")),
                  "react/jsx-runtime",
                  "react/jsx-dev-runtime",
                  "react-dom/client",
                  "@testing-library/react",
                ],
              },
            },
          },
        },
      },
    ],
  },
});
