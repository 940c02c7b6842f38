import { defineConfig } from "@playwright/test";

export default defineConfig({
  testDir: "e2e",
  // One at a time: the tests listen to a real clock, and this must hold on two cores.
  workers: 1,
  // No second try: a test that passes only sometimes is a failed one.
  retries: 0,
  // Only to end what hangs: on two busy cores a test that listens takes long.
  timeout: 180_000,
  expect: { timeout: 10_000 },
  outputDir: "test-results/browser",
  reporter: [["list"], ["json"]],
  use: {
    viewport: { width: 1280, height: 800 },
    launchOptions: {
      executablePath: process.env.CHROMIUM ?? "/usr/bin/chromium",
      args: [
        "--no-sandbox",
        "--no-first-run",
        "--disable-background-networking",
        "--disable-component-update",
        "--disable-sync",
        "--disable-gpu",
      ],
    },
  },
});
