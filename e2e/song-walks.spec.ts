import { Buffer } from "node:buffer";
import type { Note, Project } from "@/core/score";
import { writeSmf } from "@/core/formats";
import { drag, expect, openCopy, play, projectOf, ready, stop, test, waitSent } from "./fixtures";
import { BAR, four, note, openThree, order, sentPatterns, strip, tiles } from "./three";

test("patterns are ordered by drag in their list; let go outside, or escaped, nothing moves", async ({
  page,
}) => {
  await openThree(page, four());
  await page.keyboard.press("Alt+y");
  const list = page.getByRole("dialog", { name: "Patterns" });
  const names = async () => (await projectOf(page)).patterns.map((p) => p.name).join(" ");
  const grip = async (name: string) => {
    const row = list.getByRole("option", { name: new RegExp(`: ${name}$`) });
    // A row on its way to its new place is not where it is seen when the pointer comes.
    await row.evaluate(async (el) => {
      for (let last = NaN, at; (at = el.getBoundingClientRect().y) !== last; last = at)
        await new Promise((done) => setTimeout(done, 50));
    });
    const box = (await row.boundingBox())!;
    return { x: box.x + 10, y: box.y + box.height / 2 };
  };
  await drag(page, await grip("A"), await grip("C"));
  expect(await names()).toBe("B C A");
  // Far as one stroke of the hand.
  await drag(page, await grip("A"), await grip("B"), 1);
  expect(await names()).toBe("A B C");
  // Escape in the middle.
  const from = await grip("B");
  await page.mouse.move(from.x, from.y);
  await page.mouse.down();
  await page.mouse.move(from.x, from.y + 60, { steps: 4 });
  await page.keyboard.press("Escape");
  await page.mouse.up();
  await expect(list).toBeVisible();
  expect(await names()).toBe("A B C");
  await page.keyboard.press("Escape");
  await page.keyboard.press("Control+z");
  expect(await names()).toBe("B C A");
  await page.keyboard.press("Control+z");
  expect(await names()).toBe("A B C");
  expect(await order(page)).toBe("a1 b1 c1 a1");
});

test("the groove of a MIDI file is taken; one without notes is refused and leaves the card", async ({
  page,
}) => {
  await openCopy(page, "Slack Water");
  const { project: source } = { project: await projectOf(page) };
  const groove = async () =>
    String((await projectOf(page)).patterns[0]!.parts[0]!.chain[0]!.params.groove);
  await page
    .getByRole("button", { name: /^Groove/ })
    .first()
    .click();
  const before = await groove();
  const give = (name: string, project: Project) =>
    page.getByLabel("MIDI file for the groove").setInputFiles({
      name,
      mimeType: "audio/midi",
      buffer: Buffer.from(writeSmf(project)),
    });
  const late: Note[] = [0, 960, 1920, 2880].flatMap((at, i) => [
    note(`k${i}`, at, 36),
    note(`s${i}`, at + 240 + 40, 38),
  ]);
  const drums = { ...source.patterns[0]!.parts[0]!, length: BAR, chain: [], grid: undefined };
  const one = (notes: Note[]): Project => ({
    ...source,
    song: [],
    tracks: source.tracks.slice(0, 1),
    patterns: [
      {
        ...source.patterns[0]!,
        bars: 1,
        parts: [{ ...drums, grid: { value: 16, kind: "straight", swing: 50 }, notes }],
      },
    ],
  });
  await give("none.mid", one([]));
  await expect(page.getByText(/^No groove from none.mid: /)).toBeVisible();
  expect(await groove()).toBe(before);
  await give("late.mid", one(late));
  await expect.poll(groove).not.toBe(before);
  const steps = (await groove()).split(" ").slice(1);
  // The second sixteenth of each beat is 40 ticks late.
  expect(Number(steps[1]!.split("/")[0])).toBe(40);
  await page.keyboard.press("Control+z");
  expect(await groove()).toBe(before);
});

test("a fill of the kit sounds in the last round of its phrase and in none before", async ({
  page,
}) => {
  await openThree(page, [{ id: "x", pattern: "a", times: 4 }]);
  await page
    .getByRole("button", { name: /^Drum fill/ })
    .first()
    .click();
  await page.keyboard.press("Alt+p");
  await play(page);
  await page.waitForFunction(() => (window.hailstep!.sent().at(-1)?.tick ?? 0) > 8 * 3840);
  await stop(page);
  const sent = await page.evaluate(() => window.hailstep!.sent());
  const bars = [0, 1, 2, 3, 4, 5, 6, 7].map((bar) =>
    sent
      .filter((s) => Math.floor(s.tick / 3840) === bar && !s.note.endsWith("crash"))
      .map((s) => s.note)
      .sort(),
  );
  expect(bars[0]).toEqual(bars[1]);
  expect(bars[1]).toEqual(bars[2]);
  expect(bars[3]).not.toEqual(bars[2]);
  expect(bars[3]!.length).toBeGreaterThan(4);
  expect(bars[7]).toEqual(bars[3]);
  // What the fill replaced is heard in the other loops.
  expect(bars[0]).toEqual(["a0", "a1920", "a2880", "a960"]);
});

test("the next section is jumped to at once, mid bar, and nothing of the old one sounds after", async ({
  page,
}) => {
  await openThree(page, four([{ times: 8 }]), { tempo: 60 });
  await page.getByTestId("sheet").focus();
  await page.keyboard.press("Alt+s");
  await page.keyboard.press("Alt+p");
  await page.keyboard.press("Space");
  await waitSent(page, 2);
  await page.keyboard.press("Alt+Shift+J");
  await page.waitForFunction(() => window.hailstep!.sent().some((one) => one.pattern === "b"));
  const sent = await page.evaluate(() => window.hailstep!.sent());
  const first = sent.findIndex((one) => one.pattern === "b");
  expect(sent[first]!.patternTick).toBe(0);
  // Not with the bar: less than three beats of the bar have gone by.
  expect(sent[first]!.tick).toBeLessThan(3 * 960);
  expect(sent.slice(first).every((one) => one.pattern === "b")).toBe(true);
  expect(await page.evaluate(() => window.hailstep!.counts().late)).toBe(0);
  await page.keyboard.press("Space");
});

test("a stroke over the strip ten times as fast moves, loops and pulls as a slow one does", async ({
  page,
}) => {
  await openThree(page, four());
  await page.getByTestId("sheet").focus();
  await page.keyboard.press("Alt+s");
  const box = async (n: number) => (await tiles(page).nth(n).boundingBox())!;
  const [one, last] = [await box(0), await box(3)];
  await drag(
    page,
    { x: one.x + 30, y: one.y + 12 },
    { x: last.x + last.width - 3, y: last.y + 12 },
    1,
  );
  expect(await order(page)).toBe("b1 c1 a1 a1");
  await page.keyboard.press("Control+z");
  const end = (await tiles(page).nth(1).getByTestId("section-end").boundingBox())!;
  const at = { x: end.x + 3, y: end.y + 30 };
  await drag(page, at, { x: at.x + 2 * one.width, y: at.y }, 1);
  expect(await order(page)).toBe("a1 b3 c1 a1");
  await page.keyboard.press("Control+z");
  expect(await order(page)).toBe("a1 b1 c1 a1");
  await page.keyboard.press("Alt+p");
  // Out of the window and let go there: what was reached counts.
  const ruler = (await page.getByTestId("song-ruler").boundingBox())!;
  await page.mouse.move(ruler.x + ruler.width / 2 + 4, ruler.y + 8);
  await page.mouse.down();
  await page.mouse.move(ruler.x + ruler.width + 900, -40, { steps: 1 });
  await page.mouse.up();
  await expect(page.getByRole("textbox", { name: "Bars that are looped" })).toHaveValue("3–4");
  await page.mouse.move(ruler.x + 40, ruler.y + 200);
  await expect(page.getByRole("textbox", { name: "Bars that are looped" })).toHaveValue("3–4");
});

test("a song with 7/8 and a tempo of its own is walked: position, click and what is sent agree", async ({
  page,
}) => {
  await openThree(page, four([{}, { tempo: 150 }]));
  await page.getByTestId("sheet").focus();
  await page.keyboard.press("Alt+Shift+Digit2");
  await page.keyboard.press("Alt+y");
  const list = page.getByRole("dialog", { name: "Patterns" });
  await list.getByRole("combobox", { name: "Metre of the pattern" }).selectOption("7/8");
  await list.getByRole("button", { name: "Keep bars" }).click();
  await page.keyboard.press("Escape");
  await page.getByTestId("sheet").focus();
  await page.keyboard.press("Alt+s");
  await expect(page.getByTestId("song-length")).toHaveText("4 sections, 4 bars, 0:04");
  await expect(strip(page)).toContainText("7/8");
  await expect(strip(page)).toContainText("150");
  await page.getByRole("button", { name: "Metronome", exact: true }).click();
  await page.keyboard.press("Alt+p");
  await play(page);
  await page.waitForFunction(() => (window.hailstep!.sent().at(-1)?.tick ?? 0) > 4 * 3840);
  const sent = await page.evaluate(() => window.hailstep!.sent());
  const round = 3 * BAR + 3360;
  const heard = sent.filter((one) => one.tick < round);
  const asked = await page.evaluate(
    (until) =>
      window
        .hailstep!.playbackEvents(window.hailstep!.project(), 0, until)
        .map((one) => `${one.start} ${one.note}`),
    round,
  );
  expect(heard.map((one) => `${one.tick} ${one.note}`)).toEqual(asked);
  // 0.8 s a bar at 300; seven eighths at 150 last 1.4 s.
  const firstOf = (n: number) => heard.find((one) => one.tick === n)!.due - heard[0]!.due;
  expect(firstOf(BAR)).toBeCloseTo(0.8, 6);
  expect(firstOf(BAR + 3360)).toBeCloseTo(2.2, 6);
  expect(firstOf(2 * BAR + 3360)).toBeCloseTo(3, 6);
  // Each bar is clicked anew from its one: four, seven eighths, four, four.
  const clicks = await page.evaluate(() => window.hailstep!.lastClicks());
  const ticks = clicks.map((one) => one.tick).filter((tick) => tick < round);
  const eighths = [0, 1, 2, 3, 4, 5, 6].map((n) => BAR + n * 480);
  const quarters = (from: number) => [0, 1, 2, 3].map((n) => from + n * 960);
  expect(ticks).toEqual([
    ...quarters(0),
    ...eighths,
    ...quarters(BAR + 3360),
    ...quarters(2 * BAR + 3360),
  ]);
  await stop(page);
  expect((await sentPatterns(page)).slice(0, 13).join("")).toBe("aaaabbbbcccca");
});

test("a MIDI file of 3,000 bars opens, is cut into a song, and plays", async ({ page }) => {
  test.setTimeout(120_000);
  const id = await openThree(page);
  const { project } = (await (await page.request.get(`/api/projects/${id}`)).json()) as {
    project: Project;
  };
  const song = Array.from({ length: 100 }, (_, i) => ({
    id: `s${i}`,
    pattern: ["a", "b", "c"][i % 3]!,
    times: 30,
  }));
  const bytes = writeSmf({ ...project, song });
  const [choose] = await Promise.all([
    page.waitForEvent("filechooser"),
    page.getByRole("button", { name: "Import a file" }).click(),
  ]);
  await choose.setFiles({ name: "long.mid", mimeType: "audio/midi", buffer: Buffer.from(bytes) });
  const shown = page.getByRole("dialog", { name: /^Import/ });
  await shown.getByRole("button", { name: "Import", exact: true }).click();
  await page.waitForURL((url) => !url.pathname.endsWith(id));
  await ready(page);
  const long = await projectOf(page);
  const bars = (p: Project) =>
    p.song.reduce((sum, { pattern, times, skip = 0, bars: own }) => {
      return sum + (own ?? times * p.patterns.find((one) => one.id === pattern)!.bars - skip);
    }, 0);
  expect(bars(long)).toBe(3000);
  await page.keyboard.press("Alt+s");
  await page.getByRole("button", { name: "Split into patterns of 2 bars" }).click();
  expect(bars(await projectOf(page))).toBe(3000);
});
