import { defineConfig } from "vitest/config";

/** What is drawn needs a document, whose making takes longer than most tests; what is only computed needs none, unless its file says so. */
export default defineConfig({
  test: {
    // A thread starts in less than a process does, and each file gets a fresh one.
    pool: "threads",
    projects: [
      { test: { name: "logic", environment: "node", include: ["src/**/*.test.ts"], testTimeout: 30_000 } },
      { test: { name: "components", environment: "happy-dom", include: ["src/**/*.test.tsx"], testTimeout: 30_000 } },
    ],
  },
});
