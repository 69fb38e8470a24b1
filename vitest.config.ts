import { defineConfig } from "vitest/config";

// Working hours are by the clock of the place; tests have theirs in Greenwich.
process.env.TZ = "UTC";

/** Tests that need no company’s file: npm test runs them while the database is still being compiled. */
const APART = ["exchange/**/*.test.ts", "server/jobs/placing/solve.test.ts"];

const inBrowser = {
  isolate: false,
  include: ["tests/**/*.test.ts"],
  globalSetup: "tests/start.ts",
  testTimeout: 120_000,
  hookTimeout: 120_000,
  maxWorkers: 2, // each file has a house and each worker a browser of its own
  // A busy machine may take its time; what never comes fails all the same.
  expect: { poll: { timeout: 20_000, interval: 50 } },
};

export default defineConfig({
  test: {
    // What is decided and done is looked at line by line; npm test prints how much of it the tests reach.
    coverage: {
      provider: "v8",
      include: ["core/**/*.ts", "server/acts/**/*.ts"],
      exclude: ["**/*.test.ts"],
      reporter: ["json-summary"],
      reportsDirectory: "tests/.out/coverage",
    },
    projects: [
      { test: { name: "apart", isolate: false, include: APART, testTimeout: 60_000, maxWorkers: 2 } },
      // Two workers even on two cores: much of a desk's test waits for its file.
      {
        test: {
          name: "unit",
          isolate: false, // each file opens a company of its own; what is kept in memory is kept by that company
          globalSetup: "server/testing-setup.ts",
          include: ["{core,server,exchange,app,demo}/**/*.test.{ts,tsx}"],
          exclude: APART,
          testTimeout: 60_000,
          maxWorkers: 2,
          expect: { poll: { timeout: 20_000, interval: 20 } },
        },
      },
      // One worker, one browser, many houses: starting both for each file takes a tenth of the run.
      { test: { ...inBrowser, name: "browser", isolate: false, exclude: ["tests/away.test.ts"] } },
      // A device without its network has the machine for itself.
      { test: { ...inBrowser, name: "offline", include: ["tests/away.test.ts"] } },
    ],
  },
});
