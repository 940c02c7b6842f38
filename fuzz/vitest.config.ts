import { defineConfig } from "vitest/config";

export default defineConfig({
  cacheDir: new URL("../node_modules/.vite-fuzz", import.meta.url).pathname,
  resolve: { alias: { "@": new URL("../src", import.meta.url).pathname } },
  test: { root: import.meta.dirname, include: ["*.test.ts"], fileParallelism: false },
});
