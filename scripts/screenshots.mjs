// npm run screenshots: the pictures of docs/screenshots, from the demo data, at 1280x800.
import { readFileSync, mkdirSync, mkdtempSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import path from "node:path";
import { chromium } from "@playwright/test";
import { ROOT, ensureBuilt, ensureChromium } from "./setup.mjs";
import { startServer } from "./server.mjs";
import { waveFile } from "./wave.mjs";

const folder = path.join(ROOT, "docs", "screenshots");
mkdirSync(folder, { recursive: true });
if (!ensureBuilt()) process.exit(1);
const data = mkdtempSync(path.join(tmpdir(), "hailstep-pictures-"));
const server = await startServer({ port: 4757, data });
const browser = await chromium.launch({
  executablePath: ensureChromium(),
  args: ["--no-sandbox", "--no-first-run", "--disable-background-networking"],
});

async function open(theme, name, viewport = { width: 1280, height: 800 }) {
  const context = await browser.newContext({ baseURL: server.url, viewport });
  const page = await context.newPage();
  await page.addInitScript(
    (t) => localStorage.setItem("hailstep-settings", JSON.stringify({ theme: t })),
    theme,
  );
  await page.goto("/");
  if (name) {
    await page.getByRole("link", { name: `Open ${name}` }).click();
    await page.waitForFunction(() => window.hailstep !== undefined);
  }
  await page.waitForTimeout(900);
  return page;
}

/** A falling tone with some noise, as a WAV: something of one's own to put on a pad. */
function wave() {
  const rate = 22_050;
  const frames = Math.round(0.7 * rate);
  const samples = Int16Array.from({ length: frames }, (_, i) => {
    const t = i / rate;
    const level = Math.min(1, t / 0.03) * Math.exp(-4.5 * t) * (0.7 + 0.3 * Math.sin(60 * t));
    const tone = Math.sin(2 * Math.PI * (240 * t - 60 * t * t)) + 0.4 * Math.sin(i * i * 0.31);
    return Math.round(20_000 * level * tone);
  });
  return waveFile(samples, { rate });
}

/** Two bars of a simple beat, as a WAV: something to be listened to. */
function beat() {
  const rate = 22_050;
  const step = (rate * 60) / 96 / 4;
  const frames = Math.round(32 * step);
  const samples = new Float64Array(frames);
  const hit = (at, seconds, sound) => {
    for (let i = 0; i < seconds * rate && at + i < frames; i++)
      samples[Math.round(at) + i] += sound(i / rate, i);
  };
  const noise = (i) => Math.sin(i * i * 0.37 + i * 12.9);
  for (let k = 0; k < 32; k++) {
    if (k % 16 === 0 || k % 16 === 10 || k === 7)
      hit(k * step, 0.3, (t) => 0.8 * Math.exp(-14 * t) * Math.sin(340 * Math.exp(-9 * t) * t));
    if (k % 8 === 4)
      hit(k * step, 0.2, (t, i) => Math.exp(-22 * t) * (0.4 * noise(i) + 0.4 * Math.sin(1250 * t)));
    if (k % 2 === 0)
      hit(k * step, 0.05, (t, i) => 0.25 * Math.exp(-90 * t) * (noise(i) - noise(i - 1)));
  }
  return waveFile(
    Int16Array.from(samples, (x) => Math.round(20_000 * Math.max(-1, Math.min(1, x)))),
    { rate },
  );
}

async function take(page, file) {
  await page.waitForTimeout(400);
  await page.screenshot({ path: path.join(folder, file) });
  // The next picture begins with the demo as it was.
  const undo = page.getByRole("button", { name: /^Undo/ });
  if ((await undo.count()) > 0) {
    while (await undo.isEnabled()) await undo.evaluate((button) => button.click());
    await page.getByText("saved", { exact: true }).waitFor();
  }
  await page.context().close();
  console.log(file);
}

try {
  await take(await open("overcast"), "library.png");

  const mixer = await open("overcast", "Lantern Row");
  await mixer.getByTestId("sheet").focus();
  await mixer.keyboard.press("Alt+m");
  await mixer.getByRole("tab", { name: "Sound" }).click();
  await mixer.getByRole("slider", { name: "Level of Harbour mist", exact: true }).focus();
  await mixer.keyboard.press("Space");
  await mixer.waitForTimeout(6000);
  await take(mixer, "mixer.png");

  const sounds = await open("slate", "Night Ferry");
  await sounds.getByText("Fog flute", { exact: true }).first().click();
  await sounds.getByRole("tab", { name: "Sound" }).click();
  await sounds.getByRole("button", { name: /^Presets/ }).click();
  await sounds.getByRole("searchbox", { name: "Find a sound" }).fill("wind");
  await sounds.locator("[data-sound=tug-horn]").hover();
  await take(sounds, "sounds.png");

  const song = await open("overcast", "Lantern Row");
  await song.getByTestId("sheet").focus();
  await song.keyboard.press("Alt+s");
  await song.getByRole("option", { name: /^Section 4/ }).click();
  await song.getByRole("button", { name: "Open hat", exact: true }).click();
  await song.getByTestId("sheet").focus();
  for (const key of ["Shift+C", "Alt+c", "Escape"]) await song.keyboard.press(key);
  await song.getByRole("button", { name: "Clap", exact: true }).click();
  await song.getByTestId("sheet").focus();
  for (const key of ["Shift+C", "Alt+v", "Alt+v", "Alt+v", "Escape"])
    await song.keyboard.press(key);
  await song.getByRole("button", { name: "Shaker", exact: true }).click();
  await song.getByRole("button", { name: /^Groove/ }).click();
  await song.getByLabel("Groove from a part").selectOption({ label: "Regatta kit: Closed hat" });
  await song.getByRole("button", { name: "Play from this section" }).click();
  await song.waitForTimeout(3500);
  await take(song, "song.png");

  const light = await open("overcast", "Slack Water");
  await light.getByTestId("sheet").focus();
  await light.getByRole("button", { name: "Closed hat", exact: true }).click();
  await light.keyboard.press("n");
  await light.keyboard.press("n");
  await light.getByRole("button", { name: "Play", exact: true }).click();
  await light.waitForFunction(() => window.hailstep.position()?.tick > 2600);
  await take(light, "sheet-light.png");

  const dark = await open("slate", "Gull Parade");
  await dark.getByRole("tab", { name: "Measure" }).click();
  await dark.getByRole("button", { name: "Play", exact: true }).click();
  await dark.waitForFunction(() => window.hailstep.position()?.tick > 4000);
  await take(dark, "sheet-dark.png");

  const chain = await open("overcast", "Breakwater");
  await chain.getByRole("button", { name: "Closed hat", exact: true }).click();
  await chain.getByRole("button", { name: /^Thin/ }).click();
  for (let i = 0; i < 3; i++) await chain.keyboard.press("+");
  for (let i = 0; i < 46; i++) await chain.keyboard.press("ArrowRight");
  await take(chain, "rolls-and-chain.png");

  const pad = await open("slate", "Slack Water");
  await pad.getByRole("button", { name: "Rim", exact: true }).click();
  await pad.keyboard.press("p");
  await pad
    .getByLabel("Sample file for the pad")
    .setInputFiles({ name: "winch.wav", mimeType: "audio/wav", buffer: wave() });
  await pad.getByText("is on Rim").waitFor();
  const set = async (name, value) => {
    const field = pad.getByRole("spinbutton", { name, exact: true });
    await field.fill(value);
    await field.press("Enter");
  };
  await set("Start of the sound", "60");
  await set("Decay", "380");
  await pad.getByRole("combobox", { name: "Filter" }).selectOption("lowpass");
  await set("Cutoff", "3.2k");
  await set("Drive", "25");
  await pad.getByText("is on Rim").waitFor({ state: "detached", timeout: 15_000 });
  await take(pad, "pad.png");

  const history = await open("overcast", "Gull Parade");
  await history.getByRole("button", { name: "Closed hat", exact: true }).click();
  for (const key of ["x", "Shift+V", "Control+Shift+ArrowRight", "Shift+T", "Shift+N", "Shift+B"]) {
    await history.keyboard.press(key);
  }
  await history.keyboard.press("Control+d");
  for (const key of ["Control+z", "Control+z", "Shift+H"]) await history.keyboard.press(key);
  await take(history, "history.png");

  const preview = await open("overcast", "Slack Water");
  await preview.getByRole("button", { name: "Reed bass", exact: true }).click();
  await preview.getByRole("button", { name: /^Reverse/ }).click();
  await preview.getByRole("button", { name: /^Transpose/ }).click();
  const degrees = preview.getByRole("spinbutton", { name: "Degrees" });
  await degrees.fill("2");
  await degrees.press("Enter");
  await preview.getByRole("button", { name: /^Humanize/ }).click();
  await take(preview, "transform-preview.png");

  const chords = await open("overcast", "Gull Parade");
  await chords.getByRole("button", { name: "Ideas", exact: true }).click();
  await chords.getByRole("button", { name: /^Idea 3,/ }).click();
  await take(chords, "chord-ideas.png");

  const ideas = await open("slate", "Breakwater");
  await ideas.getByRole("button", { name: "Reed bass", exact: true }).click();
  await ideas.getByRole("tab", { name: "Generate" }).click();
  await ideas.getByRole("combobox", { name: "As", exact: true }).selectOption("melody");
  const contour = ideas.getByTestId("contour");
  await contour.scrollIntoViewIfNeeded();
  const field = await contour.boundingBox();
  const curve = [0.2, 0.45, 0.4, 0.8, 0.95, 0.6, 0.7, 0.25];
  for (const [i, height] of curve.entries()) {
    const x = field.x + 4 + (i / (curve.length - 1)) * (field.width - 8);
    await ideas.mouse.move(x, field.y + field.height * (1 - height));
    if (i === 0) await ideas.mouse.down();
  }
  await ideas.mouse.up();
  await ideas.getByRole("button", { name: "Generate", exact: true }).click();
  await ideas.getByRole("button", { name: "Star idea 3", exact: true }).click();
  await ideas.getByRole("button", { name: /^Idea 6,/ }).click();
  await take(ideas, "ideas.png");

  const line = await open("overcast", "Slack Water");
  await line.getByRole("button", { name: "Reed bass", exact: true }).click();
  await line.getByRole("button", { name: "Fold Harbour kit" }).click();
  await line.getByTestId("sheet").focus();
  for (const key of ["n", "n", "n", "Control+ArrowUp", "Alt+n", "Alt+n"]) {
    await line.keyboard.press(key);
  }
  await line.getByRole("button", { name: "Chord G7sus4" }).click();
  await take(line, "pitch-grid.png");

  const entry = await open("overcast", "Slack Water");
  await entry.getByRole("button", { name: "Pattern Lamps up" }).click();
  await entry.getByRole("button", { name: "Reed bass", exact: true }).click();
  await entry.getByRole("button", { name: "Fold Harbour kit" }).click();
  await entry.keyboard.press("i");
  for (const key of ["4", "9", "KeyA", "KeyD", "KeyG", "9", "v", "KeyH", "Enter", "3", "KeyG"]) {
    await entry.keyboard.press(key);
  }
  await take(entry, "step-entry.png");

  /** Plays keys for so many ms each, with a little between. */
  const playKeys = async (page, keys, hold = 170, rest = 110) => {
    for (const key of keys) {
      await page.keyboard.down(key);
      await page.waitForTimeout(hold);
      await page.keyboard.up(key);
      await page.waitForTimeout(rest);
    }
  };

  const keys = await open("overcast", "Slack Water");
  await keys.getByRole("button", { name: "Glass keys", exact: true }).click();
  await keys.getByRole("button", { name: "Fold Harbour kit" }).click();
  await keys.keyboard.press(";");
  await keys.getByRole("button", { name: "Play", exact: true }).click();
  await playKeys(keys, ["a", "d", "f", "h", "k", "h", "f", "d"]);
  await keys.waitForFunction(() => window.hailstep.position()?.tick > 7900);
  await playKeys(keys, ["d", "g", "h", "l", "j", "h"], 260, 160);
  await keys.getByTestId("played-strip").focus();
  await keys.keyboard.press("End");
  await keys.keyboard.press("ArrowLeft");
  await keys.keyboard.down("a");
  await keys.keyboard.down("f");
  await take(keys, "play.png");

  const devices = await open("slate", "Breakwater");
  await devices.getByRole("button", { name: "Reed bass", exact: true }).click();
  await devices.getByRole("button", { name: "MIDI devices" }).click();
  await devices.getByRole("button", { name: "Open the simulated controller" }).click();
  await devices.evaluate(() => {
    const { controller } = window.hailstep;
    controller.press(55, 100);
    controller.wheel(3000);
  });
  await take(devices, "devices.png");

  const exporting = await open("overcast", "Night Ferry");
  await exporting.keyboard.press("Control+e");
  const dialog = exporting.getByRole("dialog", { name: "Export" });
  await dialog.getByRole("radio", { name: /^WAV/ }).check({ force: true });
  await dialog.getByRole("combobox", { name: "Files" }).selectOption("tracks");
  await dialog.getByRole("combobox", { name: "Level" }).selectOption("to a loudness");
  const loops = dialog.getByRole("spinbutton", { name: "Loops of the pattern" });
  await loops.fill("24");
  await loops.press("Enter");
  await dialog.getByRole("button", { name: "Export", exact: true }).click();
  await exporting.waitForFunction(() => document.querySelector("progress")?.value > 0.2);
  await take(exporting, "export.png");

  const importing = await open("slate", "Night Ferry");
  await importing.keyboard.press("Control+e");
  const score = importing.getByRole("dialog", { name: "Export" });
  await score.getByRole("radio", { name: /^Score/ }).check({ force: true });
  const [made] = await Promise.all([
    importing.waitForEvent("download"),
    score.getByRole("button", { name: "Export", exact: true }).click(),
  ]);
  const file = { name: "night-ferry.musicxml", mimeType: "text/xml" };
  await importing
    .getByLabel("File to import")
    .setInputFiles({ ...file, buffer: readFileSync(await made.path()) });
  await importing.getByRole("radio", { name: /New tracks here/ }).click();
  await importing.locator("[data-sonner-toast]").waitFor({ state: "detached", timeout: 15_000 });
  await take(importing, "import.png");

  const heard = await open("overcast", "Breakwater");
  const give = async () => {
    await heard
      .getByLabel("File to import")
      .setInputFiles({ name: "Quay.wav", mimeType: "audio/wav", buffer: beat() });
    await heard.getByTestId("recording-picture").waitFor();
  };
  await give();
  await heard.getByRole("button", { name: /^Put into/ }).click();
  await heard.getByRole("group", { name: "Recording behind the pattern" }).waitFor();
  await give();
  await heard.screenshot({ path: path.join(folder, "recording.png") });
  await heard.keyboard.press("Escape");
  console.log("recording.png");
  await heard.context().close();
} finally {
  await browser.close();
  await server.stop();
  rmSync(data, { recursive: true, force: true });
}
