import type { Page } from "@playwright/test";
import {
  expect,
  expectOnTime,
  play,
  projectOf,
  ready,
  saved,
  test,
  waitSent,
  waitTicks,
} from "./fixtures";

test("a beat in a style and a line of phrases by ideas alone, while playing; another seed asks anew", async ({
  page,
}) => {
  const made = await page.request.post("/api/projects", { data: { name: "Quay" } });
  await page.goto(`/p/${((await made.json()) as { id: string }).id}`);
  await ready(page);
  await page.getByRole("tab", { name: "Generate" }).click();
  await play(page);
  // Drums: the kick on the one and the backbeats of the style.
  await page.getByRole("checkbox", { name: "All lanes together" }).check();
  await page.getByRole("combobox", { name: "Style" }).selectOption("Half time");
  await page.getByRole("button", { name: "Generate", exact: true }).click();
  const sheet = page.getByRole("list", { name: "Ideas" });
  await expect(sheet.getByRole("listitem")).toHaveCount(12);
  await expect(sheet.getByRole("listitem").first()).toContainText("one backbeat");
  await page.getByRole("button", { name: "Apply idea 1", exact: true }).click();
  const drums = (await projectOf(page)).patterns[0]!.parts[0]!;
  const starts = (pitch: number) =>
    drums.notes.filter((note) => note.pitch === pitch).map((note) => note.start);
  expect(starts(36)).toContain(0);
  expect(starts(38)).toContain(1920);
  expect(drums.generated!.settings).toMatchObject({ style: "half time" });
  // A line: what it is stands under it; a contour drawn by hand is asked with.
  await page.getByRole("button", { name: "Reed bass", exact: true }).click();
  await page.getByRole("combobox", { name: "As", exact: true }).selectOption("melody");
  const contour = (await page.getByTestId("contour").boundingBox())!;
  await page.mouse.move(contour.x + 4, contour.y + contour.height - 6);
  await page.mouse.down();
  await page.mouse.move(contour.x + contour.width - 4, contour.y + 6);
  await page.mouse.up();
  await expect(page.getByRole("combobox", { name: "Contour" })).toHaveValue("drawn");
  await page.getByRole("button", { name: "Generate", exact: true }).click();
  const first = sheet.getByRole("listitem").first();
  await expect(first).toContainText(/your curve to [A-G].*ends on/);
  const said = await first.getByRole("button", { name: /^Idea 1,/ }).getAttribute("aria-label");
  const seed = page.getByRole("spinbutton", { name: "Seed" });
  await seed.fill("77");
  await seed.press("Enter");
  await expect(first.getByRole("button", { name: /seed 77$/ })).toBeVisible();
  expect(said).not.toMatch(/seed 77$/);
  await page.getByRole("button", { name: "Apply idea 2", exact: true }).click();
  const bass = (await projectOf(page)).patterns[0]!.parts[1]!;
  // It ends on the root or the third of C minor, on a beat, longer than the rest.
  const last = bass.notes.at(-1)!;
  expect([0, 3]).toContain(last.pitch % 12);
  expect(last.start % 960).toBe(0);
  // It plays on, what was applied as well.
  await page.waitForFunction(
    (id) => window.hailstep!.sent().some((note) => note.track === id),
    (await projectOf(page)).tracks[1]!.id,
  );
  await waitSent(page, 21);
  // After a click on a button, space still stops.
  await page.keyboard.press("Space");
  await expect(page.getByRole("button", { name: "Stop", exact: true })).toHaveCount(0);
  await expectOnTime(page);
  await page.keyboard.press("Control+z");
  expect((await projectOf(page)).patterns[0]!.parts[1]!.notes).toEqual([]);
  await page.keyboard.press("Control+Shift+z");
  await saved(page);
  await page.reload();
  await ready(page);
  expect((await projectOf(page)).patterns[0]!.parts[1]!.notes.length).toBe(bass.notes.length);
});

/** A new project, opened with its Generate panel shown. */
async function openEmpty(page: Page): Promise<void> {
  const made = await page.request.post("/api/projects", { data: { name: "Quay" } });
  await page.goto(`/p/${((await made.json()) as { id: string }).id}`);
  await ready(page);
  await page.getByRole("tab", { name: "Generate" }).click();
}
/** The same with the bass shown, to be a melody. */
async function openLine(page: Page): Promise<void> {
  await openEmpty(page);
  await page.getByRole("button", { name: "Reed bass", exact: true }).click();
  await page.getByRole("combobox", { name: "As", exact: true }).selectOption("melody");
}

/** The same with a beat by ideas. */
async function openBeat(page: Page): Promise<void> {
  await openEmpty(page);
  await page.getByRole("checkbox", { name: "All lanes together" }).check();
  await page.getByRole("button", { name: "Generate", exact: true }).click();
  await page.getByRole("button", { name: "Apply idea 1", exact: true }).click();
}

/** Asks with a new seed, until the sheet that was there is gone: what stands on it could be applied still. */
async function askAnew(page: Page): Promise<void> {
  const first = page.getByRole("button", { name: /^Idea 1,/ });
  const was = (await first.getAttribute("aria-label"))!;
  await page.getByRole("button", { name: "Generate with a new seed" }).click();
  await expect(first).not.toHaveAttribute("aria-label", was);
}

const sheetOf = (page: Page) => page.getByRole("list", { name: "Ideas" }).getByRole("listitem");
const notesSent = (page: Page) => page.evaluate(() => window.hailstep!.counts().sent);

test("from an empty project to a beat, chords, a bass and a melody by ideas alone, kept and varied twice, in fewer than 40 presses", async ({
  page,
}) => {
  await openEmpty(page);
  let presses = 1;
  const press = async (role: "button" | "radio" | "checkbox", name: string | RegExp) => {
    presses++;
    await page
      .getByRole(role, { name, exact: typeof name === "string" })
      .first()
      .click();
  };
  const key = async (keys: string) => {
    presses++;
    await page.keyboard.press(keys);
  };
  const part = async (at: number) => (await projectOf(page)).patterns[0]!.parts[at]!;
  presses++;
  await play(page);
  await press("checkbox", "All lanes together");
  await press("button", "Generate");
  await expect(sheetOf(page)).toHaveCount(12);
  await press("button", "Apply idea 1");
  const beat = (await part(0)).notes;
  expect(new Set(beat.map((note) => note.pitch)).size).toBeGreaterThan(3);

  // Chords: heard before they are taken, and the line shows them meanwhile.
  await press("button", "Ideas");
  await expect(sheetOf(page).first()).toContainText(/leads back/);
  await sheetOf(page).nth(1).hover();
  presses++;
  await expect
    .poll(() => page.evaluate(() => window.hailstep!.preview()?.length ?? 0))
    .toBeGreaterThan(5);
  const chips = page
    .getByRole("group", { name: "Chord line" })
    .getByRole("button", { name: /^Chord / });
  await expect(chips).toHaveCount(4);
  expect((await projectOf(page)).patterns[0]!.chords).toBeUndefined();
  await press("button", "Apply idea 2");
  const { chords } = (await projectOf(page)).patterns[0]!;
  expect(chords).toHaveLength(4);

  await press("button", "Reed bass");
  await press("radio", "This part");
  await press("button", "Generate");
  await expect(sheetOf(page).first()).toContainText("follows the roots");
  await press("button", "Apply idea 1");
  const bass = (await part(1)).notes;
  const root = (name: string) => ["C", "D", "E", "F", "G", "A", "B"].indexOf(name[0]!);
  for (const chord of chords!) {
    const under = bass.find((note) => note.start === chord.start)!;
    const semitones = [0, 2, 4, 5, 7, 9, 11][root(chord.name)]! - (chord.name[1] === "b" ? 1 : 0);
    expect(under.pitch % 12).toBe((semitones + 12) % 12);
  }

  await press("button", /Add a track/);
  presses += 2;
  await page
    .getByRole("combobox", { name: "Sound of the new track" })
    .selectOption({ label: "Keys: Glass keys" });
  await press("button", "Generate");
  await expect(sheetOf(page).first()).toContainText(/answer ends on|ends on/);
  await press("button", "Star idea 3");
  await press("button", "Apply idea 3");
  const melody = (await part(2)).notes;
  expect(melody.length).toBeGreaterThan(3);
  for (let time = 0; time < 2; time++) {
    await key("Alt+w");
    await expect(page.getByRole("heading", { name: /^Variations of/ })).toBeVisible();
    // What was starred stays at the head.
    await press("button", "Apply idea 3");
    expect((await part(2)).notes).not.toEqual(melody);
  }
  expect(presses).toBeLessThan(40);
  // The loop has gone on through all of it.
  const sent = await notesSent(page);
  await expect.poll(() => notesSent(page)).toBeGreaterThan(sent);
  await saved(page);
  const before = await projectOf(page);
  await page.reload();
  await ready(page);
  expect(await projectOf(page)).toEqual(before);
  expect(before.patterns[0]!.stars).toHaveLength(1);
});

test("stars are kept with the pattern, teach the sheet, are crossed and undone; dropped ones go", async ({
  page,
}) => {
  await openLine(page);
  await page.getByRole("button", { name: "Generate", exact: true }).click();
  await expect(sheetOf(page)).toHaveCount(12);
  const cross = page.getByRole("button", { name: "Combine the starred" });
  await expect(cross).toBeDisabled();
  await page.getByRole("button", { name: "Star idea 2", exact: true }).click();
  await page.getByRole("button", { name: "Star idea 5", exact: true }).click();
  const stars = async () => (await projectOf(page)).patterns[0]!.stars ?? [];
  expect(await stars()).toHaveLength(2);
  await page.getByRole("button", { name: "Drop idea 1", exact: true }).click();
  await expect(sheetOf(page)).toHaveCount(11);
  const learned = page.getByRole("group", { name: "What you star, rather than drop" });
  await expect(learned).toContainText(/more|less/);
  await page.getByRole("button", { name: "Forget it" }).click();
  await expect(learned).toHaveCount(0);
  // Sorted by what they are: figures fall.
  await page.getByRole("combobox", { name: "Sort the ideas" }).selectOption("density");
  await expect(sheetOf(page).first()).toContainText(/Notes: [\d.]+ a bar/);
  const falling = async () => {
    const texts = await sheetOf(page).allTextContents();
    const figures = texts.map((text) => Number(/Notes: ([\d.]+)/.exec(text)?.[1]));
    return figures.every((value, i) => i === 0 || value <= figures[i - 1]!);
  };
  await expect.poll(falling).toBe(true);
  await page.getByRole("combobox", { name: "Sort the ideas" }).selectOption("");
  await cross.click();
  await expect(sheetOf(page).nth(2)).toContainText(/of the (first|second)/);
  // The parents at the head, then the children.
  await expect(page.getByRole("button", { name: "Star idea 1", exact: true })).toHaveAttribute(
    "aria-pressed",
    "true",
  );
  await page.getByRole("button", { name: "Apply idea 3", exact: true }).click();
  const child = (await projectOf(page)).patterns[0]!.parts[1]!.notes;
  const parents = (await stars()).flatMap((one) => one.notes.map((note) => note.pitch));
  for (const note of child) expect(parents).toContain(note.pitch);
  await saved(page);
  await page.reload();
  await ready(page);
  await page.getByRole("tab", { name: "Generate" }).click();
  expect(await stars()).toHaveLength(2);
  await page.getByRole("button", { name: "Reed bass", exact: true }).click();
  await page.getByRole("button", { name: "Generate", exact: true }).click();
  await expect(page.getByRole("button", { name: "Star idea 2", exact: true })).toHaveAttribute(
    "aria-pressed",
    "true",
  );
  await page.getByRole("button", { name: "Star idea 2", exact: true }).click();
  expect(await stars()).toHaveLength(1);
  await page.keyboard.press("Control+z");
  expect(await stars()).toHaveLength(2);
  // After a click on a button, space plays.
  await page.keyboard.press("Space");
  await expect(page.getByRole("button", { name: "Stop", exact: true })).toBeVisible();
});

test("only the selected notes get other pitches; a stab follows the kick; a beat keeps its first bar and ends with a fill", async ({
  page,
}) => {
  await openBeat(page);
  const drums = async () => (await projectOf(page)).patterns[0]!.parts[0]!.notes;
  const first = (await drums()).filter((note) => note.start < 3840).map((n) => [n.start, n.pitch]);
  await page.getByRole("button", { name: "Keep bar 1", exact: true }).click();
  await page.getByRole("slider", { name: "Fill at the end" }).fill("1");
  await askAnew(page);
  await expect(sheetOf(page).first()).toContainText("a fill at the end");
  await page.getByRole("button", { name: "Apply idea 2", exact: true }).click();
  expect(
    (await drums()).filter((note) => note.start < 3840).map((n) => [n.start, n.pitch]),
  ).toEqual(first);
  expect((await drums()).some((note) => note.start === 7680 - 960)).toBe(true);

  await page.getByRole("button", { name: "Reed bass", exact: true }).click();
  await page.getByRole("combobox", { name: "As", exact: true }).selectOption("stabs");
  await page.getByRole("combobox", { name: "Rhythm", exact: true }).selectOption("follow");
  await expect(page.getByRole("combobox", { name: "Which rhythm it goes with" })).toHaveValue(
    / 36$/,
  );
  await page.getByRole("button", { name: "Generate", exact: true }).click();
  await expect(sheetOf(page).first()).toContainText("stabs");
  await page.getByRole("button", { name: "Apply idea 1", exact: true }).click();
  const part = async () => (await projectOf(page)).patterns[0]!.parts[1]!.notes;
  const kicks = [...new Set((await drums()).filter((n) => n.pitch === 36).map((n) => n.start))];
  expect([...new Set((await part()).map((note) => note.start))]).toEqual(kicks);

  await page.getByRole("combobox", { name: "As", exact: true }).selectOption("melody");
  await page.getByRole("combobox", { name: "Rhythm", exact: true }).selectOption("");
  await page.getByRole("button", { name: "Generate", exact: true }).click();
  await expect(sheetOf(page).first()).toContainText("ends on");
  await page.getByRole("button", { name: "Apply idea 1", exact: true }).click();
  const before = await part();
  // Two notes after each other, by the keyboard.
  await page.getByTestId("sheet").focus();
  for (const keys of ["n", "Alt+n"]) await page.keyboard.press(keys);
  const selected = page.getByRole("checkbox", { name: "All but the 2 selected" });
  await selected.check();
  await askAnew(page);
  await expect(sheetOf(page).first()).toBeVisible();
  await page.getByRole("button", { name: "Apply idea 1", exact: true }).click();
  const after = await part();
  expect(after).toHaveLength(before.length);
  after.forEach((note, i) => {
    expect([note.start, note.length]).toEqual([before[i]!.start, before[i]!.length]);
  });
  const others = after.filter((note, i) => note.pitch !== before[i]!.pitch);
  expect([1, 2]).toContain(others.length);
});

test("a rhythm is tapped along with the loop or taken from a groove; a contour that is escaped is as it was", async ({
  page,
}) => {
  await openLine(page);
  await page.getByRole("combobox", { name: "Rhythm", exact: true }).selectOption("follow");
  const which = page.getByRole("combobox", { name: "Which rhythm it goes with" });
  await which.selectOption("what you tap");
  // What has no say in a rhythm that is followed is not there.
  await expect(page.getByRole("slider", { name: "Syncopation" })).toHaveCount(0);
  await play(page);
  const tap = page.getByRole("button", { name: "Tap", exact: true });
  await tap.click();
  await tap.focus();
  await waitTicks(page, 1440);
  await page.keyboard.press("Enter");
  await waitTicks(page, 960);
  await page.keyboard.press("Enter");
  const said = page.getByRole("group", { name: "Tapped rhythm" }).getByRole("status");
  await expect(said).toContainText(/^[3-6] hits in 2 bars/);
  await page.getByRole("button", { name: "Generate", exact: true }).click();
  await page.getByRole("button", { name: "Apply idea 1", exact: true }).click();
  const line = async () => (await projectOf(page)).patterns[0]!.parts[1]!;
  const { taps } = (await line()).generated!.settings as { taps: number[] };
  expect(taps.length).toBeGreaterThan(2);
  for (const tick of taps) expect((await line()).notes.map((note) => note.start)).toContain(tick);
  expect((await line()).notes.length).toBe(Number((await said.textContent())!.split(" ")[0]));
  // Space still stops, and taps go on from the first of a new series.
  await page.keyboard.press("Space");
  await expect(page.getByRole("button", { name: "Stop", exact: true })).toHaveCount(0);
  await page.getByRole("button", { name: "Clear", exact: true }).click();
  await tap.click();
  await expect(said).toContainText("2 hits in 2 bars");

  await which.selectOption("a groove");
  await page.getByRole("button", { name: /^Grooves, / }).click();
  await page.getByRole("button", { name: "Late backbeats, 20 ticks" }).click();
  await page.getByRole("button", { name: "Generate", exact: true }).click();
  await page.getByRole("button", { name: "Apply idea 1", exact: true }).click();
  const starts = (await line()).notes.map((note) => note.start);
  expect(starts).toContain(980);
  expect(starts).not.toContain(960);

  const contour = page.getByTestId("contour");
  await contour.scrollIntoViewIfNeeded();
  const box = (await contour.boundingBox())!;
  await page.mouse.move(box.x + 5, box.y + 5);
  await page.mouse.down();
  await page.mouse.move(box.x + 120, box.y + 40, { steps: 3 });
  await expect(page.getByRole("combobox", { name: "Contour" })).toHaveValue("drawn");
  await page.keyboard.press("Escape");
  await page.mouse.move(box.x + 200, box.y + 10);
  await page.mouse.up();
  await expect(page.getByRole("combobox", { name: "Contour" })).toHaveValue("arch");
});

test("of a beat only the selected hits are asked anew, again after a preview; undone, redone and kept", async ({
  page,
}) => {
  await openBeat(page);
  const hits = async () => (await projectOf(page)).patterns[0]!.parts[0]!.notes;
  const before = await hits();
  const others = (notes: typeof before) => notes.filter((note) => note.pitch !== 42);
  const hats = (notes: typeof before) => notes.filter((note) => note.pitch === 42);
  await page.getByRole("button", { name: "Closed hat", exact: true }).click();
  await page.getByTestId("sheet").focus();
  await page.keyboard.press("Control+a");
  await page.getByRole("checkbox", { name: /^All but the \d+ selected$/ }).check();
  await page.getByRole("button", { name: "Generate", exact: true }).click();
  await expect(sheetOf(page).first()).toContainText(/\d+ hits? anew, 0 kept/);
  await page.getByRole("button", { name: "Apply idea 2", exact: true }).click();
  const after = await hits();
  expect(others(after)).toEqual(others(before));
  expect(hats(after)).not.toEqual(hats(before));
  await page.keyboard.press("Control+z");
  expect(await hits()).toEqual(before);
  await page.keyboard.press("Control+Shift+z");
  expect(await hits()).toEqual(after);
  // The preview let go of the selection; what came is asked anew all the same.
  await askAnew(page);
  await expect(sheetOf(page).first()).toContainText(/\d+ hits? anew, 0 kept/);
  await page.getByRole("button", { name: "Apply idea 1", exact: true }).click();
  const third = await hits();
  expect(others(third)).toEqual(others(before));
  await saved(page);
  await page.reload();
  await ready(page);
  expect(await hits()).toEqual(third);
});
