// Builds the benchmarks of the core as a browser gets it, in one piece, and runs them, or those that are named:
// through a test runner's modules each call into another file would be measured with its own way there.
import { spawnSync } from "node:child_process";
import { mkdtempSync, readdirSync, rmSync } from "node:fs";
import path from "node:path";
import { fileURLToPath } from "node:url";
import { build } from "esbuild";

const HERE = path.dirname(fileURLToPath(import.meta.url));
const ROOT = path.dirname(HERE);
const wanted = process.argv.slice(2);
const files = readdirSync(HERE).filter(
  (file) =>
    file.endsWith(".bench.ts") &&
    (wanted.length === 0 || wanted.some((name) => file.startsWith(name))),
);
// Beside the modules, so that packages are found.
const out = mkdtempSync(path.join(ROOT, "node_modules", ".bench-"));
let failed = false;
try {
  for (const file of files) {
    const outfile = path.join(out, file.replace(/ts$/, "mjs"));
    await build({
      entryPoints: [path.join(HERE, file)],
      outfile,
      bundle: true,
      platform: "node",
      format: "esm",
      target: "node20",
      packages: "external",
      alias: { "@": path.join(ROOT, "src"), vitest: path.join(HERE, "in-turn.ts") },
      logLevel: "warning",
    });
    const { status } = spawnSync(process.execPath, ["--expose-gc", outfile], { stdio: "inherit" });
    failed ||= status !== 0;
  }
} finally {
  rmSync(out, { recursive: true, force: true });
}
process.exit(failed ? 1 : 0);
