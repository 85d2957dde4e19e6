import { defineConfig } from "vitest/config";

/**
 * What is only computed needs no document, and keeps nothing that another file could stumble over: all of it shares one thread.
 * What needs a page (`.page.test.ts`) or draws one (`.test.tsx`) gets a document, whose making takes longer than most tests, and a fresh thread.
 */
export default defineConfig({
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
        test: { name: "components", environment: "happy-dom", include: ["src/**/*.test.tsx", "src/**/*.page.test.ts"] },
      },
    ],
  },
});
