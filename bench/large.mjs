// One note added to a long pattern of many tracks, against the same in a new project.
import { line, median, note, openProject, projectWith, withBrowser } from "./page.mjs";

const BARS = 46;
const MORE = 13;
const BAR = 3840;

/** 46 bars of fifteen tracks: a kit of sixteenths and eighths, and lines of eighths. */
async function large(page) {
  const length = BARS * BAR;
  const every = (step, pitch) =>
    Array.from({ length: length / step }, (_, i) =>
      note(`${pitch}-${i}`, i * step, pitch, step / 2),
    );
  const hits = () => [...every(240, 42), ...every(960, 36), ...every(1920, 38)];
  const id = await projectWith(page, "Large", BARS, hits);
  const { project, revision } = await (await page.request.get(`/api/projects/${id}`)).json();
  const [pattern] = project.patterns;
  const bass = project.tracks.find(({ kind }) => kind === "melody");
  const part = pattern.parts.find(({ track }) => track === bass.id);
  const names = Array.from({ length: MORE }, (_, i) => `t${i}`);
  const tracks = names.map((name) => ({ ...bass, id: name, name }));
  const parts = [bass.id, ...names].map((track, i) => ({
    pattern: pattern.id,
    part: { ...part, track, length, notes: every(480, 48 + (i % 12)) },
  }));
  const change = {
    tracks,
    trackOrder: [...project.tracks.map((track) => track.id), ...names],
    parts,
  };
  const saved = await page.request.patch(`/api/projects/${id}`, { data: { revision, change } });
  if (!saved.ok()) throw new Error(await saved.text());
  return id;
}

await withBrowser(4771, async (context) => {
  const start = await context.newPage();
  const many = await large(start);
  const none = await projectWith(start, "None", 2, () => []);
  await start.close();

  /** ms from a press that adds a note to its painted frame, whole frames of the screen; and of the page's work for it. */
  const measure = async (id) => {
    const page = await openProject(context, id);
    const sheet = await page.getByTestId("sheet").boundingBox();
    const row = await page.getByRole("button", { name: "Crash", exact: true }).boundingBox();
    const y = row.y + row.height / 2;
    const cdp = await context.newCDPSession(page);
    await cdp.send("Performance.enable");
    const worked = async () => {
      const { metrics } = await cdp.send("Performance.getMetrics");
      return metrics.find((metric) => metric.name === "TaskDuration").value * 1000;
    };
    await page.evaluate(() => {
      window.times = [];
      const onDown = (event) => {
        const start = event.timeStamp;
        requestAnimationFrame(() => {
          const { port1, port2 } = new MessageChannel();
          port1.onmessage = () => window.times.push(performance.now() - start);
          port2.postMessage(null);
        });
      };
      window.addEventListener("pointerdown", onDown, true);
    });
    const work = [];
    for (let i = 0; i < 16; i++) {
      const before = await worked();
      await page.mouse.click(sheet.x + 24 + ((i * 61) % (sheet.width - 80)), y);
      // The frame that shows it, and what follows from it; the meters go on after that.
      await page.waitForTimeout(100);
      work.push((await worked()) - before);
      // Until it is saved and quiet again.
      await page.waitForTimeout(800);
    }
    const painted = await page.evaluate(() => window.times);
    await page.close();
    return { painted, work };
  };
  const [full, empty] = [[], []];
  for (let round = 0; round < 2; round++) {
    full.push(await measure(many));
    empty.push(await measure(none));
  }
  const of = (all, what) => median(all.flatMap((one) => one[what]));
  for (const [what, words] of [
    ["painted", "press to painted frame"],
    ["work", "the page's work for it"],
  ]) {
    const [a, b] = [of(full, what), of(empty, what)];
    line(
      `a note in ${BARS} bars of ${MORE + 2} tracks, ${words}`,
      (a / b).toFixed(2),
      `wanted below 1.5; ${a.toFixed(1)} ms against ${b.toFixed(1)} ms in a new project`,
    );
  }
});
