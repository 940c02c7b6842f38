// What is felt in the browser: a step painted, notes on time while the page is busy.
import { keyTimes, longFrames, median, note, projectWith, withBrowser } from "./page.mjs";

const PITCHES = [35, 36, 37, 38, 39, 40, 42, 44, 45, 46, 47, 49, 50, 51, 54, 70];
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

const step = (id, transform, params) => ({ id, transform, on: true, params, scope: null });
/** Five transforms that all have work to do. */
const FIVE = [
  step("a", "swing", { amount: 58 }),
  step("b", "humanize", { velocity: 12, timing: 6, seed: 4 }),
  step("c", "velocity", { way: "accent", beats: "1 3", add: 14 }),
  step("d", "alternate-pan", { width: 50 }),
  step("e", "quantize", { strength: 30 }),
];

await withBrowser(4759, async (context) => {
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
  await page.close();

  // Dragging across 64 steps of a lane, against a page that does nothing.
  const drag = await context.newPage();
  const wide = await projectWith(drag, "Drag", 4, () => []);
  await drag.goto(`/p/${wide}`);
  await drag.waitForFunction(() => window.hailstep !== undefined);
  await drag.waitForTimeout(600);
  const sheet = await drag.getByTestId("sheet").boundingBox();
  const hat = await drag.getByRole("button", { name: "Closed hat", exact: true }).boundingBox();
  const y = hat.y + hat.height / 2;
  const idle = await longFrames(drag, () => drag.waitForTimeout(3000));
  const busy = await longFrames(drag, async () => {
    for (let round = 0; round < 3; round++) {
      const button = round % 2 === 0 ? "left" : "right";
      await drag.mouse.move(sheet.x + 15, y);
      await drag.mouse.down({ button });
      await drag.mouse.move(sheet.x + sheet.width - 18, y, { steps: 128 });
      await drag.mouse.up({ button });
    }
  });
  const percent = ({ share }) => `${(100 * share).toFixed(1)} %`;
  console.log(
    "frames over 1/30 s while dragging across 64 steps, against idle".padEnd(66),
    percent(busy).padStart(7),
    ` (idle ${percent(idle)}; of ${busy.all} and ${idle.all} frames)`,
  );
  await drag.close();

  // A slider of a chain of five over 5 000 notes, against drawing them all again.
  const chained = await context.newPage();
  const five = await projectWith(chained, "Five", 4, many, { chain: FIVE });
  await chained.goto(`/p/${five}`);
  await chained.waitForFunction(() => window.hailstep !== undefined);
  await chained.waitForTimeout(800);
  const slider = chained.getByTestId("step-swing").getByRole("slider", { name: "Swing" });
  const [moved, painted] = [[], []];
  for (let round = 0; round < 3; round++) {
    await slider.focus();
    moved.push(
      ...(await keyTimes(
        chained,
        (i) => chained.keyboard.press(i % 2 ? "ArrowLeft" : "ArrowRight"),
        12,
      )),
    );
    await chained.getByTestId("sheet").focus();
    painted.push(
      ...(await keyTimes(chained, (i) => chained.keyboard.press(i % 2 ? "-" : "+"), 12)),
    );
  }
  console.log(
    "chain of five on 5 004 notes: slider to painted, against painting".padEnd(66),
    (median(moved) / median(painted)).toFixed(2).padStart(7),
    ` (wanted below 3; ${median(moved).toFixed(1)} ms against ${median(painted).toFixed(1)} ms)`,
  );
  await chained.close();

  const fast = await context.newPage();
  const rolls = () =>
    PITCHES.flatMap((pitch) =>
      Array.from({ length: 128 }, (_, i) => note(`${pitch}-${i}`, i * 60, pitch, 50)),
    );
  const rolling = await projectWith(fast, "Rolls", 2, rolls, { chain: FIVE, bpm: 180 });
  await fast.goto(`/p/${rolling}`);
  await fast.waitForFunction(() => window.hailstep !== undefined);
  await fast.getByRole("button", { name: "Play", exact: true }).click();
  await fast.waitForFunction(() => window.hailstep.counts().sent > 16);
  const began = await fast.evaluate(() => [performance.now(), window.hailstep.sent().at(-1).asked]);
  await fast.waitForTimeout(30_000);
  const heard = await fast.evaluate(() => window.hailstep.counts());
  const ended = await fast.evaluate(() => [performance.now(), window.hailstep.sent().at(-1).asked]);
  // An audio thread with more to do than it can falls behind the clock on the wall.
  const pace = (1000 * (ended[1] - began[1])) / (ended[0] - began[0]);
  console.log(
    "notes late, 16 lanes of 1/64 at 180 BPM with a chain of five, 30 s".padEnd(66),
    String(heard.late).padStart(7),
    ` (wanted 0; of ${heard.sent} sent; audio ran at ${pace.toFixed(3)} of the wall clock)`,
  );
});
