// Bundles threads that run outside the framework's own bundle: the server's into build/, the audio thread's into public/.
import path from "node:path";
import { fileURLToPath } from "node:url";
import asc from "assemblyscript/asc";
import { build } from "esbuild";

const ROOT = path.dirname(path.dirname(fileURLToPath(import.meta.url)));

/** What all of them are bundled with. */
const how = {
  bundle: true,
  format: "esm",
  alias: { "@": path.join(ROOT, "src") },
  logLevel: "warning",
};

/** The innermost loops of the sound, compiled: part of what the audio thread runs. */
export async function buildKernels() {
  const { error, stderr } = await asc.main([
    path.join(ROOT, "assembly", "index.ts"),
    ...["--outFile", path.join(ROOT, "build", "kernels.wasm")],
    ...["-O3", "--runtime", "stub", "--enable", "simd", "--use", "abort="],
    ...["--initialMemory", "256", "--maximumMemory", "256"],
  ]);
  if (error) throw new Error(`The loops of the sound could not be compiled: ${stderr}`);
}

/** The server's thread for what would keep other requests waiting. */
export async function buildServerThread() {
  await build({
    entryPoints: [path.join(ROOT, "src", "server", "heavy", "worker.ts")],
    outfile: path.join(ROOT, "build", "heavy.mjs"),
    ...how,
    platform: "node",
    target: "node20",
    external: ["better-sqlite3"],
    // Some packages still ask for others in the old way.
    banner: {
      js: 'import { createRequire as requireOf } from "node:module"; const require = requireOf(import.meta.url);',
    },
  });
}

/** What the audio thread of the browser runs: a file of its own, since audio worklets are loaded by their address. */
async function buildAudioThread() {
  await buildKernels();
  await build({
    entryPoints: [path.join(ROOT, "src", "audio", "worklet", "main.ts")],
    outfile: path.join(ROOT, "public", "audio-thread.js"),
    ...how,
    loader: { ".wasm": "binary" },
    minify: true,
    target: "es2022",
  });
}

if (process.argv[1] === fileURLToPath(import.meta.url)) {
  await buildServerThread();
  await buildAudioThread();
}
