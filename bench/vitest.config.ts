import { defineConfig } from "vitest/config";

export default defineConfig({
  resolve: { alias: { "@": new URL("../src", import.meta.url).pathname } },
  test: { include: ["bench/*.bench.ts"], testTimeout: 600_000, execArgv: ["--expose-gc"] },
});
