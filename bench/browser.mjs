// What is felt in the browser: a step painted, notes on time while the page is busy.
import { mkdtempSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import path from "node:path";
import { chromium } from "@playwright/test";
import { startServer } from "../scripts/server.mjs";

const PITCHES = [35, 36, 37, 38, 39, 40, 42, 44, 45, 46, 47, 49, 50, 51, 54, 70];
const note = (id, start, pitch, length) => ({
  id,
  start,
  length,
  pitch,
  velocity: 60 + (start % 60),
  pan: 0,
  tune: 0,
  slide: false,
});
const median = (values) => [...values].sort((a, b) => a - b)[values.length >> 1];

/** A project whose drum part holds the notes `make` gives for each pad of the first ten lanes. */
async function projectWith(page, name, bars, make) {
  const made = await page.request.post("/api/projects", { data: { name } });
  const { id, project } = await made.json();
  const { name: _, tempo, metre, key, song } = project;
  const pattern = project.patterns[0];
  const length = bars * 3840;
  const parts = pattern.parts.map((part) => ({
    pattern: pattern.id,
    part: { ...part, length, notes: part.track === "drums" ? make() : [] },
  }));
  const change = {
    head: { name, tempo, metre, key, song },
    patterns: [{ id: "a", name: "A", bars }],
    parts,
  };
  const saved = await page.request.patch(`/api/projects/${id}`, { data: { revision: 1, change } });
  if (!saved.ok()) throw new Error(await saved.text());
  return id;
}

/** Clicks free steps of the last lane; ms from the press to the end of the frame that shows it. */
async function clickTimes(page, id, clicks) {
  await page.goto(`/p/${id}`);
  await page.waitForFunction(() => window.hailstep !== undefined);
  await page.waitForTimeout(500);
  await page.evaluate(() => {
    window.times = [];
    window.addEventListener(
      "pointerdown",
      (event) => {
        const start = event.timeStamp;
        requestAnimationFrame(() => {
          const { port1, port2 } = new MessageChannel();
          // Runs after this frame's callbacks, in which the sheet is drawn.
          port1.onmessage = () => window.times.push(performance.now() - start);
          port2.postMessage(null);
        });
      },
      true,
    );
  });
  const box = await page.getByTestId("sheet").boundingBox();
  const lane = page.getByRole("button", { name: "Crash", exact: true });
  const row = await lane.boundingBox();
  const y = row.y + row.height / 2;
  for (let i = 0; i < clicks; i++) {
    await page.mouse.click(box.x + 20 + ((i * 37) % (box.width - 60)), y);
    await page.waitForTimeout(120);
  }
  return page.evaluate(() => window.times);
}

const data = mkdtempSync(path.join(tmpdir(), "hailstep-bench-"));
const server = await startServer({ port: 4759, data });
const browser = await chromium.launch({
  executablePath: process.env.CHROMIUM ?? "/usr/bin/chromium",
  args: [
    "--no-sandbox",
    "--no-first-run",
    "--disable-background-networking",
    "--disable-component-update",
  ],
});
try {
  const context = await browser.newContext({
    baseURL: server.url,
    viewport: { width: 1280, height: 800 },
  });
  const page = await context.newPage();

  const many = () =>
    [36, 38, 37, 39, 42, 46, 45, 50, 70].flatMap((pitch) =>
      Array.from({ length: 556 }, (_, i) =>
        note(`${pitch}-${i}`, Math.floor((i * 4 * 3840) / 556), pitch, 25),
      ),
    );
  const full = await projectWith(page, "Full", 4, many);
  const empty = await projectWith(page, "Empty", 4, () => []);
  const [a, b] = [[], []];
  for (let round = 0; round < 3; round++) {
    a.push(...(await clickTimes(page, full, 15)));
    b.push(...(await clickTimes(page, empty, 15)));
  }
  console.log(
    `step click to painted frame: 5 004 notes in view against none`.padEnd(66),
    (median(a) / median(b)).toFixed(2).padStart(7),
    ` (wanted below 2; ${median(a).toFixed(1)} ms against ${median(b).toFixed(1)} ms)`,
  );

  const storm = () =>
    PITCHES.flatMap((pitch) =>
      Array.from({ length: 64 }, (_, i) => note(`${pitch}-${i}`, i * 120, pitch, 100)),
    );
  const id = await projectWith(page, "Storm", 2, storm);
  await page.goto(`/p/${id}`);
  await page.waitForFunction(() => window.hailstep !== undefined);
  await page.getByRole("button", { name: "Play", exact: true }).click();
  await page.waitForFunction(() => window.hailstep.counts().sent > 16);
  await page.evaluate(() => {
    setInterval(() => {
      const until = performance.now() + 100;
      while (performance.now() < until);
    }, 300);
  });
  await page.waitForTimeout(15_000);
  const { sent, late } = await page.evaluate(() => window.hailstep.counts());
  console.log(
    "notes late, 16 lanes of 1/32, page blocked 100 ms in every 300".padEnd(66),
    String(late).padStart(7),
    ` (wanted 0; of ${sent} sent)`,
  );
} finally {
  await browser.close();
  await server.stop();
  rmSync(data, { recursive: true, force: true });
}
