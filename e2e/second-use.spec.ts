import type { Page } from "@playwright/test";
import {
  clickAt,
  drag,
  expect,
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
} from "./fixtures";

const notesOf = async (page: Page, track: string) =>
  (await projectOf(page)).patterns[0]!.parts.find((part) => part.track === track)!.notes;
const field = (page: Page, name: string) => page.getByRole("spinbutton", { name, exact: true });
const type = async (page: Page, name: string, text: string) => {
  await field(page, name).fill(text);
  await field(page, name).press("Enter");
};

/** Six hits of the closed hat, of velocities that differ, selected. */
async function hats(page: Page): Promise<() => Promise<number[]>> {
  await openNew(page);
  await page.getByRole("button", { name: "Closed hat", exact: true }).click();
  for (let i = 0; i < 6; i++) await clickAt(page, "drums", 42, i * 480);
  const strip = (await page.getByTestId("velocity-profile").boundingBox())!;
  const from = await placeOf(page, "drums", 42, 0);
  const to = await placeOf(page, "drums", 42, 2400);
  await page.keyboard.press("Escape");
  await drag(page, { x: from.x, y: strip.y + 20 }, { x: to.x, y: strip.y + 45 });
  await page.keyboard.press("Control+a");
  return async () => (await notesOf(page, "drums")).map((note) => note.velocity);
}
const gaps = (values: readonly number[]) => values.map((value) => value - values[0]!);

test("several hits of different velocity keep their differences, however they are changed together", async ({
  page,
}) => {
  const now = await hats(page);
  const before = await now();
  expect(new Set(before).size).toBe(6);
  const name = "Velocity of the selection";
  await field(page, name).focus();
  await page.keyboard.press("ArrowUp");
  expect(await now()).toEqual(before.map((value) => value + 1));
  await type(page, name, "-3");
  expect(await now()).toEqual(before.map((value) => value - 2));
  await type(page, name, "*0.5");
  expect(await now()).toEqual(before.map((value) => Math.round((value - 2) * 0.5)));
  // A run of changes of one value is one step of undo.
  await page.keyboard.press("Control+z");
  expect(await now()).toEqual(before);
  // The head of one, dragged: all go, and the value is told where the hand is.
  const strip = (await page.getByTestId("velocity-profile").boundingBox())!;
  const { x } = await placeOf(page, "drums", 42, 0);
  const y = strip.y + 49 - (before[0]! / 127) * 42;
  await page.mouse.move(x, y);
  await page.mouse.down();
  await page.mouse.move(x, y + 6, { steps: 3 });
  const moved = await now();
  expect(gaps(moved)).toEqual(gaps(before));
  expect(moved[0]!).toBeLessThan(before[0]! - 8);
  await expect(page.getByTestId("profile-value")).toHaveText(String(moved[0]));
  // Down to the floor they stop together, and come back by the way they went.
  await page.mouse.move(x, y + 300, { steps: 3 });
  expect(gaps(await now())).toEqual(gaps(before));
  expect(Math.min(...(await now()))).toBe(1);
  await page.mouse.move(x, y, { steps: 3 });
  await page.mouse.up();
  expect(await now()).toEqual(before);
  await expect(page.getByTestId("profile-value")).toHaveCount(0);
  // A bare number is one value for all, that of the first too.
  await field(page, name).focus();
  await field(page, name).selectText();
  await page.keyboard.type(String(before[0]));
  await page.keyboard.press("Enter");
  expect(new Set(await now())).toEqual(new Set([before[0]]));
});

test("a start typed as -20 is 20 earlier, and seen in the room before the first bar", async ({
  page,
}) => {
  await openNew(page);
  await page.getByRole("button", { name: "Closed hat", exact: true }).click();
  for (const tick of [0, 480, 960]) await clickAt(page, "drums", 42, tick);
  const starts = async () => (await notesOf(page, "drums")).map((note) => note.start);
  await page.keyboard.press("Control+a");
  await type(page, "Start", "-20");
  expect(await starts()).toEqual([-20, 460, 940]);
  await type(page, "Start", "-1/16");
  expect(await starts()).toEqual([-260, 220, 700]);
  await type(page, "Start", "+50 ms");
  const ticks = Math.round((50 * 960 * (await projectOf(page)).tempo) / 60_000);
  expect(await starts()).toEqual([-260 + ticks, 220 + ticks, 700 + ticks]);
  await type(page, "Start", "*2");
  await expect(page.getByText(/“\*2” means nothing here/)).toBeVisible();
  // It stops where it would be out of sight, all of them as one.
  await type(page, "Start", "-1/1");
  expect((await starts())[0]).toBe(-480);
  expect(gaps(await starts())).toEqual([0, 480, 960]);
  // There it lies, before the first bar: taken by a press of its own, and gone by a second.
  await page.keyboard.press("Escape");
  const box = (await page.getByTestId("sheet").boundingBox())!;
  const { y } = await placeOf(page, "drums", 42, 0);
  await page.mouse.click(box.x + 8, y);
  expect(await starts()).toEqual([0, 480]);
  await page.keyboard.press("Control+z");
  expect((await starts())[0]).toBe(-480);
});

test("on steps a few pixels wide the nearest step is meant: neighbours stay", async ({ page }) => {
  await openNew(page);
  await page.getByRole("button", { name: "Closed hat", exact: true }).click();
  // Out until a step is a few pixels wide.
  const { x, y } = await placeOf(page, "drums", 42, 0);
  await page.mouse.move(x + 200, y);
  const stepWidth = async () => 480 * (await page.evaluate(() => window.hailstep!.view().zoom));
  await page.keyboard.down("Control");
  for (let i = 0; i < 30 && (await stepWidth()) > 8; i++) await page.mouse.wheel(0, 60);
  await page.keyboard.up("Control");
  await page.keyboard.down("Shift");
  await page.mouse.wheel(0, -3000);
  await page.keyboard.up("Shift");
  const step = await stepWidth();
  const box = (await page.getByTestId("sheet").boundingBox())!;
  expect(step).toBeGreaterThan(4);
  expect(step).toBeLessThan(9);
  for (let i = 0; i < 6; i++) await page.mouse.click(box.x + 14 + i * step, y);
  const starts = async () => (await notesOf(page, "drums")).map((note) => note.start);
  expect(await starts()).toEqual([0, 480, 960, 1440, 1920, 2400]);
  // Once more on the third: that one goes.
  await page.mouse.click(box.x + 14 + 2 * step, y);
  expect(await starts()).toEqual([0, 480, 1440, 1920, 2400]);
});

test("a wheel that began as scrolling goes on so over a hit; begun on it, it is velocity", async ({
  page,
}) => {
  const now = await hats(page);
  await page.keyboard.press("Escape");
  const before = await now();
  const hit = await placeOf(page, "drums", 42, 480);
  const empty = await placeOf(page, "drums", 42, 720);
  await page.mouse.move(empty.x, empty.y);
  await page.mouse.wheel(0, 40);
  await page.mouse.move(hit.x, hit.y);
  await page.mouse.wheel(0, 40);
  await page.mouse.wheel(0, 40);
  expect(await now()).toEqual(before);
  // By the page's clock the turning is over: what comes now begins anew.
  const turned = await page.evaluate(() => performance.now());
  await page.waitForFunction((since) => performance.now() - since > 400, turned);
  const there = await placeOf(page, "drums", 42, 480);
  await page.mouse.move(there.x, there.y);
  await page.mouse.wheel(0, -40);
  await expect.poll(async () => (await now())[1]).toBe(before[1]! + 1);
});

test("a transform that is set is seen and heard first: space plays, enter applies, escape gives back", async ({
  page,
}) => {
  await openNew(page);
  await page.getByRole("button", { name: "Reed bass", exact: true }).click();
  await clickAt(page, "bass", 41, 0);
  await clickAt(page, "bass", 43, 960);
  await page.keyboard.press("Escape");
  const pitches = async () => (await notesOf(page, "bass")).map((note) => note.pitch);
  const begin = async () => {
    await page.getByRole("tab", { name: "Transform" }).click();
    await page.getByRole("radio", { name: "Apply now" }).click();
    await page.getByRole("button", { name: /^Transpose/ }).click();
  };
  await begin();
  const card = page.getByRole("region", { name: "Apply Transpose" });
  await type(page, "Semitones", "+7");
  await expect(card.getByRole("status")).toContainText("Previewed: ");
  expect(await pitches()).toEqual([41, 43]);
  // Space plays, and what is heard is the preview; without it while bypass is held.
  await page.keyboard.press("Space");
  await waitSent(page, 3);
  const heard = async () => (await sentNotes(page)).filter(({ track }) => track === "bass");
  expect((await heard())[0]!.pitch).toBe(48);
  const bypass = card.getByRole("button", { name: /^Bypass/ });
  const box = (await bypass.boundingBox())!;
  await page.mouse.move(box.x + 20, box.y + 10);
  await page.mouse.down();
  await page.evaluate(() => window.hailstep!.clear());
  await expect.poll(async () => (await heard()).some(({ pitch }) => pitch === 41)).toBe(true);
  await page.mouse.up();
  await page.keyboard.press("Space");
  await expect(page.getByRole("button", { name: "Play", exact: true })).toBeVisible();
  expect(await pitches()).toEqual([41, 43]);
  await page.keyboard.press("Escape");
  await expect(card).toHaveCount(0);
  await play(page);
  await page.evaluate(() => window.hailstep!.clear());
  await expect.poll(async () => (await heard()).some(({ pitch }) => pitch === 41)).toBe(true);
  await stop(page);
  expect(await pitches()).toEqual([41, 43]);
  // And applied by enter, from the card.
  await begin();
  await type(page, "Semitones", "+7");
  await page.keyboard.press("Enter");
  await expect(card).toHaveCount(0);
  expect(await pitches()).toEqual([48, 50]);
  await page.keyboard.press("Control+z");
  expect(await pitches()).toEqual([41, 43]);
});

test("what a transform works on is for one use: the next one is for what is selected then", async ({
  page,
}) => {
  await openNew(page);
  for (const tick of [0, 960, 1920]) await clickAt(page, "bass", 41, tick);
  await page.getByRole("button", { name: "Closed hat", exact: true }).click();
  for (const tick of [0, 480]) await clickAt(page, "drums", 42, tick);
  const open = async () => {
    await page.getByRole("tab", { name: "Transform" }).click();
    await page.getByRole("radio", { name: "Apply now" }).click();
  };
  await open();
  const scope = page.getByRole("combobox", { name: "Works on" });
  await scope.selectOption("project");
  await page.getByRole("button", { name: /^Transpose/ }).click();
  const card = page.getByRole("region", { name: "Apply Transpose" });
  await type(page, "Semitones", "+1");
  // How much that is stands on the button.
  await card.getByRole("button", { name: "Apply to 2 tracks, 5 notes" }).click();
  const bass = async () => (await notesOf(page, "bass")).map((note) => note.pitch);
  const once = await bass();
  await page.getByRole("button", { name: "Reed bass", exact: true }).click();
  await clickAt(page, "bass", once[1]!, 960);
  await open();
  await expect(scope.locator("option:checked")).toHaveText("Selection, 1 note");
  await page.getByRole("button", { name: /^Transpose/ }).click();
  await card.getByRole("button", { name: "Apply", exact: true }).click();
  expect(await bass()).toEqual([once[0], once[1]! + 1, once[2]]);
  expect((await notesOf(page, "drums")).every((note) => note.tune === 1)).toBe(true);
});

test("a press outside a popover closes it and paints nothing; the next one paints", async ({
  page,
}) => {
  await openNew(page);
  const kicks = async () => (await notesOf(page, "drums")).length;
  await page.getByRole("button", { name: "Grid of Kick" }).click();
  const grid = page.getByRole("dialog", { name: /grid/i });
  await expect(grid).toBeVisible();
  // Beside the popover, on a lane.
  const { x, y } = await placeOf(page, "drums", 49, 5760);
  await page.mouse.click(x, y);
  await expect(grid).toHaveCount(0);
  expect(await kicks()).toBe(0);
  await page.mouse.click(x, y);
  expect(await kicks()).toBe(1);
  // Nor does it draw on the profile.
  await page.getByRole("button", { name: "Grid of Kick" }).click();
  await expect(grid).toBeVisible();
  const before = await notesOf(page, "drums");
  const strip = (await page.getByTestId("velocity-profile").boundingBox())!;
  await page.mouse.click(x, strip.y + 40);
  await expect(grid).toHaveCount(0);
  expect(await notesOf(page, "drums")).toEqual(before);
});

test("hits that a card makes are not there to be taken: a touch offers to write them", async ({
  page,
}) => {
  await openNew(page);
  await page.getByRole("button", { name: "Closed hat", exact: true }).click();
  await clickAt(page, "drums", 42, 0);
  await page.getByRole("tab", { name: "Transform" }).click();
  await page.getByRole("button", { name: /^Fill/ }).first().click();
  const hats = async () => (await notesOf(page, "drums")).length;
  const said = page.getByRole("status").filter({ hasText: "Made by Fill" }).first();
  expect(await hats()).toBe(1);
  // A click, the wheel, Delete and Enter change nothing, and say why.
  await clickAt(page, "drums", 42, 480);
  const offer = page.getByLabel("Exact values").getByRole("button", { name: "Write to notes" });
  await expect(offer).toBeVisible();
  expect(await hats()).toBe(1);
  await page.keyboard.press("Delete");
  await expect(said).toBeAttached();
  await page.mouse.wheel(0, -120);
  await page.keyboard.press("Enter");
  await page.keyboard.press("ArrowUp");
  expect(await hats()).toBe(1);
  expect((await notesOf(page, "drums"))[0]!.velocity).toBe(96);
  // Written, they are notes like any other, and the one that was touched is selected.
  await clickAt(page, "drums", 42, 480);
  await offer.click();
  const written = await hats();
  expect(written).toBeGreaterThan(8);
  await page.keyboard.press("Delete");
  expect((await notesOf(page, "drums")).map(({ start }) => start)).not.toContain(480);
  expect(await hats()).toBe(written - 1);
});

test("what is copied can be pasted in another project, another tab and after a reload", async ({
  page,
  context,
}) => {
  await openNew(page);
  for (const tick of [0, 960]) await clickAt(page, "bass", 41, tick);
  await page.keyboard.press("Control+a");
  await page.keyboard.press("Control+c");
  const pasted = async (other: Page) => {
    await clickAt(other, "bass", 48, 3840);
    await other.keyboard.press("Control+v");
    return (await notesOf(other, "bass")).map(({ start, pitch }) => [start, pitch]);
  };
  const there = [
    [3840, 41],
    [3840, 48],
    [4800, 41],
  ];
  await openNew(page);
  await page.reload();
  await ready(page);
  expect(await pasted(page)).toEqual(there);
  const tab = await context.newPage();
  await openNew(tab);
  expect(await pasted(tab)).toEqual(there);
  // What is no clip is none.
  await tab.evaluate(() => localStorage.setItem("hailstep-clip", '{"kind":"bar","span":-1}'));
  await tab.reload();
  await ready(tab);
  expect((await notesOf(tab, "bass")).length).toBe(3);
  await tab.keyboard.press("Control+v");
  expect((await notesOf(tab, "bass")).length).toBe(3);
});

test("the whole project transposed: key and chords go along, and stay where that is not wished", async ({
  page,
}) => {
  await openNew(page);
  await clickAt(page, "bass", 41, 0);
  const keyNow = async () => (await projectOf(page)).key.root;
  const key = await keyNow();
  const transpose = async (along: boolean) => {
    await page.getByRole("tab", { name: "Transform" }).click();
    await page.getByRole("radio", { name: "Apply now" }).click();
    await page.getByRole("combobox", { name: "Works on" }).selectOption("melodic-project");
    await page.getByRole("button", { name: /^Transpose/ }).click();
    const card = page.getByRole("region", { name: "Apply Transpose" });
    await type(page, "Semitones", "+2");
    const goes = card.getByRole("checkbox", { name: "Key and chords go along" });
    await expect(goes).toBeChecked();
    if (!along) await goes.uncheck();
    await card.getByRole("button", { name: /^Apply/ }).click();
  };
  await page.keyboard.press("Escape");
  await page.keyboard.press("Shift+D");
  await transpose(true);
  expect(await keyNow()).toBe((key + 2) % 12);
  await page.keyboard.press("Control+z");
  expect(await keyNow()).toBe(key);
  await transpose(false);
  expect(await keyNow()).toBe(key);
});

test("a name is typed over, and both Enter and Escape lead back to the sheet", async ({ page }) => {
  await openNew(page);
  await page.getByRole("button", { name: "Kick", exact: true }).click();
  await page.keyboard.press("F2");
  await page.keyboard.type("Boom");
  await page.keyboard.press("Enter");
  await expect(page.getByRole("dialog")).toHaveCount(0);
  await expect(page.getByRole("button", { name: "Boom", exact: true })).toBeVisible();
  // The sheet has the keys: space plays.
  await page.keyboard.press("Space");
  await expect(page.getByRole("button", { name: "Stop" })).toBeVisible();
  await page.keyboard.press("Space");
  await page.keyboard.press("F2");
  await page.keyboard.type("Other");
  await page.keyboard.press("Escape");
  await expect(page.getByRole("dialog")).toHaveCount(0);
  await page.keyboard.press("Enter");
  expect((await notesOf(page, "drums")).length).toBe(1);
  expect((await projectOf(page)).tracks[0]!.lanes[0]!.name).toBe("Boom");
});

test("an undo pressed right after a reload undoes what was done just before it", async ({
  page,
}) => {
  await openNew(page);
  await clickAt(page, "drums", 36, 0);
  await clickAt(page, "drums", 36, 960);
  // At once: the history had no time to be kept.
  await page.reload();
  await page.waitForFunction(() => window.hailstep !== undefined);
  await page.keyboard.press("Control+z");
  const kicks = async () => (await notesOf(page, "drums")).map(({ start }) => start);
  await expect.poll(kicks).toEqual([0]);
  await page.keyboard.press("Control+z");
  await expect.poll(kicks).toEqual([]);
  await page.keyboard.press("Control+y");
  await expect.poll(kicks).toEqual([0]);
});

test("a page that is left while the browser still writes its history has all of it in the next", async ({
  page,
}) => {
  await page.addInitScript(() => {
    // Transactions that would write a history are held open, as on a slow disk, until the page is gone.
    const write = Reflect.get(IDBObjectStore.prototype, "put") as IDBObjectStore["put"];
    IDBObjectStore.prototype.put = function (...given) {
      const held = (store: IDBObjectStore) => (store.count().onsuccess = () => void held(store));
      if (this.name === "histories") held(this);
      return write.apply(this, given);
    };
  });
  await openNew(page);
  for (const tick of [0, 960, 1920]) await clickAt(page, "drums", 36, tick);
  await saved(page);
  // Well after the pause in which the history is put off.
  await page.waitForTimeout(600);
  await page.reload();
  await ready(page);
  const hits = async () => (await projectOf(page)).patterns[0]!.parts[0]!.notes.length;
  expect(await hits()).toBe(3);
  for (const left of [2, 1, 0]) {
    await page.keyboard.press("Control+z");
    await expect.poll(hits).toBe(left);
  }
});

test("in 12/8 a click on the second beat is the second beat, and the tempo counts dotted quarters", async ({
  page,
}) => {
  await openNew(page);
  await page.getByRole("combobox", { name: "Metre" }).selectOption("12/8");
  const tempo = field(page, "Tempo");
  await expect(tempo).toHaveValue("80.0");
  await expect(page.getByRole("img", { name: "dotted quarters a minute" })).toBeVisible();
  await tempo.fill("100");
  await tempo.press("Enter");
  expect((await projectOf(page)).tempo).toBe(150);
  await clickAt(page, "drums", 38, 1440);
  expect((await notesOf(page, "drums"))[0]!.start).toBe(1440);
});

test("a box over two tracks takes what lies in both: moved by a note of one, copied, deleted, undone", async ({
  page,
}) => {
  // High enough to see both.
  await page.setViewportSize({ width: 1280, height: 1100 });
  await openNew(page);
  for (const tick of [0, 960]) await clickAt(page, "drums", 42, tick);
  for (const tick of [480, 1440]) await clickAt(page, "bass", 48, tick);
  await page.keyboard.press("Escape");
  const [from, to] = [await placeOf(page, "drums", 42, 0), await placeOf(page, "bass", 48, 1200)];
  await page.keyboard.down("Shift");
  await drag(page, { x: from.x - 10, y: from.y - 12 }, { x: to.x, y: to.y + 8 });
  await page.keyboard.up("Shift");
  const starts = async () => [
    (await notesOf(page, "drums")).map((note) => note.start),
    (await notesOf(page, "bass")).map((note) => note.start),
  ];
  await expect(page.locator("footer")).toContainText("3 notes in 2 tracks");
  // By the bass note, one step later: the hits come along.
  await drag(page, await placeOf(page, "bass", 48, 480), await placeOf(page, "bass", 48, 720));
  expect(await starts()).toEqual([
    [240, 1200],
    [720, 1440],
  ]);
  await page.keyboard.press("Control+z");
  const velocity = field(page, "Velocity of the selection");
  await type(page, "Velocity of the selection", "+7");
  await expect(velocity).toHaveValue("103");
  const velocities = async (track: string) =>
    (await notesOf(page, track)).map((one) => one.velocity);
  expect([await velocities("drums"), await velocities("bass")]).toEqual([
    [103, 103],
    [103, 96],
  ]);
  await page.getByTestId("sheet").focus();
  await page.keyboard.press("Control+d");
  expect(await starts()).toEqual([
    [0, 960, 1920, 2880],
    [480, 1440, 2400],
  ]);
  await page.keyboard.press("Delete");
  expect(await starts()).toEqual([
    [0, 960],
    [480, 1440],
  ]);
  await page.keyboard.press("Control+z");
  await page.keyboard.press("Control+z");
  expect(await starts()).toEqual([
    [0, 960],
    [480, 1440],
  ]);
});

test("a bend is drawn beside velocity and pan, as a line and in steps; it goes along with a reverse, and away again", async ({
  page,
}) => {
  await openNew(page);
  for (const tick of [0, 960, 1920, 2880]) await clickAt(page, "bass", 48, tick);
  await page.getByRole("combobox", { name: "Note values" }).selectOption("bend");
  const strip = (await page.getByTestId("bend-profile").boundingBox())!;
  const bend = async () =>
    (await projectOf(page)).patterns[0]!.parts.find((part) => part.track === "bass")!.bend ?? [];
  const at = async (tick: number) => {
    const points = await bend();
    const next = points.findIndex((point) => point.tick > tick);
    const [a, b] = next < 0 ? [points.at(-1), undefined] : [points[next - 1], points[next]];
    if (!a || !b) return (a ?? b)?.value ?? 0;
    return a.value + ((b.value - a.value) * (tick - a.tick)) / (b.tick - a.tick);
  };
  const x = async (tick: number) => (await placeOf(page, "bass", 48, tick)).x;
  const [top, middle] = [strip.y + 6, strip.y + 31];
  // A line from the middle up to two semitones over the second beat, in one fast stroke.
  await page.mouse.move(await x(960), middle);
  await page.mouse.down();
  await page.mouse.move(await x(1900), top);
  await expect(page.getByTestId("profile-value")).toHaveText("+2.00 st");
  await page.mouse.up();
  expect(Math.abs((await at(1430)) - 4096)).toBeLessThan(250);
  expect(await at(1880)).toBeGreaterThan(7900);
  expect([await at(900), await at(2000)]).toEqual([0, 0]);
  // In steps: level over each, and a click sets one.
  await page.getByRole("radio", { name: "Steps" }).click();
  await page.mouse.click(await x(2880 + 60), strip.y + 51);
  expect([await at(2870), await at(2900), await at(3100), await at(3130)]).toEqual([
    0, -8192, -8192, 0,
  ]);
  // Escape in the middle gives back; the right button takes away.
  const before = await bend();
  await page.mouse.move(await x(0), top);
  await page.mouse.down();
  await page.mouse.move(await x(700), top);
  expect(await bend()).not.toEqual(before);
  await page.keyboard.press("Escape");
  await page.mouse.up();
  expect(await bend()).toEqual(before);
  await page.mouse.move(await x(2870), middle);
  await page.mouse.down({ button: "right" });
  await page.mouse.move((await x(3840)) - 4, middle);
  await page.mouse.up({ button: "right" });
  expect(await at(3000)).toBe(0);
  await page.keyboard.press("Control+z");
  expect(await bend()).toEqual(before);
  // Turned about with its notes, heard so, and kept.
  await page.getByTestId("sheet").focus();
  await page.keyboard.press("Control+a");
  await page.keyboard.press("Control+k");
  await page.keyboard.type("reverse the selection");
  await page.keyboard.press("Enter");
  expect(await at(1960 - 740)).toBeGreaterThan(6000);
  const turned = await bend();
  await expect(page.getByTestId("save-state")).toHaveText("saved");
  await page.reload();
  await ready(page);
  expect(await bend()).toEqual(turned);
  await clickAt(page, "bass", 48, 0);
  await page.getByRole("combobox", { name: "Note values" }).selectOption("bend");
  await page.getByRole("button", { name: "Delete the bend" }).click();
  expect(await bend()).toEqual([]);
});

test("the caret is told again after a stop; in step entry a ruler press moves it, and the values stay in place", async ({
  page,
}) => {
  await openNew(page);
  await clickAt(page, "bass", 48, 480);
  const position = page.getByTestId("position");
  await expect(position).toHaveText("1.1.3");
  await play(page);
  await expect(position).not.toHaveText("1.1.3");
  await stop(page);
  await expect(position).toHaveText("1.1.3");
  await page.getByTestId("sheet").focus();
  await page.keyboard.press("i");
  const ladder = page.getByTestId("value-ladder");
  const before = (await ladder.boundingBox())!;
  const sheet = (await page.getByTestId("sheet").boundingBox())!;
  const { x } = await placeOf(page, "bass", 48, 1920);
  await page.mouse.click(x, sheet.y + 12);
  await expect(position).toHaveText("1.3.1");
  await page.keyboard.press("a");
  await expect
    .poll(async () => (await notesOf(page, "bass")).map((one) => one.start))
    .toEqual([480, 1920]);
  expect((await ladder.boundingBox())!.x).toBe(before.x);
});

test("the lines that a quantize will pull to lie on the sheet while it is set, and are gone after it", async ({
  page,
}) => {
  await openNew(page);
  await clickAt(page, "bass", 48, 480);
  await page.keyboard.press("Alt+1");
  await page.getByRole("radio", { name: "Apply now" }).click();
  await page.getByRole("button", { name: /^Quantize/ }).click();
  const over = page.getByTestId("sheet").locator("canvas").nth(1);
  const bars = (await page.getByTestId("sheet").boundingBox())!;
  /** How many pixels of a column of the upper layer are drawn on. */
  const drawn = async (tick: number) => {
    const { x } = await placeOf(page, "bass", 48, tick);
    return over.evaluate((canvas: HTMLCanvasElement, at) => {
      const scale = canvas.width / canvas.clientWidth;
      const column = canvas
        .getContext("2d")!
        .getImageData(Math.round(at * scale) - 1, 0, 3, canvas.height).data;
      return column.filter((_, i) => i % 4 === 3 && column[i]! > 40).length;
    }, x - bars.x);
  };
  await page.getByRole("combobox", { name: "Grid" }).first().selectOption("4");
  await expect.poll(() => drawn(2880)).toBeGreaterThan(20);
  expect(await drawn(2880 + 480)).toBe(0);
  await page.getByRole("combobox", { name: "Grid" }).first().selectOption("8");
  await expect.poll(() => drawn(2880 + 480)).toBeGreaterThan(20);
  await page.keyboard.press("Escape");
  await expect.poll(() => drawn(2880)).toBe(0);
});

test("a pad that is shaped while nothing plays is heard after each change", async ({ page }) => {
  await openNew(page);
  await page.getByRole("button", { name: "Snare", exact: true }).click();
  await page.getByTestId("sheet").focus();
  await page.keyboard.press("Alt+3");
  const share = () =>
    page
      .getByTestId("meter-drums")
      .locator("div")
      .evaluate((bar) => new DOMMatrix(getComputedStyle(bar).transform).a);
  // The press on the lane was heard; it dies away.
  await expect.poll(share).toBe(0);
  const pad = page.getByRole("region", { name: "Pad Snare" });
  await pad.getByRole("slider", { name: "Pitch" }).focus();
  await page.keyboard.press("ArrowUp");
  await expect.poll(share).toBeGreaterThan(0.2);
  await expect.poll(share).toBe(0);
  await page.keyboard.press("ArrowUp");
  await expect.poll(share).toBeGreaterThan(0.2);
});

test("rows follow what was just made out of sight: transposed notes, and an idea", async ({
  page,
}) => {
  await openNew(page);
  for (const tick of [0, 960]) await clickAt(page, "bass", 48, tick);
  await page.keyboard.press("Control+a");
  await page.keyboard.press("Alt+1");
  await page.getByRole("radio", { name: "Apply now" }).click();
  await page.getByRole("button", { name: /^Transpose/ }).click();
  await page.getByRole("slider", { name: "Octaves" }).focus();
  for (let i = 0; i < 3; i++) await page.keyboard.press("ArrowRight");
  await page.getByRole("button", { name: /^Apply/ }).click();
  expect((await notesOf(page, "bass")).map((note) => note.pitch)).toEqual([84, 84]);
  // What lies outside the rows cannot be pressed: these can.
  const { x, y } = await placeOf(page, "bass", 84, 0);
  await page.mouse.move(x, y);
  await page.mouse.click(x, y);
  const pitch = field(page, "Pitch");
  await expect(pitch).toHaveValue("C6");
});
