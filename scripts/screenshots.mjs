// npm run screenshots: the pictures of docs/screenshots, from the demo data, at 1280x800.
import { mkdirSync, mkdtempSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import path from "node:path";
import { chromium } from "@playwright/test";
import { ROOT, ensureBuilt, ensureChromium } from "./setup.mjs";
import { startServer } from "./server.mjs";

const folder = path.join(ROOT, "docs", "screenshots");
mkdirSync(folder, { recursive: true });
if (!ensureBuilt()) process.exit(1);
const data = mkdtempSync(path.join(tmpdir(), "hailstep-pictures-"));
const server = await startServer({ port: 4757, data });
const browser = await chromium.launch({
  executablePath: ensureChromium(),
  args: ["--no-sandbox", "--no-first-run", "--disable-background-networking"],
});

async function open(theme, name) {
  const context = await browser.newContext({
    baseURL: server.url,
    viewport: { width: 1280, height: 800 },
  });
  const page = await context.newPage();
  await page.addInitScript((t) => localStorage.setItem("hailstep-theme", t), theme);
  await page.goto("/");
  if (name) {
    await page.getByRole("link", { name: `Open ${name}` }).click();
    await page.waitForFunction(() => window.hailstep !== undefined);
  }
  await page.waitForTimeout(900);
  return page;
}

async function take(page, file) {
  await page.waitForTimeout(400);
  await page.screenshot({ path: path.join(folder, file) });
  await page.context().close();
  console.log(file);
}

try {
  await take(await open("overcast"), "library.png");

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

  const preview = await open("overcast", "Slack Water");
  await preview.getByRole("button", { name: "Reed bass", exact: true }).click();
  await preview.getByRole("button", { name: /^Reverse/ }).click();
  await preview.getByRole("button", { name: "Add a transform" }).click();
  await preview.getByRole("button", { name: /^Transpose/ }).click();
  const degrees = preview.getByRole("spinbutton", { name: "Degrees" });
  await degrees.fill("2");
  await degrees.press("Enter");
  await preview.getByRole("button", { name: "Add a transform" }).click();
  await preview.getByRole("button", { name: /^Humanize/ }).click();
  await take(preview, "transform-preview.png");

  const ideas = await open("slate", "Breakwater");
  await ideas.getByRole("button", { name: "Reed bass", exact: true }).click();
  await ideas.getByRole("tab", { name: "Generate" }).click();
  await ideas.getByRole("button", { name: "Generate", exact: true }).click();
  await take(ideas, "ideas.png");
} finally {
  await browser.close();
  await server.stop();
  rmSync(data, { recursive: true, force: true });
}
