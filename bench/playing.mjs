// Playing in under load: how soon a key sounds, and thirty minutes' worth of notes played into a take.
import { line, note, openProject, projectWith, withBrowser } from "./page.mjs";

/** Notes of thirty minutes at twenty a second, played faster than that: what they leave is the same. */
const NOTES = Number(process.env.NOTES ?? 36_000);
const PER_SECOND = 600;
const KEYS = Number(process.env.KEYS ?? 120);
const BUSY_MS = 100;
const EVERY_MS = 300;

const median = (values) => [...values].sort((a, b) => a - b)[values.length >> 1] ?? 0;

/** Frames of so many ms, as times between them. */
const frames = (page, ms) =>
  page.evaluate(
    (until) =>
      new Promise((done) => {
        const gaps = [];
        const begin = performance.now();
        let last = begin;
        const look = (now) => {
          gaps.push(now - last);
          last = now;
          if (now - begin < until) requestAnimationFrame(look);
          else done(gaps.slice(1));
        };
        requestAnimationFrame(look);
      }),
    ms,
  );

/** Heap after a collection, in bytes. */
async function heapOf(cdp) {
  for (let i = 0; i < 3; i++) await cdp.send("HeapProfiler.collectGarbage");
  const { metrics } = await cdp.send("Performance.getMetrics");
  return metrics.find((metric) => metric.name === "JSHeapUsedSize").value;
}

await withBrowser(4768, async (context) => {
  const start = await context.newPage();
  const lanes = [36, 38, 42, 46, 39, 37, 41, 43, 45, 47, 48, 49, 50, 51, 54, 56];
  const full = await projectWith(start, "Sixteen lanes", 1, () =>
    lanes.flatMap((pitch, k) =>
      Array.from({ length: 32 }, (_, i) => note(`n${k}-${i}`, i * 120, pitch, 60)),
    ),
  );
  const empty = await projectWith(start, "A take", 4, () => []);
  await start.close();

  // Keys while sixteen lanes of 1/32 play and the page is busy a third of the time.
  const page = await openProject(context, full);
  await page.getByText("Reed bass", { exact: true }).first().click();
  await page.keyboard.press(";");
  await page.getByRole("button", { name: "Play", exact: true }).click();
  await page.waitForFunction(() => window.hailstep.counts().sent > 100);
  await page.evaluate(
    ([busy, every]) => {
      window.stalls = [];
      setInterval(() => {
        const begin = performance.now();
        while (performance.now() - begin < busy);
        window.stalls.push([begin, performance.now()]);
      }, every);
    },
    [BUSY_MS, EVERY_MS],
  );
  const keys = ["a", "s", "d", "f", "g", "h", "j", "k"];
  // As a device sends them: each with the time it was played at, heard when the page gets to it.
  await page.evaluate(
    (count) =>
      new Promise((done) => {
        const begin = performance.now() + 50;
        for (let i = 0; i < count; i++) {
          const due = begin + i * 37;
          setTimeout(() => {
            window.hailstep.controller.press(48 + (i % 12), 90, { time: due });
            window.hailstep.controller.lift(48 + (i % 12));
            if (i === count - 1) done();
          }, due - performance.now());
        }
      }),
    KEYS,
  );
  const { delays, beyond } = await page.evaluate(() => {
    const { notes } = window.hailstep.live();
    const rest = (time) => {
      const stall = window.stalls.find(([a, b]) => time >= a - 1 && time < b);
      return stall ? stall[1] - time : 0;
    };
    const all = notes.map((n) => n.delay);
    // A key pressed in a stall waits for its end, and no longer than a frame more.
    const late = notes.filter((n) => n.delay > rest(n.pressed) + 1000 / 60);
    return { delays: all, beyond: late.map((n) => n.delay - rest(n.pressed)) };
  });
  line(
    `live notes later than the stall they met, of ${delays.length}`,
    String(beyond.length),
    `wanted 0; median ${median(delays).toFixed(1)} ms, worst ${Math.max(...delays).toFixed(0)} ms, worst beyond a stall ${Math.max(0, ...beyond).toFixed(0)} ms`,
  );
  const { sent, late } = await page.evaluate(() => window.hailstep.counts());
  line(`notes of the loop late meanwhile, of ${sent}`, String(late), "wanted 0");
  await page.close();

  // The same page idle: the plain way from key to sound.
  const idle = await openProject(context, empty);
  await idle.getByText("Reed bass", { exact: true }).first().click();
  await idle.keyboard.press(";");
  await idle.getByRole("button", { name: "Play", exact: true }).click();
  for (let i = 0; i < KEYS; i++) await idle.keyboard.press(keys[i % 8], { delay: 15 });
  const plain = await idle.evaluate(() => window.hailstep.live().notes.map((n) => n.delay));
  line(
    "key to scheduled start, the loop playing, median in ms",
    median(plain).toFixed(1),
    `worst ${Math.max(...plain).toFixed(1)} ms of ${plain.length}; it sounds with the next block of 2.9 ms`,
  );
  await idle.close();

  // Thirty minutes of playing into a take.
  const take = await openProject(context, empty);
  const cdp = await take.context().newCDPSession(take);
  await cdp.send("Performance.enable");
  await take.getByText("Reed bass", { exact: true }).first().click();
  await take.evaluate(() => {
    const key = "hailstep-settings";
    const kept = JSON.parse(localStorage.getItem(key) ?? "{}");
    localStorage.setItem(key, JSON.stringify({ ...kept, record: "take", countIn: 0 }));
  });
  await take.reload();
  await take.waitForFunction(() => window.hailstep?.controller !== undefined);
  await take.keyboard.press("Alt+r");
  await take.waitForFunction(() => (window.hailstep.position()?.tick ?? 0) > 100);
  await take.evaluate(
    ([count, perSecond]) => {
      let sent = 0;
      const begin = performance.now();
      window.takeDone = false;
      const timer = setInterval(() => {
        const due = Math.min(count, ((performance.now() - begin) / 1000) * perSecond);
        for (; sent < due; sent++) {
          const pitch = 36 + ((sent * 7) % 48);
          window.hailstep.controller.press(pitch, 40 + (sent % 80));
          window.hailstep.controller.lift(pitch);
        }
        if (sent >= count) {
          clearInterval(timer);
          window.takeDone = true;
        }
      }, 50);
    },
    [NOTES, PER_SECOND],
  );
  await take.waitForFunction(() => window.hailstep.played().length > 1200);
  const [heapEarly, early, few] = [
    await heapOf(cdp),
    median(await frames(take, 3000)),
    await take.evaluate(() => window.hailstep.played().length),
  ];
  await take.waitForFunction((n) => window.hailstep.played().length > n, NOTES - 4 * PER_SECOND, {
    timeout: 600_000,
  });
  const late30 = median(await frames(take, 3000));
  await take.waitForFunction(() => window.takeDone);
  const heapLate = await heapOf(cdp);
  line(
    "frame of the page after 30 minutes of playing, against the first",
    (late30 / early).toFixed(2),
    `wanted below 1.2; ${late30.toFixed(1)} ms against ${early.toFixed(1)} ms`,
  );
  line(
    "bytes a remembered note",
    ((heapLate - heapEarly) / (NOTES - few)).toFixed(0),
    `${((heapLate - heapEarly) / 1e6).toFixed(1)} MB for ${NOTES - few} notes; grows with them and nothing else`,
  );
  await take.close();
});
