// npm run fuzz: mutated requests to every route of a built server on a folder of its own, and kills of it
// during saves. FUZZ_COUNT (20,000) says how many requests, FUZZ_SEED (1) which, KILLS (200) how many kills.
import { checkNode, ensureBuilt, ensureInstalled, runTool } from "./setup.mjs";

checkNode();
ensureInstalled();
if (!ensureBuilt()) process.exit(1);
const ok = runTool("vitest/vitest.mjs", [
  "run",
  "--config",
  "fuzz/vitest.config.ts",
  "--disable-console-intercept",
]);
process.exit(ok ? 0 : 1);
