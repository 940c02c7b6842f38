import type { Page } from "@playwright/test";
import type { Note } from "@/core/score";
import {
  clickAt,
  expect,
  openCopy,
  openNew,
  placeOf,
  play,
  projectOf,
  ready,
  saved,
  sentNotes,
  stop,
  test,
  waitSent,
  waitGridUsed,
} from "./fixtures";

const notesOf = async (page: Page, pitch: number): Promise<readonly Note[]> =>
  (await projectOf(page)).patterns[0]!.parts[0]!.notes.filter((n) => n.pitch === pitch);
const starts = async (page: Page, pitch: number) =>
  (await notesOf(page, pitch)).map((note) => note.start);
const laneOf = async (page: Page, pitch: number) =>
  (await projectOf(page)).tracks[0]!.lanes.find((lane) => lane.pitch === pitch)!;
const take = (page: Page, name: string) =>
  page.getByRole("button", { name, exact: true }).first().click();
const focusSheet = (page: Page) => page.getByTestId("sheet").focus();
const setValue = async (page: Page, name: string, value: string | number) => {
  const field = page.getByRole("spinbutton", { name, exact: true });
  await field.fill(String(value));
  await field.press("Enter");
};

test("paint across lanes, erase again, ghosts with alt, velocity by wheel over a hit", async ({
  page,
}) => {
  await openNew(page);
  const from = await placeOf(page, "drums", 42, 0);
  const to = await placeOf(page, "drums", 42, 7 * 240);
  const below = await placeOf(page, "drums", 46, 10 * 240);
  await page.mouse.move(from.x, from.y);
  await page.mouse.down();
  await page.mouse.move(to.x, to.y, { steps: 15 });
  await page.mouse.move(below.x, below.y, { steps: 10 });
  await page.mouse.up();
  expect((await starts(page, 42)).slice(0, 8)).toEqual(
    [0, 1, 2, 3, 4, 5, 6, 7].map((i) => i * 240),
  );
  // The stroke went on into the lane below, on that lane's own steps.
  expect((await starts(page, 46)).every((start) => start % 480 === 0)).toBe(true);
  expect((await starts(page, 46)).length).toBeGreaterThan(0);

  await page.mouse.move(from.x, from.y);
  await page.mouse.down({ button: "right" });
  await page.mouse.move(to.x, to.y, { steps: 20 });
  await page.mouse.up({ button: "right" });
  expect((await starts(page, 42)).every((start) => start > 7 * 240)).toBe(true);

  await page.keyboard.down("Alt");
  await clickAt(page, "drums", 38, 960);
  await page.keyboard.up("Alt");
  await clickAt(page, "drums", 38, 2880);
  expect((await notesOf(page, 38)).map((n) => [n.start, n.velocity])).toEqual([
    [960, 32],
    [2880, 96],
  ]);

  const snare = await placeOf(page, "drums", 38, 2880);
  await page.mouse.move(snare.x, snare.y);
  await page.mouse.wheel(0, -200);
  await page.mouse.wheel(0, -200);
  await expect.poll(async () => (await notesOf(page, 38))[1]!.velocity).toBe(106);
  await page.keyboard.press("Control+z");
  expect((await notesOf(page, 38))[1]!.velocity).toBe(96);
});

test("fill a lane with a card that is heard and seen before it is written", async ({ page }) => {
  await openNew(page);
  await take(page, "Closed hat");
  await focusSheet(page);
  await page.keyboard.press("f");
  const card = page.getByTestId("step-fill");
  await expect(card.getByTestId("effect")).toHaveText(
    "16 hits added on 32 steps, on one step in 2",
  );
  await card.getByRole("combobox", { name: "Mode" }).selectOption("spread evenly");
  await setValue(page, "Hits", 5);
  await setValue(page, "Over", 8);
  await card.getByRole("button", { name: /more values/ }).click();
  await setValue(page, "Rotated by", 2);
  await expect(card.getByTestId("effect")).toContainText("20 hits added on 32 steps, 5 of every 8");
  expect(await starts(page, 42)).toEqual([]);
  // What is played is what the card makes: a cinquillo turned by two steps.
  await play(page);
  await waitSent(page, 8);
  await stop(page);
  const heard = (await sentNotes(page)).slice(0, 5).map((n) => n.patternTick / 240);
  expect(heard).toEqual([1, 2, 4, 6, 7]);
  await page.getByRole("button", { name: "Write to notes" }).click();
  expect((await starts(page, 42)).slice(0, 5)).toEqual([240, 480, 960, 1440, 1680]);

  // Shifted round the loop by key; every 4th step at once from the palette.
  await focusSheet(page);
  await page.keyboard.press("Control+Shift+ArrowLeft");
  expect((await starts(page, 42)).slice(0, 3)).toEqual([0, 240, 720]);
  await take(page, "Kick");
  await page.keyboard.press("Control+k");
  await page.keyboard.type("fill every 4");
  await page.keyboard.press("Enter");
  expect(await starts(page, 36)).toEqual([0, 1920, 3840, 5760]);
});

test("rolls in rolls from the keyboard, by any number, and with a rate that is told", async ({
  page,
}) => {
  await openNew(page);
  await clickAt(page, "drums", 42, 0);
  await focusSheet(page);
  await page.keyboard.press("3");
  expect(await starts(page, 42)).toEqual([0, 80, 160]);
  // The pieces are selected: 2 cuts each of them again.
  await page.keyboard.press("2");
  expect(await starts(page, 42)).toEqual([0, 40, 80, 120, 160, 200]);
  // At 120 BPM 40 ticks last 20.8 ms: 48 times a second.
  await expect(page.getByTestId("rate")).toHaveAttribute(
    "title",
    /^(20\.8|21) ms \(48 Hz, near G1/,
  );
  await page.keyboard.press("Control+z");
  await page.keyboard.press("Control+z");
  expect(await starts(page, 42)).toEqual([0]);

  await page.keyboard.press("n");
  await page.keyboard.press("Shift+R");
  await page.keyboard.type("7");
  await page.keyboard.press("Enter");
  expect(await starts(page, 42)).toEqual([0, 34, 69, 103, 137, 171, 206]);

  // A roll that speeds up, rises and swells, as a card on the selection.
  await page.keyboard.press("Control+z");
  await page.keyboard.press("Escape");
  await focusSheet(page);
  await page.keyboard.press("n");
  await page.getByRole("button", { name: /^Roll/ }).click();
  const card = page.getByTestId("step-roll");
  await card.getByRole("button", { name: /more values/ }).click();
  await setValue(page, "Hits", 4);
  await setValue(page, "Speeds up or down", 0.5);
  await setValue(page, "Velocity at start", -60);
  await setValue(page, "Tune at end", 12);
  await expect(card.getByTestId("effect")).toContainText("1 hit became 4, from every");
  await page.getByRole("button", { name: "Write to notes" }).click();
  const written = await notesOf(page, 42);
  expect(written.map((n) => n.start)).toEqual([0, 128, 192, 224]);
  expect(written.map((n) => n.velocity)).toEqual([36, 56, 76, 96]);
  expect(written.map((n) => n.tune)).toEqual([0, 4, 8, 12]);
});

test("lanes have grids and loops of their own; recent and pinned grids lie one key away", async ({
  page,
}) => {
  await openNew(page);
  await take(page, "Closed hat");
  await focusSheet(page);
  await page.keyboard.press("t");
  await page.keyboard.press("]");
  expect((await laneOf(page, 42)).grid).toEqual({ value: 32, kind: "triplet", swing: 50 });
  await waitGridUsed(page, 32, "triplet");
  await page.keyboard.press("Shift+P");
  await expect(page.getByRole("button", { name: "Use 1/32T, pinned" })).toBeVisible();

  // Another lane takes the pinned grid with one key, and goes back with another.
  await take(page, "Rim");
  await page.keyboard.press("Shift+1");
  expect((await laneOf(page, 37)).grid).toMatchObject({ value: 32, kind: "triplet" });
  await waitGridUsed(page, 32, "triplet");
  await page.getByRole("button", { name: "Use 1/16", exact: true }).click();
  expect((await laneOf(page, 37)).grid).toMatchObject({ value: 16, kind: "straight" });

  // Five steps of its own against the sixteen of the hat.
  await page.getByRole("button", { name: "Grid of Rim" }).click();
  await setValue(page, "Steps in the lane's own loop", 5);
  await setValue(page, "Swing", 60);
  await page.keyboard.press("Escape");
  await clickAt(page, "drums", 37, 240);
  expect((await laneOf(page, 37)).steps).toBe(5);
  await play(page);
  await waitSent(page, 4);
  await stop(page);
  const sent = (await sentNotes(page)).map((n) => n.tick);
  // The second step of each swung pair is at 60 % of 480.
  expect(sent.slice(0, 3)).toEqual([288, 288 + 1200, 288 + 2400]);

  // All of it is the user's: another project has the pin too, after a reload.
  await saved(page);
  await waitGridUsed(page, 16, "straight");
  await openNew(page, "Another");
  await expect(page.getByRole("button", { name: "Use 1/32T, pinned" })).toBeVisible();
  await take(page, "Kick");
  await page.keyboard.press("Shift+1");
  expect((await laneOf(page, 36)).grid).toMatchObject({ value: 32, kind: "triplet" });
  await page.keyboard.press("Shift+P");
  await expect(page.getByRole("button", { name: /pinned$/ })).toHaveCount(0);
});

test("nudges by a tick, 1 ms and 5 ms are heard while the loop plays; early hits at its end", async ({
  page,
}) => {
  await openNew(page);
  await clickAt(page, "drums", 36, 0);
  await play(page);
  await waitSent(page, 1);
  await focusSheet(page);
  await page.keyboard.press("n");
  await page.keyboard.press("Alt+Shift+ArrowRight");
  await page.keyboard.press("Alt+Control+ArrowRight");
  await page.keyboard.press("Alt+ArrowRight");
  // 1 ms and 5 ms at 120 BPM are 1.92 and 9.6 ticks.
  expect(await starts(page, 36)).toEqual([2 + 10 + 1]);
  await expect(page.getByTestId("drift")).toHaveText("+6.8 ms, 13 t");
  await expect
    .poll(async () => (await sentNotes(page)).some((n) => n.patternTick % 7680 === 13), {
      timeout: 15_000,
    })
    .toBe(true);
  const late = (await sentNotes(page)).find((n) => n.patternTick % 7680 === 13)!;
  const first = (await sentNotes(page))[0]!;
  expect(late.due - first.due).toBeCloseTo(((late.tick - first.tick) * 60) / 120 / 960, 6);

  for (let i = 0; i < 3; i++) await page.keyboard.press("Alt+Control+ArrowLeft");
  expect(await starts(page, 36)).toEqual([-17]);
  await expect
    .poll(async () => (await sentNotes(page)).some((n) => n.patternTick % 7680 === 7663), {
      timeout: 15_000,
    })
    .toBe(true);
  await stop(page);

  // By whole steps the drift is kept; to a line it is not.
  await page.keyboard.press("Shift+ArrowRight");
  expect(await starts(page, 36)).toEqual([480 - 17]);
  await page.keyboard.press("Control+ArrowRight");
  expect(await starts(page, 36)).toEqual([480]);
});

test("off-grid hits are listed and walked; the grid they fit is found and set", async ({
  page,
}) => {
  await openNew(page);
  await take(page, "Closed hat");
  await focusSheet(page);
  await page.keyboard.press("t");
  await page.getByRole("button", { name: /^Fill/ }).last().click();
  await setValue(page, "Every", 1);
  await page.getByRole("button", { name: "Write to notes" }).click();
  expect(await starts(page, 42)).toHaveLength(48);
  await focusSheet(page);
  await page.keyboard.press("t");
  await page.getByRole("tab", { name: "Measure" }).click();
  const fit = page.getByTestId("grid-fit");
  await expect(fit).toContainText("1/16T");
  await expect(fit).toContainText("48 of 48 hits");
  const list = page.getByRole("region", { name: "Off the grid" });
  await expect(list.getByRole("listitem")).toHaveCount(32);
  await expect(list.getByRole("listitem").first()).toContainText("−80 t");
  await expect(page.getByTestId("timing-words")).toHaveText(
    "between beats about the grid, within 42 ms; 1st, 2nd, 3rd and 4th beat on the grid.",
  );
  await focusSheet(page);
  await page.keyboard.press("o");
  await expect(page.locator("p[role=status]")).toHaveText("80 ticks early, 41.7 ms");
  await page.keyboard.press("o");
  await expect(page.getByTestId("drift")).toHaveText("+41.7 ms, 80 t");
  await fit.getByRole("button", { name: "Set Closed hat to 1/16T" }).click();
  expect((await laneOf(page, 42)).grid.kind).toBe("triplet");
  await expect(list).toHaveCount(0);
});

test("cut, copy, paste, columns, bars, doubled loops, a bar onto the next", async ({ page }) => {
  await openNew(page);
  for (const tick of [0, 480]) await clickAt(page, "drums", 36, tick);
  await clickAt(page, "drums", 38, 0);
  await focusSheet(page);

  // The first step in all lanes, copied onto the step of the caret.
  await take(page, "Kick");
  await focusSheet(page);
  for (let i = 0; i < 8; i++) await page.keyboard.press("ArrowLeft");
  await page.keyboard.press("c");
  await page.keyboard.press("Control+c");
  for (let i = 0; i < 4; i++) await page.keyboard.press("ArrowRight");
  await page.keyboard.press("Control+v");
  expect(await starts(page, 36)).toEqual([0, 480, 1920]);
  expect(await starts(page, 38)).toEqual([0, 1920]);

  // The whole bar onto the next, then again by duplicating, which the pattern's end stops.
  await page.keyboard.press("Shift+N");
  expect(await starts(page, 36)).toEqual([0, 480, 1920, 3840, 4320, 5760]);
  await page.keyboard.press("Control+z");
  expect(await starts(page, 36)).toEqual([0, 480, 1920]);
  await page.keyboard.press("Shift+L");
  const { bars, parts } = (await projectOf(page)).patterns[0]!;
  expect([bars, parts[0]!.length]).toEqual([4, 15_360]);
  expect(await starts(page, 36)).toEqual([0, 480, 1920, 7680, 8160, 9600]);
  await page.keyboard.press("Control+z");

  // A lane is cut and put on another pad.
  await take(page, "Kick");
  await focusSheet(page);
  await page.keyboard.press("Shift+C");
  await page.keyboard.press("Control+x");
  expect(await starts(page, 36)).toEqual([]);
  await take(page, "Low tom");
  await page.keyboard.press("Control+v");
  expect(await starts(page, 45)).toEqual([0, 480, 1920]);

  // Two hits duplicated after themselves, and pasted where the loop plays.
  await focusSheet(page);
  await page.keyboard.press("Control+a");
  await page.keyboard.press("Control+d");
  expect((await starts(page, 45)).length).toBeGreaterThan(3);
  await page.keyboard.press("Control+c");
  const before = (await starts(page, 45)).length;
  await play(page);
  await page.waitForFunction(() => (window.hailstep!.position()?.tick ?? 0) > 1000);
  await page.keyboard.press("Control+Shift+V");
  await stop(page);
  expect((await starts(page, 45)).length).toBeGreaterThan(before);
});

test("lanes are added, renamed, moved by key and by drag, levelled and removed; tracks move too", async ({
  page,
}) => {
  await openNew(page);
  const order = async () => (await projectOf(page)).tracks[0]!.lanes.map((lane) => lane.name);
  const [first, second, third] = await order();
  await take(page, first!);
  await focusSheet(page);
  await page.keyboard.press("Control+Shift+ArrowDown");
  expect((await order()).slice(0, 2)).toEqual([second, first]);

  const grip = page.getByRole("button", { name: `${third}: drag to move` });
  const box = (await grip.boundingBox())!;
  await page.mouse.move(box.x + 10, box.y + 12);
  await page.mouse.down();
  await page.mouse.move(box.x + 10, box.y - 20, { steps: 4 });
  await page.mouse.move(box.x + 10, box.y + 12 - 62, { steps: 4 });
  await page.mouse.up();
  expect((await order())[0]).toBe(third);

  await take(page, first!);
  await page.keyboard.press("F2");
  const menu = page.getByRole("dialog");
  await menu.getByRole("textbox", { name: "Name" }).fill("Boom");
  await page.keyboard.press("Enter");
  await expect(menu).toHaveCount(0);
  await page.keyboard.press("F2");
  await setValue(page, "Level of Boom", -6);
  await page.keyboard.press("Escape");
  expect(await order()).toContain("Boom");
  expect((await projectOf(page)).tracks[0]!.kit!.pads[0]).toMatchObject({ pitch: 36, level: -6 });

  await clickAt(page, "drums", 36, 0);
  await page.getByRole("button", { name: "Boom: drag to move" }).click();
  await page.getByRole("button", { name: "Delete lane" }).click();
  expect(await order()).not.toContain("Boom");
  expect(await starts(page, 36)).toEqual([]);
  await page.keyboard.press("Control+z");
  expect(await order()).toContain("Boom");
  expect(await starts(page, 36)).toEqual([0]);

  await page.getByRole("button", { name: "Harbour kit: drag to move" }).click();
  await page.getByRole("combobox", { name: "Add a lane" }).selectOption({ label: "Cowbell" });
  expect((await order()).at(-1)).toBe("Cowbell");
  await page.keyboard.press("Alt+Shift+ArrowDown");
  expect((await projectOf(page)).tracks.map((t) => t.id)).toEqual(["bass", "drums"]);
  await saved(page);
});

test("velocity ramps, levels, accents, panning by key; tune and pan drawn in the profile", async ({
  page,
}) => {
  await openNew(page);
  await take(page, "Closed hat");
  await page.keyboard.press("Control+k");
  await page.keyboard.type("fill every 4");
  await page.keyboard.press("Enter");
  const hats = () => notesOf(page, 42);
  await focusSheet(page);
  await page.keyboard.press("n");
  for (let i = 0; i < 10; i++) await page.keyboard.press("Alt+ArrowDown");
  const low = (await hats())[0]!.velocity;
  expect(low).toBe(56);
  await page.keyboard.press("Control+a");
  await page.keyboard.press("v");
  const ramp = (await hats()).map((n) => n.velocity);
  expect(ramp[0]).toBe(56);
  expect(ramp.at(-1)).toBe(96);
  for (let i = 1; i < ramp.length; i++) expect(ramp[i]!).toBeGreaterThan(ramp[i - 1]!);
  await page.keyboard.press("Shift+V");
  const level = (await hats()).map((n) => n.velocity);
  expect(Math.max(...level) - Math.min(...level)).toBeLessThanOrEqual(21);
  await page.keyboard.press("Shift+A");
  expect((await hats())[0]!.velocity).toBe(level[0]! + 20);
  expect((await hats())[1]!.velocity).toBe(level[1]);
  await page.keyboard.press("x");
  expect((await hats()).slice(0, 3).map((n) => n.pan)).toEqual([-0.6, 0.6, -0.6]);

  const draw = async () => {
    const profile = (await page.getByTestId("velocity-profile").boundingBox())!;
    await page.mouse.move(profile.x + 5, profile.y + profile.height - 6);
    await page.mouse.down();
    await page.mouse.move(profile.x + profile.width - 5, profile.y + 8, { steps: 20 });
    await page.mouse.up();
  };
  await page.getByRole("combobox", { name: "Note values" }).selectOption("tune");
  await draw();
  const tunes = (await hats()).map((n) => n.tune);
  expect(tunes[0]!).toBeLessThan(-8);
  expect(tunes.at(-1)!).toBeGreaterThan(6);
  for (let i = 1; i < tunes.length; i++) expect(tunes[i]!).toBeGreaterThanOrEqual(tunes[i - 1]!);
  await page.getByRole("combobox", { name: "Note values" }).selectOption("pan");
  await draw();
  const pans = (await hats()).map((n) => n.pan);
  expect(pans[0]!).toBeLessThan(-0.7);
  expect(pans.at(-1)!).toBeGreaterThan(0.5);
});

test("a chain on a lane: reordered by drag, a preset, a new seed, compared, written", async ({
  page,
}) => {
  await openCopy(page, "Slack Water");
  await take(page, "Closed hat");
  const count = (await notesOf(page, 42)).length;
  const kicks = await starts(page, 36);
  await page.getByRole("button", { name: /^Roll/ }).click();
  await page.getByRole("button", { name: /^Thin/ }).click();
  const chain = async () => (await projectOf(page)).patterns[0]!.parts[0]!.chain;
  expect((await chain()).map((s) => [s.transform, s.lane])).toEqual([
    ["roll", 42],
    ["thin", 42],
  ]);
  const thin = page.getByTestId("step-thin");
  const said = await thin.getByTestId("effect").textContent();
  expect(said).toMatch(new RegExp(`of ${2 * count} left out`));
  await thin.getByRole("button", { name: "New seed" }).click();
  await expect.poll(async () => (await chain())[1]!.params.seed).not.toBe(1);

  // Values kept under a name come back on another card, and after a reload.
  await setValue(page, "Chance", 80);
  await thin.getByRole("button", { name: /^Presets/ }).click();
  await thin.getByRole("textbox", { name: "Name for these values" }).fill("Sparse");
  await thin.getByRole("button", { name: "Save" }).click();
  await expect(thin.getByRole("button", { name: "Sparse", exact: true })).toBeVisible();
  await setValue(page, "Chance", 10);
  await thin.getByRole("button", { name: "Sparse", exact: true }).click();
  expect((await chain())[1]!.params.chance).toBe(80);

  const grip = (await thin.getByRole("button", { name: "Drag Thin" }).boundingBox())!;
  const roll = (await page.getByTestId("step-roll").boundingBox())!;
  await page.mouse.move(grip.x + 8, grip.y + 10);
  await page.mouse.down();
  await page.mouse.move(grip.x + 8, grip.y - 20, { steps: 5 });
  await page.mouse.move(grip.x + 8, roll.y + 5, { steps: 10 });
  // The cards make room for it before it is let go.
  const place = async () => (await page.getByTestId("step-roll").boundingBox())!.y;
  await expect.poll(place).not.toBe(roll.y);
  await page.mouse.up();
  await expect.poll(async () => (await chain()).map((s) => s.transform)).toEqual(["thin", "roll"]);
  await expect(thin.getByTestId("effect")).toContainText(`of ${count} left out`);

  await page.getByRole("button", { name: "Write to notes" }).click();
  expect(await chain()).toEqual([]);
  const written = await notesOf(page, 42);
  // Pieces are notes of their own.
  expect(written.filter((note) => note.id.includes("~"))).toEqual([]);
  expect(new Set(written.map((note) => note.id)).size).toBe(written.length);
  expect(await starts(page, 36)).toEqual(kicks);
  await page.keyboard.press("Control+z");
  expect(await notesOf(page, 42)).toHaveLength(count);

  await saved(page);
  await page.reload();
  await ready(page);
  await thin.getByRole("button", { name: /^Values of Thin/ }).click();
  await thin.getByRole("button", { name: /^Presets, 1/ }).click();
  await thin.getByRole("button", { name: "Delete preset Sparse" }).click();
  await expect(thin.getByRole("button", { name: "Sparse", exact: true })).toHaveCount(0);
});

test("the history is opened, jumped in, and named", async ({ page }) => {
  await openNew(page);
  for (const tick of [0, 480, 960]) await clickAt(page, "drums", 36, tick);
  await focusSheet(page);
  await page.keyboard.press("Shift+H");
  const list = page.getByRole("list", { name: "Edits" });
  await expect(list.getByRole("listitem")).toHaveText([
    "0Opened",
    "1Paint hitsKick, 1.1.1",
    "2Paint hitsKick, 1.1.3",
    "3Paint hitsKick, 1.2.1",
  ]);
  await list.getByRole("button", { name: /^1/ }).click();
  expect(await starts(page, 36)).toEqual([0]);
  await list.getByRole("button", { name: /^3/ }).click();
  expect(await starts(page, 36)).toEqual([0, 480, 960]);
  await list.getByRole("button", { name: /Opened/ }).click();
  expect(await starts(page, 36)).toEqual([]);
  await page.keyboard.press("Escape");
  await expect(list).toHaveCount(0);
});

test("time is zoomed from one beat to all bars by key, and by two fingers without painting", async ({
  page,
}) => {
  await openNew(page);
  const first = await placeOf(page, "drums", 36, 0);
  const sheet = (await page.getByTestId("sheet").boundingBox())!;
  await focusSheet(page);
  // One beat in view: half of the sheet's width is half a beat.
  await page.keyboard.press("9");
  await page.mouse.click(sheet.x + sheet.width / 2, first.y);
  expect(await starts(page, 36)).toEqual([480]);
  await page.keyboard.press("Control+z");

  // Sixteen bars: the first press of 0 fits what is readable, the second all of them.
  await setValue(page, "Length of the pattern in bars", 16);
  await focusSheet(page);
  await page.keyboard.press("0");
  await page.keyboard.press("0");
  await page.mouse.click(sheet.x + sheet.width / 2, first.y);
  const [middle] = await starts(page, 36);
  expect(Math.abs(middle! - 8 * 3840)).toBeLessThanOrEqual(480);
  await page.keyboard.press("Control+z");
  await page.keyboard.press("End");
  await expect(page.locator("p[role=status]")).toHaveText("Kick, 16.4.3, empty");
  await page.keyboard.press("Home");
  await page.keyboard.press("0");

  // Two fingers that part to twice their distance: what lay under each stays under it.
  const before = (await projectOf(page)).patterns[0]!.parts;
  const touch = await page.context().newCDPSession(page);
  const fingers = (type: "touchStart" | "touchMove" | "touchEnd", ...xs: number[]) =>
    touch.send("Input.dispatchTouchEvent", {
      type,
      touchPoints: xs.map((x, id) => ({ x: sheet.x + x, y: first.y, id })),
    });
  await fingers("touchStart", 200);
  await fingers("touchStart", 200, 300);
  for (let i = 1; i <= 5; i++) await fingers("touchMove", 200 - 10 * i, 300 + 10 * i);
  await fingers("touchEnd");
  expect((await projectOf(page)).patterns[0]!.parts).toEqual(before);
  await page.mouse.click(sheet.x + 150, first.y);
  const [under] = await starts(page, 36);
  // 200 px were tick (200 − 14) / (150 / 3840) = 4762, next to the step at 4800.
  expect(under).toBe(4800);
});
