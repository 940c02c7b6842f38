// A library of thousands, and what others wait for while large files come and go.
import { createHash } from "node:crypto";
import { Worker } from "node:worker_threads";
import { waveFile } from "../scripts/wave.mjs";
import { line, note, withBrowser } from "./page.mjs";

const STEPS = [3, 1000, 10_000];
const PAD = {
  start: 0,
  tune: 0,
  stretch: 1,
  drive: 0,
  filter: "off",
  cutoff: 20_000,
  resonance: 0.71,
  decay: 0,
  pan: 0,
  level: 0,
  choke: 0,
};
const kb = (bytes) => `${(bytes / 1000).toFixed(1)} KB`;

/** Asks a small thing again and again, in a thread of its own, until it is told to stop. */
const ASKING = `
const { parentPort, workerData } = require("node:worker_threads");
let going = true;
parentPort.once("message", () => (going = false));
(async () => {
  const times = [];
  while (going) {
    const start = performance.now();
    await (await fetch(workerData)).arrayBuffer();
    times.push(performance.now() - start);
    await new Promise((resolve) => setTimeout(resolve, 5));
  }
  parentPort.postMessage(times);
})();
`;

/** Longest wait of small requests while `work` goes on, in ms. */
async function waits(address, work) {
  const worker = new Worker(ASKING, { eval: true, workerData: address });
  await new Promise((resolve) => setTimeout(resolve, 300));
  const start = performance.now();
  await work();
  const all = performance.now() - start;
  worker.postMessage("stop");
  const times = await new Promise((resolve) => worker.once("message", resolve));
  return { longest: Math.max(...times.slice(5)), count: times.length, all };
}

await withBrowser(4765, async (context, base) => {
  const page = await context.newPage();
  const { request } = page;
  const list = async () => (await (await request.get("/api/projects?limit=1")).json()).total;
  const { projects } = await (await request.get("/api/projects")).json();
  const { id } = projects[0];

  // The first view of the library, against the same with the demos alone.
  const seen = [];
  for (const count of STEPS) {
    for (let have = await list(); have < count; have += 50) {
      await Promise.all(
        Array.from({ length: Math.min(50, count - have) }, (_, i) =>
          request.post(`/api/projects/${projects[i % projects.length].id}/duplicate`),
        ),
      );
    }
    const bytes = (await (await request.get("/")).body()).length;
    const times = [];
    for (let round = 0; round < 5; round++) {
      await page.goto("/");
      await page.getByRole("heading", { level: 2 }).nth(2).waitFor();
      // The cards are in the page as it comes: they are what is painted first.
      await page.waitForFunction(() => performance.getEntriesByType("paint").length > 1);
      times.push(
        await page.evaluate(
          () => performance.getEntriesByName("first-contentful-paint")[0].startTime,
        ),
      );
    }
    times.sort((a, b) => a - b);
    const search = performance.now();
    await request.get("/api/projects?search=parade&sort=name&limit=24");
    seen.push({ count, bytes, ms: times[2], search: performance.now() - search });
  }
  for (const { count, bytes, ms, search } of seen) {
    line(
      `library of ${count}: first paint of its cards, against ${STEPS[0]}`,
      (ms / seen[0].ms).toFixed(2),
      `${kb(bytes)}, ${ms.toFixed(0)} ms, a search ${search.toFixed(0)} ms`,
    );
  }

  // What others wait for meanwhile.
  const small = `${base}/api/projects/${id}`;
  const calm = await waits(small, () => new Promise((resolve) => setTimeout(resolve, 2000)));
  const demo = (await (await request.get(`/api/projects/${id}`)).json()).project;
  const many = Array.from({ length: 90_000 }, (_, i) =>
    note(`n${i}`, i % 100_000, 36 + (i % 60), 100),
  );
  const [first] = demo.patterns;
  const crowded = {
    ...first,
    parts: first.parts.map((part) => ({ ...part, length: 3840 * 64, notes: many, chain: [] })),
  };
  const file = JSON.stringify({
    format: "hailstep-project",
    version: 1,
    project: { ...demo, song: [], patterns: [{ ...crowded, bars: 64 }] },
  });
  let large = null;
  const coming = await waits(small, async () => {
    const answer = await request.post("/api/import?name=large.json", { data: Buffer.from(file) });
    if (!answer.ok()) throw new Error(await answer.text());
    large = (await answer.json()).id;
  });
  const going = await waits(small, async () => {
    const answer = await request.get(`/api/projects/${large}/export?format=mid`);
    if (!answer.ok()) throw new Error(await answer.text());
  });
  for (const [what, { longest, count, all }] of [
    ["import of a large file", coming],
    ["its export as MIDI", going],
  ]) {
    line(
      `longest wait of others during the ${what}, against none`,
      (longest / calm.longest).toFixed(2),
      `${longest.toFixed(0)} ms of ${count} requests in ${(all / 1000).toFixed(1)} s, ${(file.length / 1e6).toFixed(0)} MB; calm ${calm.longest.toFixed(0)} ms`,
    );
  }

  // Samples near the most that one may hold, out and in again.
  const pads = [];
  for (let n = 0; n < 8; n++) {
    const answer = await request.post(`/api/samples?name=long${n}.wav`, {
      data: wave(n, 19_000_000),
    });
    if (!answer.ok()) throw new Error(await answer.text());
    const { id: sample } = await answer.json();
    pads.push({ ...PAD, pitch: 36 + n, sample: { id: sample, name: `long${n}` } });
  }
  const {
    id: kept,
    revision,
    project,
  } = await (await request.post("/api/projects", { data: { name: "Samples" } })).json();
  const tracks = project.tracks.map((track) =>
    track.kind === "drums" ? { ...track, kit: { level: 0, pitch: 0, time: 1, pads } } : track,
  );
  const put = await request.patch(`/api/projects/${kept}`, {
    data: { revision, change: { tracks } },
  });
  if (!put.ok()) throw new Error(await put.text());
  const timeout = 120_000;
  let sent = null;
  const out = await waits(small, async () => {
    sent = await (
      await request.get(`/api/projects/${kept}/export?format=json`, { timeout })
    ).body();
  });
  const back = await waits(small, async () => {
    const answer = await request.post("/api/import?name=samples.json", { data: sent, timeout });
    if (!answer.ok()) throw new Error(await answer.text());
  });
  for (const [what, { longest, all }] of [
    ["export", out],
    ["import", back],
  ]) {
    line(
      `longest wait of others during the ${what} of eight long samples`,
      (longest / calm.longest).toFixed(2),
      `${longest.toFixed(0)} ms in ${(all / 1000).toFixed(1)} s, ${(sent.length / 1e6).toFixed(0)} MB`,
    );
  }
});

/** Noise that nothing makes smaller, as a WAV of so many bytes: 16-bit stereo at 44.1 kHz. */
function wave(seed, size) {
  const bytes = Buffer.alloc(size - 44);
  let hash = createHash("sha256").update(String(seed)).digest();
  for (let at = 0; at < bytes.length; at += hash.length) {
    hash.copy(bytes, at);
    hash = createHash("sha256").update(hash).digest();
  }
  const samples = new Int16Array(bytes.buffer, bytes.byteOffset, bytes.length / 2);
  return waveFile(samples, { rate: 44_100, channels: 2 });
}
