// What the browser benchmarks share: projects, and times from a press to the painted frame.
import { mkdtempSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import path from "node:path";
import { chromium } from "@playwright/test";
import { startServer } from "../scripts/server.mjs";

/** Runs work against a server and a browser of its own. */
export async function withBrowser(port, work) {
  const data = mkdtempSync(path.join(tmpdir(), "hailstep-bench-"));
  const server = await startServer({ port, data });
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
    await work(context, server.url);
  } finally {
    await browser.close();
    await server.stop();
    rmSync(data, { recursive: true, force: true });
  }
}

/** One line of the report. */
export function line(what, value, about) {
  console.log(what.padEnd(66), String(value).padStart(7), ` (${about})`);
}

/** Opens a project and waits until it is there. */
export async function openProject(context, id) {
  const page = await context.newPage();
  await page.goto(`/p/${id}`);
  await page.waitForFunction(() => window.hailstep !== undefined);
  await page.waitForTimeout(700);
  return page;
}

/** A note with everything it needs. */
export const note = (id, start, pitch, length) => ({
  id,
  start,
  length,
  pitch,
  velocity: 60 + (start % 60),
  pan: 0,
  tune: 0,
  slide: false,
});
export const median = (values) => [...values].sort((a, b) => a - b)[values.length >> 1];

/** A project whose drum (or other) part holds the notes `make` gives for each pad of the first ten lanes. */
export async function projectWith(page, name, bars, make, options = {}) {
  const { chain = [], bpm = null, track = "drums" } = options;
  const made = await page.request.post("/api/projects", { data: { name } });
  const { id, project } = await made.json();
  const { name: _, tempo, metre, key, song } = project;
  const pattern = project.patterns[0];
  const length = bars * 3840;
  const parts = pattern.parts.map((part) => ({
    pattern: pattern.id,
    part:
      part.track === track
        ? { ...part, length, notes: make(), chain }
        : { ...part, length, notes: [] },
  }));
  const change = {
    head: { name, tempo: bpm ?? tempo, metre, key, song },
    patterns: [{ id: "a", name: "A", bars }],
    parts,
  };
  const saved = await page.request.patch(`/api/projects/${id}`, { data: { revision: 1, change } });
  if (!saved.ok()) throw new Error(await saved.text());
  return id;
}

/** Frames longer than 1/30 s while `work` goes on, as a share of all. */
export async function longFrames(page, work) {
  await page.evaluate(() => {
    window.frames_ = [];
    let last = performance.now();
    const next = () => {
      const now = performance.now();
      window.frames_.push(now - last);
      last = now;
      window.frameLoop = requestAnimationFrame(next);
    };
    window.frameLoop = requestAnimationFrame(next);
  });
  await work();
  const frames = await page.evaluate(() => {
    cancelAnimationFrame(window.frameLoop);
    return window.frames_.slice(2);
  });
  return {
    share: frames.filter((ms) => ms > 1000 / 30).length / frames.length,
    all: frames.length,
  };
}

/** ms from pressing a key to the end of the frame that shows what it did, for each of some presses. */
export async function keyTimes(page, press, count) {
  await page.evaluate(() => {
    window.times = [];
    window.onKey ??= (event) => {
      const start = event.timeStamp;
      requestAnimationFrame(() => {
        const { port1, port2 } = new MessageChannel();
        port1.onmessage = () => window.times.push(performance.now() - start);
        port2.postMessage(null);
      });
    };
    window.addEventListener("keydown", window.onKey, true);
  });
  for (let i = 0; i < count; i++) {
    await press(i);
    await page.waitForTimeout(150);
  }
  return page.evaluate(() => window.times);
}
