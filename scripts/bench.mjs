// npm run bench: ratios measured side by side in one run. Nothing here decides a test.
import { checkNode, ensureBuilt, ensureChromium, ensureInstalled, run } from "./setup.mjs";

checkNode();
ensureInstalled();
console.log("Ratios, each measured side by side in this run\n");
let ok = run(process.execPath, ["bench/core.mjs"]);
const chromium = ensureChromium();
if (!chromium) {
  console.error(
    "Chromium was not found: the browser's part is left out. Install it or set CHROMIUM.",
  );
  ok = false;
} else if (ensureBuilt()) {
  for (const part of [
    "bench/browser.mjs",
    "bench/melody.mjs",
    "bench/crowd.mjs",
    "bench/playing.mjs",
    "bench/large.mjs",
    "bench/song.mjs",
    "bench/sound.mjs",
    "bench/long-export.mjs",
    "bench/long-day.mjs",
  ]) {
    ok = run(process.execPath, [part], { CHROMIUM: chromium }) && ok;
  }
} else ok = false;
process.exit(ok ? 0 : 1);
