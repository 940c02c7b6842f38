// What the commands need before they can run, with Node's own modules only.
import { spawnSync } from "node:child_process";
import { existsSync, readdirSync, statSync } from "node:fs";
import path from "node:path";
import { fileURLToPath } from "node:url";

export const ROOT = path.dirname(path.dirname(fileURLToPath(import.meta.url)));
const inRoot = (...parts) => path.join(ROOT, ...parts);

/** Runs a command in the project's folder, its output shown; true when it succeeded. */
export function run(command, args, env = {}) {
  const done = spawnSync(command, args, {
    cwd: ROOT,
    stdio: ["ignore", "inherit", "inherit"],
    env: { ...process.env, NEXT_TELEMETRY_DISABLED: "1", ...env },
  });
  if (done.error) console.error(String(done.error.message));
  return done.status === 0;
}

/** Runs a package's command line with this Node, so that no shell or PATH is needed. */
export function runTool(file, args, env) {
  return run(process.execPath, [inRoot("node_modules", file), ...args], env);
}

export const NEXT = "next/dist/bin/next";

export function checkNode() {
  const major = Number(process.versions.node.split(".")[0]);
  if (major >= 20) return;
  console.error(`Hailstep needs Node 20 or newer; this is ${process.versions.node}.`);
  process.exit(1);
}

/** Installs the locked packages where they are missing or older than the lock file. */
export function ensureInstalled() {
  const mark = inRoot("node_modules", ".package-lock.json");
  const lock = inRoot("package-lock.json");
  if (existsSync(mark) && statSync(mark).mtimeMs >= statSync(lock).mtimeMs) return;
  console.log("Installing packages (SQLite is compiled, which takes some minutes) …");
  const npm = process.platform === "win32" ? "npm.cmd" : "npm";
  if (!run(npm, ["ci", "--no-fund", "--no-audit"])) {
    console.error("The packages could not be installed; see above.");
    process.exit(1);
  }
}

function newest(folder) {
  let latest = 0;
  for (const entry of readdirSync(folder, { withFileTypes: true })) {
    const file = path.join(folder, entry.name);
    latest = Math.max(latest, entry.isDirectory() ? newest(file) : statSync(file).mtimeMs);
  }
  return latest;
}

/** Builds for production where there is no build or the sources are newer. */
export function ensureBuilt() {
  const id = inRoot(".next", "BUILD_ID");
  const sources = ["package-lock.json", "next.config.ts", "postcss.config.mjs"].map(
    (f) => statSync(inRoot(f)).mtimeMs,
  );
  const changed = Math.max(newest(inRoot("src")), ...sources);
  const threads = inRoot("build", "heavy.mjs");
  if (existsSync(id) && existsSync(threads) && statSync(id).mtimeMs > changed) return true;
  console.log("Building …");
  return run(process.execPath, [inRoot("scripts", "threads.mjs")]) && runTool(NEXT, ["build"]);
}

/** Finds Chromium; as root on Debian it is installed from Debian's packages. Null when there is none. */
export function ensureChromium() {
  const found = () =>
    [process.env.CHROMIUM, "/usr/bin/chromium", "/usr/bin/chromium-browser"].find(
      (file) => file && existsSync(file),
    ) ?? null;
  if (found()) return found();
  const root = typeof process.getuid === "function" && process.getuid() === 0;
  if (root && existsSync("/usr/bin/apt-get")) {
    console.log("Installing Chromium from Debian's packages …");
    const env = { DEBIAN_FRONTEND: "noninteractive" };
    run("apt-get", ["update", "-qq"], env);
    run("apt-get", ["install", "-y", "-qq", "chromium"], env);
  }
  return found();
}
