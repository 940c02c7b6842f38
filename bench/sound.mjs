// What sound costs: a demo's mix against its length, voices against each other, 64 of the dearest played live.
import { line, median, note, openProject, projectWith, withBrowser } from "./page.mjs";

/** Where voices may go, in times what the median of them costs. */
const DEAREST = 2;

/** Opens a demo by its name in a page of its own. */
async function openDemo(context, name) {
  const page = await context.newPage();
  await page.goto("/");
  await page
    .getByRole("link", { name: `Open ${name}` })
    .first()
    .click();
  await page.waitForFunction(() => window.hailstep !== undefined);
  return page;
}

await withBrowser(4768, async (context) => {
  // Each demo's first pattern twice, rendered offline by one thread: the middle one of three times.
  const names = [
    "Tidemill",
    "Night Ferry",
    "Lantern Row",
    "Breakwater",
    "Gull Parade",
    "Slack Water",
  ];
  const speeds = [];
  for (const name of names) {
    const page = await openDemo(context, name);
    const speed = await page.evaluate(async () => {
      const { bounce, project } = window.hailstep;
      const now = project();
      const [pattern] = now.patterns;
      const bar = (now.metre.beats * 4 * 960) / now.metre.unit;
      const ticks = 2 * pattern.bars * bar;
      const seconds = (ticks / 960) * (60 / now.tempo);
      const ask = { pattern: pattern.id, loop: true, tail: 0 };
      await bounce(now, 0, bar, ask);
      const times = [];
      for (let k = 0; k < 3; k++) {
        const begin = performance.now();
        await bounce(now, 0, ticks, ask);
        times.push(seconds / ((performance.now() - begin) / 1000));
      }
      return times;
    });
    speeds.push([name, median(speed)]);
    await page.close();
  }
  speeds.sort((a, b) => a[1] - b[1]);
  line(
    "slowest demo rendered, in times its length",
    speeds[0][1].toFixed(1),
    `wanted 15 or more; ${speeds.map(([name, speed]) => `${name} ${speed.toFixed(0)}`).join(", ")}`,
  );

  // A song of each demo's first pattern, a minute and a half of it, from the press to the file.
  const exports = [];
  for (const name of names) {
    const page = await openDemo(context, name);
    const { tempo, metre, patterns } = await page.evaluate(() => window.hailstep.project());
    const round = ((patterns[0].bars * metre.beats * 4) / metre.unit) * (60 / tempo);
    const rounds = Math.min(99, Math.ceil(90 / round));
    await page.keyboard.press("Control+e");
    const dialog = page.getByRole("dialog", { name: "Export" });
    await dialog.getByRole("radio", { name: /^WAV/ }).check({ force: true });
    const field = dialog.getByRole("spinbutton", { name: "Rounds of the pattern" });
    await field.fill(String(rounds));
    await field.press("Enter");
    const begin = performance.now();
    const done = page.waitForEvent("download", { timeout: 300_000 });
    await dialog.getByRole("button", { name: "Export", exact: true }).click();
    await done;
    exports.push([name, (rounds * round * 1000) / (performance.now() - begin)]);
    await page.close();
  }
  exports.sort((a, b) => a[1] - b[1]);
  line(
    "slowest demo exported as WAV, in times its length",
    exports[0][1].toFixed(1),
    `wanted 10 or more; ${exports.map(([name, speed]) => `${name} ${speed.toFixed(1)}`).join(", ")}`,
  );

  // Voices against each other: a second of 32 of each.
  const start = await context.newPage();
  const empty = await projectWith(start, "Empty", 1, () => []);
  await start.close();
  const page = await openProject(context, empty);
  const costs = await page.evaluate(async () => {
    const { bounceHeld, project, sounds } = window.hailstep;
    const now = project();
    const notes = Array.from({ length: 32 }, (_, i) => ({
      pitch: 48 + (i % 24),
      velocity: 60,
      from: 0.01 * i,
      to: 1.6,
    }));
    const cost = async (sound, list) => {
      const one = {
        ...now,
        tracks: now.tracks.map((t) => (t.id === "bass" ? { ...t, sound } : t)),
      };
      let best = Infinity;
      for (let round = 0; round < 4; round++) {
        const begin = performance.now();
        await bounceHeld(one, "bass", list, 2);
        best = Math.min(best, performance.now() - begin);
      }
      return best;
    };
    const found = [];
    for (const sound of sounds()) {
      const none = await cost(sound, []);
      found.push([sound, ((await cost(sound, notes)) - none) / notes.length]);
    }
    return found;
  });
  const middle = median(costs.map(([, ms]) => ms));
  costs.sort((a, b) => b[1] - a[1]);
  line(
    "dearest voice against the median of all",
    (costs[0][1] / middle).toFixed(2),
    `wanted ${DEAREST} at most; ${costs
      .slice(0, 4)
      .map(([id, ms]) => `${id} ${(ms / middle).toFixed(2)}`)
      .join(", ")}`,
  );

  // 64 voices of it, held while the kit plays, against the wall clock.
  const [dearest] = costs[0];
  const loop = await context.newPage();
  const busy = await projectWith(loop, "Sixteenths", 1, () =>
    Array.from({ length: 16 }, (_, i) => note(`h${i}`, i * 240, 42, 100)),
  );
  await loop.close();
  const live = await openProject(context, busy);
  await live.getByText("Reed bass", { exact: true }).first().click();
  await live.getByRole("tab", { name: "Sound" }).click();
  await live.locator(`[data-sound=${dearest}]`).click();
  await live.keyboard.press(";");
  await live.getByRole("button", { name: "Play", exact: true }).click();
  await live.waitForFunction(() => window.hailstep.counts().sent > 4);
  const ran = await live.evaluate(async () => {
    const { controller, counts, audioClock } = window.hailstep;
    for (let i = 0; i < 64; i++) controller.press(32 + i, 70);
    await new Promise((done) => setTimeout(done, 500));
    const [audio, wall, before] = [audioClock(), performance.now(), counts()];
    await new Promise((done) => setTimeout(done, 8000));
    const took = (performance.now() - wall) / 1000;
    const after = counts();
    for (let i = 0; i < 64; i++) controller.lift(32 + i);
    return {
      ratio: (audioClock() - audio) / took,
      sent: after.sent - before.sent,
      late: after.late - before.late,
    };
  });
  line(
    `audio clock against the wall's, 64 voices of ${dearest} held`,
    ran.ratio.toFixed(3),
    `wanted 1.000; ${ran.late} of ${ran.sent} notes of the loop late, wanted 0`,
  );
  await live.close();

  // From opening to the first sound: a demo against an empty project.
  const first = async (open) => {
    const took = [];
    for (let round = 0; round < 5; round++) {
      const one = await open();
      await one.waitForTimeout(800);
      const ms = await one.evaluate(async () => {
        const button = document.querySelector('button[aria-label="Play"]');
        const begin = performance.now();
        button.click();
        while (window.hailstep.position() === null) await new Promise((go) => setTimeout(go, 2));
        return performance.now() - begin;
      });
      took.push(ms);
      await one.close();
    }
    return median(took);
  };
  const none = await first(() => openProject(context, empty));
  const some = await first(() => openDemo(context, "Lantern Row"));
  line(
    "first sound after opening a demo, in ms beyond an empty project",
    (some - none).toFixed(0),
    `wanted below 300; ${some.toFixed(0)} against ${none.toFixed(0)}`,
  );
});
