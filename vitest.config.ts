import { defineConfig } from "vitest/config";

export default defineConfig({
  resolve: { alias: { "@": new URL("./src", import.meta.url).pathname } },
  test: {
    include: ["src/**/*.test.ts"],
    // Ends what hangs, on the slowest machine; says nothing of how fast a test has to be.
    testTimeout: 300_000,
    setupFiles: ["./vitest.setup.ts"],
  },
});
