// What is felt on the melodic side: ideas asked for while playing, a pitch grid of many notes.
import {
  keyTimes,
  line,
  longFrames,
  median,
  note,
  openProject,
  projectWith,
  withBrowser,
} from "./page.mjs";

const BARS = 64;
const MANY = 10_000;
/** Ten thousand notes over 64 bars, three octaves of C minor. */
const MINOR = [0, 2, 3, 5, 7, 8, 10];
const crowd = () =>
  Array.from({ length: MANY }, (_, i) =>
    note(
      `n${i}`,
      Math.floor((i * BARS * 3840) / MANY),
      36 + 12 * (i % 3) + MINOR[(i * 5) % 7],
      180,
    ),
  );
const takeBass = (page) => page.getByRole("button", { name: "Reed bass", exact: true }).click();
const ms = (value) => `${value.toFixed(1)} ms`;

await withBrowser(4761, async (context) => {
  const start = await context.newPage();
  const eight = await projectWith(start, "Eight", 8, () =>
    Array.from({ length: 512 }, (_, i) => note(`n${i}`, i * 60, 36 + (i % 3) * 3, 60)),
  );
  const full = await projectWith(start, "Crowd", BARS, crowd, { track: "bass" });
  // As good as empty: two notes in the last bar, so that the grid has the same rows.
  const last = (BARS - 1) * 3840;
  const ends = () => [note("low", last, 36, 180), note("high", last, 70, 180)];
  const empty = await projectWith(start, "Nothing", BARS, ends, { track: "bass" });
  await start.close();

  // 24 ideas of 8 bars, generated again and again while the loop plays.
  const asking = await openProject(context, eight);
  await takeBass(asking);
  await asking.getByRole("tab", { name: "Generate" }).click();
  await asking.getByRole("button", { name: "Generate", exact: true }).click();
  await asking.waitForTimeout(600);
  await asking.getByRole("button", { name: "Play", exact: true }).click();
  await asking.waitForTimeout(1500);
  const idle = await longFrames(asking, () => asking.waitForTimeout(4000));
  const dice = asking.getByRole("button", { name: "Generate with a new seed" });
  const busy = await longFrames(asking, async () => {
    for (let round = 0; round < 8; round++) {
      // A sheet holds twelve: two of them one right after the other.
      await dice.click();
      await dice.click();
      await asking.waitForTimeout(420);
    }
  });
  const { sent, late } = await asking.evaluate(() => window.hailstep.counts());
  line(
    "notes late while 24 ideas of 8 bars are generated, 8 times",
    late,
    `wanted 0; of ${sent} sent`,
  );
  line(
    "frames over 1/30 s meanwhile, less those of the idle loop",
    `${(100 * Math.max(0, busy.share - idle.share)).toFixed(1)} %`,
    `wanted below 5 %; ${(100 * busy.share).toFixed(1)} % against ${(100 * idle.share).toFixed(1)} %`,
  );
  await asking.close();

  // Scrolling and zooming a pitch grid of ten thousand notes, against an empty one.
  const times = async (id) => {
    const page = await openProject(context, id);
    await takeBass(page);
    await page.getByTestId("sheet").focus();
    const views = ["+", "-", "Shift+PageDown", "Shift+PageUp"];
    const near = await keyTimes(page, (i) => page.keyboard.press(views[i % 4]), 40);
    // All bars in view, as far as the sheet goes.
    await page.keyboard.press("0");
    await page.keyboard.press("0");
    await page.waitForTimeout(200);
    const far = await keyTimes(page, (i) => page.keyboard.press(i % 2 ? "-" : "+"), 20);
    return { page, near, far };
  };
  const [crowded, bare] = [await times(full), await times(empty)];
  for (const [what, key] of [
    ["scrolled and zoomed", "near"],
    ["with all of them in view", "far"],
  ]) {
    const [a, b] = [median(crowded[key]), median(bare[key])];
    line(
      `pitch grid of 10 000 notes ${what}, against none`,
      (a / b).toFixed(2),
      `wanted below 2; ${ms(a)} against ${ms(b)}`,
    );
  }
  await bare.page.close();

  // A transform on all ten thousand, from the key to the painted frame, against painting alone.
  const { page } = crowded;
  await page.keyboard.press("Control+a");
  // Once each before measuring: the first of all would bear what the others find ready.
  for (const key of ["r", "Control+ArrowUp", "a", "h", "q"]) {
    await keyTimes(page, () => page.keyboard.press(key), 2);
  }
  const painting = median(await keyTimes(page, (i) => page.keyboard.press(i % 2 ? "-" : "+"), 16));
  for (const [name, key] of [
    ["reverse", "r"],
    ["transpose", "Control+ArrowUp"],
    ["snap to scale", "a"],
    ["humanize", "h"],
    ["quantize", "q"],
  ]) {
    const took = median(await keyTimes(page, () => page.keyboard.press(key), 8));
    line(
      `${name} on 10 000 selected notes, key to painted, against painting`,
      (took / painting).toFixed(2),
      `wanted below 3; ${ms(took)} against ${ms(painting)}`,
    );
  }
});
