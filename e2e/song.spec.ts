import type { Project } from "@/core/score";
import { readSmf, writeSmf } from "@/core/formats";
import {
  exported,
  drag,
  expect,
  openCopy,
  placeOf,
  play,
  projectOf,
  ready,
  saved,
  stop,
  test,
  waitSent,
  waitTicks,
} from "./fixtures";
import { BAR, four, note, openThree, order, sentPatterns, strip, tiles } from "./three";

test("a song of five sections is arranged by pointer and by key, undone, kept over a reload, and exported", async ({
  page,
}) => {
  const id = await openThree(page);
  const song = strip(page);
  await page.getByTestId("sheet").focus();
  await page.keyboard.press("Alt+s");
  const add = (name: string) => song.getByRole("button", { name: `Add ${name} to the song` });
  await add("A").click();
  await add("B").click();
  // Dragged to the front: a pattern from the list.
  const from = (await add("C").boundingBox())!;
  const first = (await tiles(page).nth(0).boundingBox())!;
  await drag(page, { x: from.x + 10, y: from.y + 10 }, { x: first.x + 4, y: first.y + 20 });
  expect(await order(page)).toBe("c1 a1 b1");
  // By key: on to the last, copied, repeated, moved.
  await tiles(page).nth(2).click();
  await page.keyboard.press("Control+d");
  await page.keyboard.press("Control+d");
  expect(await order(page)).toBe("c1 a1 b1 b1 b1");
  // Undone, the keyboard is on what stands there now, and goes on from it.
  await page.keyboard.press("Control+z");
  expect(await order(page)).toBe("c1 a1 b1 b1");
  await page.keyboard.press("Control+d");
  expect(await order(page)).toBe("c1 a1 b1 b1 b1");
  await page.keyboard.press("+");
  await page.keyboard.press("+");
  await page.keyboard.press("Control+ArrowLeft");
  await page.keyboard.press("Control+ArrowLeft");
  await page.keyboard.press("Control+ArrowLeft");
  expect(await order(page)).toBe("c1 b3 a1 b1 b1");
  // The length at its end, by pointer; escape in the middle leaves it.
  const end = (await tiles(page).nth(2).getByTestId("section-end").boundingBox())!;
  const bar = (await tiles(page).nth(2).boundingBox())!.width;
  const at = { x: end.x + 3, y: end.y + 30 };
  await page.mouse.move(at.x, at.y);
  await page.mouse.down();
  await page.mouse.move(at.x + 3 * bar, at.y, { steps: 4 });
  await page.keyboard.press("Escape");
  await page.mouse.up();
  expect(await order(page)).toBe("c1 b3 a1 b1 b1");
  await drag(page, at, { x: at.x + bar, y: at.y });
  expect((await projectOf(page)).song[2]).toMatchObject({ pattern: "a", times: 2 });
  // Fields of the current section: name, tempo, tracks.
  await tiles(page).nth(1).click();
  await song.getByRole("textbox", { name: "Name of the section" }).fill("Low water");
  await page.keyboard.press("Enter");
  const tempo = song.getByRole("spinbutton", { name: "Tempo of the section" });
  await tempo.focus();
  await tempo.fill("150");
  await page.keyboard.press("Enter");
  await song.getByRole("button", { name: "All tracks" }).click();
  await page.getByRole("checkbox", { name: "Reed bass" }).uncheck();
  await page.keyboard.press("Escape");
  const [, second] = (await projectOf(page)).song;
  expect(second).toMatchObject({ name: "Low water", times: 3, tempo: 150, mutes: ["bass"] });
  // 1 + 2 + 1 + 1 bars at 300 and 3 at 150: 0.8 s and 1.6 s a bar.
  await expect(page.getByTestId("song-length")).toHaveText("5 sections, 8 bars, 0:09");
  // Deleted and brought back.
  await tiles(page).nth(3).click();
  await page.keyboard.press("Delete");
  expect(await order(page)).toBe("c1 b3 a2 b1");
  await page.keyboard.press("Control+z");
  expect(await order(page)).toBe("c1 b3 a2 b1 b1");
  await saved(page);
  await page.reload();
  await ready(page);
  expect(await order(page)).toBe("c1 b3 a2 b1 b1");
  await expect(tiles(page).nth(1)).toContainText("Low water");
  // Exported as it is heard: another project made of the file has its hits and its tempo.
  const { bytes } = await exported(page, "MIDI file", "Song");
  const { project: back } = readSmf(bytes);
  const hits = back.patterns.flatMap((p) => p.parts.flatMap((part) => part.notes));
  expect(hits.length).toBe(4 * 8);
  // A section for each, by the markers.
  expect(back.song.map((entry) => entry.tempo ?? back.tempo)).toEqual([300, 150, 300, 300, 300]);
  const stored = (await (await page.request.get(`/api/projects/${id}`)).json()) as {
    project: Project;
  };
  expect(stored.project).toEqual(await projectOf(page));
});

test("the song plays from any place, a range across two sections is looped, and the next is jumped to", async ({
  page,
}) => {
  await openThree(page, four());
  await page.getByTestId("sheet").focus();
  await page.keyboard.press("Alt+s");
  await page.keyboard.press("Alt+p");
  await play(page);
  await waitSent(page, 14);
  expect((await sentPatterns(page)).slice(0, 13).join("")).toBe("aaaabbbbcccca");
  await expect(page.getByTestId("position")).toContainText(" · ");
  await stop(page);
  // Loop from the second to the third section, drawn on the song's ruler.
  const ruler = (await page.getByTestId("song-ruler").boundingBox())!;
  const y = ruler.y + 8;
  const x = (bars: number) => ruler.x + (ruler.width * bars) / 4;
  await drag(page, { x: x(1) + 4, y }, { x: x(3) - 4, y });
  await page.evaluate(() => window.hailstep!.clear());
  await play(page);
  await waitSent(page, 20);
  const looped = await sentPatterns(page);
  expect(looped.slice(0, 17).join("")).toBe("bbbbccccbbbbccccb");
  // Let go while it plays: it goes on to the end of the song.
  await page.getByRole("button", { name: "Loop what is selected" }).click();
  await page.waitForFunction(() => window.hailstep!.sent().at(-1)?.pattern === "a");
  // Jump: from the first section of the next round to the second at the bar.
  await page.evaluate(() => window.hailstep!.clear());
  await tiles(page).nth(2).dblclick();
  await page.waitForFunction(() => window.hailstep!.sent().some((one) => one.pattern === "c"));
  const jumped = await page.evaluate(() => window.hailstep!.sent());
  const turn = jumped.find((one) => one.pattern === "c")!;
  expect(turn.patternTick).toBe(0);
  expect(turn.tick % 960).toBe(0);
  expect(await page.evaluate(() => window.hailstep!.counts().late)).toBe(0);
  await stop(page);
  // Typed, in bars; what is none is said and nothing changes.
  const field = page.getByRole("textbox", { name: "Bars that are looped" });
  await field.fill("4-2");
  await page.keyboard.press("Enter");
  await expect(page.getByText("is no stretch of what plays")).toBeVisible();
  await expect(field).toHaveValue("");
  await field.fill("3-4");
  await page.keyboard.press("Enter");
  await expect(field).toHaveValue("3–4");
  await expect(page.getByTestId("song-loop")).toBeVisible();
  await field.fill("");
  await page.keyboard.press("Enter");
  await expect(page.getByTestId("song-loop")).toHaveCount(0);
  // By selecting: two sections and a key.
  await tiles(page).nth(0).click();
  await page.keyboard.press("Shift+ArrowRight");
  await page.keyboard.press("Alt+o");
  await page.evaluate(() => window.hailstep!.clear());
  await page.keyboard.press("Space");
  await waitSent(page, 10);
  expect((await sentPatterns(page)).slice(0, 9).join("")).toBe("aaaabbbba");
  await page.keyboard.press("Space");
});

test("the pattern that is shown and the one that plays are two things: the sheet goes along, or stays", async ({
  page,
}) => {
  await openThree(page, four());
  await page.keyboard.press("Alt+p");
  const shown = page.getByRole("group", { name: "Patterns" }).locator("[aria-pressed=true]");
  await play(page);
  await expect(shown).toHaveText("2B");
  await expect(shown).toHaveText("3C");
  // Chosen by hand while it plays: the sheet stays, and an edit is the shown pattern's.
  await page.getByRole("button", { name: "Pattern A", exact: true }).click();
  await expect(page.getByRole("button", { name: "Stay here" })).toHaveAttribute(
    "aria-pressed",
    "true",
  );
  await page.waitForFunction(() => window.hailstep!.position()?.pattern === "c");
  await expect(shown).toHaveText("1A");
  const { x, y } = await placeOf(page, "drums", 38, 0, "a");
  await page.mouse.click(x, y);
  const hits = async (i: number) =>
    (await projectOf(page)).patterns[i]!.parts[0]!.notes.map((one) => one.pitch);
  expect((await hits(0)).includes(38)).toBe(true);
  expect(await hits(2)).toEqual([42, 42, 42, 42]);
  await page.getByTestId("sheet").focus();
  await page.keyboard.press("Alt+h");
  await expect(shown).toHaveText("2B");
  // A pattern by itself goes on while another is looked at, where the sheet stays.
  await page.keyboard.press("Alt+p");
  await page.keyboard.press("Alt+h");
  await page.waitForFunction(() => {
    const at = window.hailstep!.position() as { song: number | null } | null;
    return at?.song === null;
  });
  const plays = await page.evaluate(() => window.hailstep!.position()!.pattern);
  await page.getByRole("button", { name: "Pattern C", exact: true }).click();
  await waitTicks(page, 2 * BAR);
  expect(await page.evaluate(() => window.hailstep!.position()!.pattern)).toBe(plays);
  await stop(page);
});

test("a stretch of a pattern is looped by shift on its ruler and by key, and recording plays it whole", async ({
  page,
}) => {
  await openThree(page);
  const sheet = (await page.getByTestId("sheet").boundingBox())!;
  const from = await placeOf(page, "drums", 36, 960);
  const to = await placeOf(page, "drums", 36, 2880);
  await page.keyboard.down("Shift");
  await drag(page, { x: from.x, y: sheet.y + 10 }, { x: to.x, y: sheet.y + 10 });
  await page.keyboard.up("Shift");
  await expect(page.getByTestId("pattern-loop")).toBeVisible();
  await page.keyboard.press("Space");
  await waitSent(page, 8);
  const ticks = await page.evaluate(() => window.hailstep!.sent().map((one) => one.note));
  expect(ticks.slice(0, 6)).toEqual(["a960", "a1920", "a960", "a1920", "a960", "a1920"]);
  await page.keyboard.press("Alt+o");
  await expect(page.getByTestId("pattern-loop")).toHaveCount(0);
  await page.waitForFunction(() => window.hailstep!.sent().some((one) => one.note === "a2880"));
  await page.keyboard.press("Space");
});

test("a section gets a pattern of its own and is varied, its chords stand in for the pattern's", async ({
  page,
}) => {
  await openThree(page, four());
  await page.getByTestId("sheet").focus();
  await page.keyboard.press("Alt+s");
  await tiles(page).nth(3).click();
  await strip(page).getByRole("button", { name: "Pattern of its own" }).click();
  const made = await projectOf(page);
  expect(made.patterns).toHaveLength(4);
  const own = made.song[3]!.pattern;
  expect(own).not.toBe("a");
  const notesOf = (project: Project, id: string) =>
    project.patterns.find((p) => p.id === id)!.parts[0]!.notes;
  const before = notesOf(made, "a");
  expect(notesOf(made, own)).toEqual(before);
  // Varied: twelve to hear, none of them written until one is taken.
  await page.getByTestId("sheet").focus();
  await page.keyboard.press("Alt+w");
  const ideas = page.getByRole("region", { name: "Ideas" });
  await expect(ideas.getByRole("listitem")).toHaveCount(12);
  expect(notesOf(await projectOf(page), own)).toEqual(before);
  await page.keyboard.press("/");
  expect((await page.evaluate(() => window.hailstep!.preview()))!.length).toBeGreaterThan(2);
  await page.keyboard.press("Shift+Enter");
  const varied = await projectOf(page);
  expect(notesOf(varied, own)).not.toEqual(before);
  expect(notesOf(varied, "a")).toEqual(before);
  await page.keyboard.press("Control+z");
  expect(notesOf(await projectOf(page), own)).toEqual(before);
  await page.keyboard.press("Control+Shift+z");
  // Chords of the section alone.
  await strip(page).getByRole("button", { name: "Chords", exact: true }).click();
  await page.getByRole("textbox", { name: /^Bars with/ }).fill("Dm7 Xy");
  await page.keyboard.press("Enter");
  await expect(page.getByRole("alert").filter({ hasText: "Xy" })).toBeVisible();
  await page.getByRole("textbox", { name: /^Bars with/ }).fill("Dm7 G7");
  await page.keyboard.press("Enter");
  const after = await projectOf(page);
  expect(after.song[3]!.chords!.map(({ start, name }) => [start, name])).toEqual([
    [0, "Dm7"],
    [1920, "G7"],
  ]);
  expect(after.patterns.find((p) => p.id === own)!.chords).toBeUndefined();
  await expect(page.getByRole("button", { name: "Chord Dm7" })).toBeVisible();
  const line = page.getByRole("group", { name: "Chord line" });
  await expect(line.getByText("Chords of the section", { exact: true })).toBeVisible();
  await tiles(page).nth(0).click();
  await expect(page.getByRole("button", { name: "Chord Dm7" })).toHaveCount(0);
  await expect(page.getByText("Chords of the section")).toHaveCount(0);
  await expect(page.getByRole("group", { name: "Chords", exact: true })).toBeVisible();
});

test("two tabs that arrange at once lose neither", async ({ page, context }) => {
  const id = await openThree(page, four());
  const other = await context.newPage();
  await other.goto(`/p/${id}`);
  await ready(other);
  await page.keyboard.press("Alt+s");
  await other.keyboard.press("Alt+s");
  await tiles(page).nth(0).click();
  await page.keyboard.press("+");
  await tiles(other).nth(1).click();
  await other.keyboard.press("Delete");
  await tiles(page).nth(3).click();
  await strip(page).getByRole("button", { name: "Add C to the song" }).click();
  const want = "a2 c1 a1 c1";
  await expect.poll(() => order(page)).toBe(want);
  await expect.poll(() => order(other)).toBe(want);
});

test("chance and loops of hits: by key, foot, wheel and profile; the loop plays what they say, the same each time", async ({
  page,
}) => {
  const hits = [0, 960, 1920, 2880].map((at, i) => note(`h${i}`, at, 36));
  await openThree(page, [], { tempo: 400, notes: { a: hits, b: [], c: [] } });
  const own = async () => (await projectOf(page)).patterns[0]!.parts[0]!.notes;
  const at = (tick: number) => placeOf(page, "drums", 36, tick);
  // All by key.
  await page.getByTestId("sheet").focus();
  await page.keyboard.press("Shift+C");
  await page.keyboard.press("Alt+c");
  expect((await own()).map((one) => one.chance)).toEqual([75, 75, 75, 75]);
  // In the foot: several at once, typed; an impossible value is held.
  const chance = page.getByRole("spinbutton", { name: "Chance of the selection" });
  await chance.focus();
  await chance.fill("40");
  await page.keyboard.press("Enter");
  expect((await own()).map((one) => one.chance)).toEqual([40, 40, 40, 40]);
  await page
    .getByRole("combobox", { name: "Loops the selection sounds in" })
    .selectOption("not-first");
  expect((await own()).every((one) => one.when === "not-first")).toBe(true);
  await page.keyboard.press("Escape");
  // By wheel with alt over one.
  const two = await at(960);
  await page.mouse.move(two.x, two.y);
  await page.keyboard.down("Alt");
  await page.mouse.wheel(0, -40);
  await page.keyboard.up("Alt");
  expect((await own()).map((one) => one.chance)).toEqual([40, 45, 40, 40]);
  // By profile: drawn up to the top is always.
  await page.keyboard.press("Escape");
  await page.keyboard.press("Control+k");
  await page.keyboard.type("profile: chance");
  await page.keyboard.press("Enter");
  const profile = (await page.getByTestId("velocity-profile").boundingBox())!;
  const first = await at(0);
  await page.mouse.click(first.x, profile.y + 3);
  expect((await own())[0]!.chance).toBeUndefined();
  // What is sent is what the core says, twice alike; another seed is another performance.
  const heard = async () => {
    await page.evaluate(() => window.hailstep!.clear());
    await page.keyboard.press("Space");
    await page.waitForFunction(() => (window.hailstep!.sent().at(-1)?.tick ?? 0) > 8 * 3840);
    await page.keyboard.press("Space");
    const sent = await page.evaluate(() => window.hailstep!.sent());
    return sent.filter((one) => one.tick < 8 * BAR).map((one) => `${one.tick} ${one.note}`);
  };
  const events = () =>
    page.evaluate(() =>
      window
        .hailstep!.playbackEvents(window.hailstep!.project(), 0, 8 * 3840, { pattern: "a" })
        .map((one) => `${one.start} ${one.note}`),
    );
  await page.getByTestId("sheet").focus();
  const once = await heard();
  expect(once).toEqual(await events());
  expect(once.filter((text) => text.endsWith("h0"))).toHaveLength(7);
  expect(await heard()).toEqual(once);
  await page.keyboard.press("Alt+z");
  const other = await heard();
  expect(other).not.toEqual(once);
  expect(other).toEqual(await events());
  await saved(page);
  await page.reload();
  await ready(page);
  expect(await events()).toEqual(other);
});

test("patterns have names, colours and an order; parts move between them, and all is undone", async ({
  page,
}) => {
  await openThree(page, four());
  await page.getByTestId("sheet").focus();
  await page.keyboard.press("Alt+y");
  const list = page.getByRole("dialog", { name: "Patterns" });
  const names = async () => (await projectOf(page)).patterns.map((p) => p.name).join(" ");
  await list.getByRole("textbox", { name: "Name of the pattern" }).fill("Ebb");
  await page.keyboard.press("Enter");
  expect(await names()).toBe("Ebb B C");
  await list.getByRole("button", { name: "Colour moss" }).click();
  expect((await projectOf(page)).patterns[0]!.colour).toBe("moss");
  await list.getByRole("option", { name: "Pattern 1: Ebb" }).focus();
  await page.keyboard.press("Control+ArrowDown");
  expect(await names()).toBe("B Ebb C");
  await page.keyboard.press("ArrowDown");
  await expect(list.locator("[data-pattern][aria-selected=true]")).toContainText("C");
  await list.getByRole("combobox", { name: /^Move or copy the part/ }).selectOption("move a");
  const hits = async () =>
    (await projectOf(page)).patterns.map((p) => p.parts[0]!.notes.map((one) => one.pitch).join());
  expect(await hits()).toEqual(["38,38,38,38", "42,42,42,42", ""]);
  await page.keyboard.press("Escape");
  await page.keyboard.press("Control+z");
  expect(await hits()).toEqual(["38,38,38,38", "36,36,36,36", "42,42,42,42"]);
  await page.keyboard.press("Alt+y");
  await list.getByRole("button", { name: "Duplicate some tracks" }).click();
  await list.getByRole("checkbox", { name: "Harbour kit" }).uncheck();
  await list.getByRole("button", { name: "Duplicate 1 track" }).click();
  expect((await projectOf(page)).patterns).toHaveLength(4);
  // By number; and a metre of its own, which asks what stays.
  await page.keyboard.press("Escape");
  await page.getByTestId("sheet").focus();
  await page.keyboard.press("Alt+Shift+Digit1");
  await page.keyboard.press("Alt+y");
  await list.getByRole("combobox", { name: "Metre of the pattern" }).selectOption("7/8");
  await list.getByRole("button", { name: "Keep bars" }).click();
  const [first] = (await projectOf(page)).patterns;
  expect(first).toMatchObject({ name: "B", metre: { beats: 7, unit: 8 }, bars: 1 });
  expect(first!.parts[0]!.length).toBe(3360);
  await list.getByRole("button", { name: "Clear", exact: true }).click();
  expect((await hits())[0]).toBe("");
  await page.keyboard.press("Escape");
  await page.keyboard.press("Control+z");
  expect((await hits())[0]).toBe("38,38,38,38");
});

test("the groove of a lane is a card, by amount; a fill of the kit ends the phrase", async ({
  page,
}) => {
  await openCopy(page, "Slack Water");
  const chain = async () => (await projectOf(page)).patterns[0]!.parts[0]!.chain;
  await page
    .getByRole("button", { name: /^Groove/ })
    .first()
    .click();
  const take = page.getByRole("combobox", { name: "Groove from a part" });
  await take.selectOption({ label: "Harbour kit: Closed hat" });
  const [step] = await chain();
  expect(step).toMatchObject({ transform: "groove" });
  // Its grid is swung to 57 %: the off-sixteenths are late by 7 % of an eighth.
  expect(String(step!.params.groove)).toMatch(/^1\/16 /);
  const offsets = String(step!.params.groove)
    .split(" ")
    .slice(1)
    .map((word) => Number(word.split("/")[0]));
  expect(Math.abs(offsets[1]! - 34)).toBeLessThan(12);
  await expect(page.getByTestId("groove-picture")).toBeVisible();
  await page
    .getByRole("button", { name: /^Drum fill/ })
    .first()
    .click();
  // A fill is the whole kit's, whatever lane is current.
  expect((await chain())[1]).toMatchObject({ transform: "drum-fill", scope: null });
  expect((await chain())[1]!.lane).toBeUndefined();
  await expect(page.getByText(/\d fills? of \d+ hits?/)).toBeVisible();
});

test("a long MIDI file is cut into patterns, equal ones found, and plays as it did", async ({
  page,
}) => {
  // Twelve bars of which four are another; one tempo change in the middle.
  const id = await openThree(page, [
    { id: "x", pattern: "a", times: 8 },
    { id: "y", pattern: "b", times: 4, tempo: 150 },
  ]);
  const { project } = (await (await page.request.get(`/api/projects/${id}`)).json()) as {
    project: Project;
  };
  const [choose] = await Promise.all([
    page.waitForEvent("filechooser"),
    page.getByRole("button", { name: "Import a file" }).click(),
  ]);
  await choose.setFiles({
    name: "tide.mid",
    mimeType: "audio/midi",
    buffer: Buffer.from(writeSmf(project)),
  });
  const shown = page.getByRole("dialog", { name: /^Import/ });
  await shown.getByRole("button", { name: "Import", exact: true }).click();
  await page.waitForURL((url) => !url.pathname.endsWith(id));
  await ready(page);
  expect((await projectOf(page)).patterns.map((p) => p.bars)).toEqual([12]);
  expect((await projectOf(page)).song.map((entry) => entry.tempo ?? 300)).toEqual([300, 150]);
  await page.keyboard.press("Alt+s");
  await page.getByRole("button", { name: "Split into patterns of 2 bars" }).click();
  const cut = await projectOf(page);
  expect(cut.patterns.map((p) => p.bars)).toEqual([2, 2]);
  expect(cut.song.map(({ times, tempo = 300 }) => [times, tempo])).toEqual([
    [4, 300],
    [2, 150],
  ]);
  await page.keyboard.press("Control+z");
  expect((await projectOf(page)).patterns).toHaveLength(1);
});
