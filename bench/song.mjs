// The song strip: frames of scrolling and editing the sheet under a strip of 200 sections, against none.
import { line, longFrames, median, note, openProject, projectWith, withBrowser } from "./page.mjs";

await withBrowser(4768, async (context) => {
  const start = await context.newPage();
  const make = () => Array.from({ length: 64 }, (_, i) => note(`n${i}`, i * 240, 42, 100));
  const none = await projectWith(start, "No song", 4, make);
  const long = await projectWith(start, "Two hundred sections", 4, make);
  const { project, revision } = await (await start.request.get(`/api/projects/${long}`)).json();
  const { name, tempo, metre, key } = project;
  const song = Array.from({ length: 200 }, (_, i) => ({ id: `s${i}`, pattern: "a", times: 1 }));
  const head = { name, tempo, metre, key, song };
  const saved = await start.request.patch(`/api/projects/${long}`, {
    data: { revision, change: { head } },
  });
  if (!saved.ok()) throw new Error(await saved.text());
  await start.close();

  /** ms of work in the frames of a stroke that paints, and the share of long ones, while it plays. */
  const measure = async (id, open) => {
    const page = await openProject(context, id);
    if (open) await page.keyboard.press("Alt+s");
    await page.keyboard.press("Alt+p");
    await page.getByRole("button", { name: "Play", exact: true }).click();
    await page.waitForFunction(() => window.hailstep.counts().sent > 10);
    const sheet = await page.getByTestId("sheet").boundingBox();
    const strokes = async () => {
      for (let row = 0; row < 2; row++) {
        const y = sheet.y + 80 + 31 * row;
        await page.mouse.move(sheet.x + 20, y);
        await page.mouse.down();
        await page.mouse.move(sheet.x + sheet.width - 30, y, { steps: 50 });
        await page.mouse.up();
      }
    };
    const cdp = await context.newCDPSession(page);
    await cdp.send("Performance.enable");
    const task = async () => {
      const { metrics } = await cdp.send("Performance.getMetrics");
      return metrics.find((metric) => metric.name === "TaskDuration").value * 1000;
    };
    const before = await task();
    const { share, all } = await longFrames(page, strokes);
    const ms = ((await task()) - before) / all;
    await page.close();
    return { ms, share };
  };
  const rounds = [];
  for (let i = 0; i < 3; i++) {
    rounds.push([
      await measure(none, false),
      await measure(long, true),
      await measure(long, false),
    ]);
  }
  const of = (k) => median(rounds.map((round) => round[k].ms));
  const [plain, open, folded] = [of(0), of(1), of(2)];
  line(
    "frame while painting and playing, song of 200 sections open, against none",
    (open / plain).toFixed(2),
    `wanted below 1.2; ${open.toFixed(1)} ms against ${plain.toFixed(1)} ms of work a frame`,
  );
  line(
    "the same, the song folded to one line",
    (folded / plain).toFixed(2),
    `wanted below 1.2; ${folded.toFixed(1)} ms`,
  );
});
