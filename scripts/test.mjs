// npm test: everything, from a fresh clone on. Ends with one line of real counts.
import { mkdirSync, readFileSync, rmSync } from "node:fs";
import path from "node:path";
import {
  ROOT,
  NEXT,
  checkNode,
  ensureBuilt,
  ensureChromium,
  ensureInstalled,
  runTool,
} from "./setup.mjs";

checkNode();
ensureInstalled();

const results = path.join(ROOT, "test-results");
rmSync(results, { recursive: true, force: true });
mkdirSync(results, { recursive: true });
let passed = 0;
let failed = 0;

/** One check that passes or fails as a whole. */
function check(name, ok) {
  console.log(`${ok ? "ok  " : "FAIL"} ${name}`);
  if (ok) passed++;
  else failed++;
  return ok;
}

const FUZZ = ["run", "--config", "fuzz/vitest.config.ts", "--reporter=default"];

function ofVitest(report) {
  const { numPassedTests: good, numFailedTests, numFailedTestSuites } = report;
  return { good, bad: numFailedTests || numFailedTestSuites };
}

/** Counts of a runner's JSON report; a report that is missing or empty is a failure. */
function count(name, file, read) {
  try {
    const { good, bad } = read(JSON.parse(readFileSync(path.join(results, file), "utf8")));
    passed += good;
    failed += bad;
    if (good + bad === 0) throw new Error("no test ran");
    console.log(`${bad ? "FAIL" : "ok  "} ${name}: ${good} passed, ${bad} failed`);
  } catch (error) {
    failed++;
    console.log(`FAIL ${name}: ${error.message}`);
  }
}

check("format", runTool("prettier/bin/prettier.cjs", ["--check", "--log-level", "warn", "."]));
check("route types", runTool(NEXT, ["typegen"]));
check("types", runTool("typescript/bin/tsc", ["--noEmit"]));
check("lint", runTool("eslint/bin/eslint.js", [".", "--max-warnings", "0"]));
check(
  "layers",
  runTool("dependency-cruiser/bin/dependency-cruise.mjs", [
    ...["src", "e2e", "bench", "fuzz"],
    "--config",
    ".dependency-cruiser.cjs",
  ]),
);
check("unused", runTool("knip/bin/knip.js", ["--no-progress"]));

console.log("\nUnit tests");
const unit = path.join(results, "unit.json");
runTool("vitest/vitest.mjs", [
  "run",
  "--reporter=default",
  "--reporter=json",
  `--outputFile=${unit}`,
]);
count("unit tests", "unit.json", ofVitest);

console.log("\nBrowser tests");
const chromium = ensureChromium();
if (!chromium) {
  check(
    "Chromium: not found. Install it (Debian: apt-get install chromium) or set CHROMIUM to its path",
    false,
  );
} else if (check("build", ensureBuilt())) {
  runTool("vitest/vitest.mjs", [...FUZZ, "--reporter=json", `--outputFile=${results}/fuzz.json`], {
    FUZZ_COUNT: "600",
    KILLS: "6",
  });
  count("mutated requests and kills", "fuzz.json", ofVitest);
  runTool("@playwright/test/cli.js", ["test"], {
    CHROMIUM: chromium,
    PLAYWRIGHT_JSON_OUTPUT_NAME: path.join(results, "browser.json"),
  });
  count("browser tests", "browser.json", ({ stats }) => ({
    good: stats.expected,
    bad: stats.unexpected + stats.flaky,
  }));
}

console.log(`\n${passed} passed, ${failed} failed`);
process.exit(failed === 0 ? 0 : 1);
