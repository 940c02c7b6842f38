// Starts and stops a production server on a folder of data: for the demo, tests and benchmarks.
import { spawn } from "node:child_process";
import path from "node:path";
import { ROOT } from "./setup.mjs";

const sleep = (ms) => new Promise((resolve) => setTimeout(resolve, ms));

/**
 * Starts the built application. Resolves once it answers; rejects when it ends before that.
 * `stop` asks it to end, `kill` ends it at once, as a crash would.
 */
export async function startServer({ port, data, quiet = true }) {
  const child = spawn(process.execPath, [path.join(ROOT, "scripts", "serve.mjs")], {
    cwd: ROOT,
    stdio: ["ignore", quiet ? "ignore" : "inherit", "inherit"],
    env: {
      ...process.env,
      NODE_ENV: "production",
      PORT: String(port),
      HAILSTEP_QUIET: "1",
      NEXT_TELEMETRY_DISABLED: "1",
      ...(data ? { HAILSTEP_DATA: data } : {}),
    },
  });
  const ended = new Promise((resolve) => child.once("exit", resolve));
  const url = `http://127.0.0.1:${port}`;
  const end = async (signal) => {
    if (child.exitCode === null && child.signalCode === null) child.kill(signal);
    await ended;
  };
  for (let tries = 0; tries < 300; tries++) {
    if (child.exitCode !== null) throw new Error("The server could not start; see above.");
    const ok = await fetch(`${url}/api/projects`).then(
      (response) => response.ok,
      () => false,
    );
    if (ok) return { url, child, ended, stop: () => end("SIGTERM"), kill: () => end("SIGKILL") };
    await sleep(100);
  }
  await end("SIGKILL");
  throw new Error("The server did not answer within 30 seconds");
}
