import type { Page } from "@playwright/test";
import {
  clickAt,
  drag,
  expect,
  lineOf,
  openCopy,
  openNew,
  placeOf,
  play,
  projectOf,
  ready,
  saved,
  stop,
  test,
  waitSent,
} from "./fixtures";
import { wave } from "./wave";

/** What a new user tries, from an empty project, by pointer and by key. */

const drums = async (page: Page) => (await projectOf(page)).patterns[0]!.parts[0]!.notes;
const hits = async (page: Page, pitch: number) =>
  (await drums(page)).filter((note) => note.pitch === pitch).map((note) => note.start);
const status = (page: Page) => page.locator("p[role=status][data-track]");
const pick = async (page: Page, action: string) => {
  await page.keyboard.press("Control+k");
  await page.keyboard.type(action);
  await page.keyboard.press("Enter");
};
const takeBass = (page: Page) =>
  page.getByRole("button", { name: "Reed bass", exact: true }).click();

test("four on the floor with fills and shifts: lane commands work on the lane that is lit", async ({
  page,
}) => {
  await openNew(page);
  await page.getByRole("button", { name: "Closed hat", exact: true }).click();
  await clickAt(page, "drums", 42, 0);
  // A hit was put on the hat; the kick is taken, and it is the kick that is filled.
  await page.getByRole("button", { name: "Kick", exact: true }).click();
  await pick(page, "Fill every 2nd step");
  expect(await hits(page, 36)).toEqual([0, 960, 1920, 2880, 3840, 4800, 5760, 6720]);
  expect(await hits(page, 42)).toEqual([0]);
  // Filled again, no step gets a second hit.
  await pick(page, "Fill every 2nd step");
  expect(await hits(page, 36)).toHaveLength(8);
  await page.keyboard.press("Control+Shift+ArrowRight");
  expect((await hits(page, 36))[0]).toBe(480);
  // A hit pulled onto another takes its place, and that is said.
  await drag(page, await placeOf(page, "drums", 36, 480), await placeOf(page, "drums", 36, 1440));
  expect(await hits(page, 36)).toHaveLength(7);
  await expect(status(page)).toHaveText(/1 note at the same place replaced/);
});

test("hits go to another lane by drag and by key; the readout says where; a double click is one click", async ({
  page,
}) => {
  await openNew(page);
  await clickAt(page, "drums", 36, 0);
  const from = await placeOf(page, "drums", 36, 0);
  const to = await placeOf(page, "drums", 38, 960);
  await page.mouse.move(from.x, from.y);
  await page.mouse.down();
  await page.mouse.move(from.x + 20, from.y, { steps: 3 });
  await page.mouse.move(to.x, to.y, { steps: 5 });
  await expect(page.getByTestId("readout")).toHaveText("Snare · 1.2.1 · +1/4");
  await page.mouse.up();
  await expect(page.getByTestId("readout")).toBeHidden();
  expect([await hits(page, 36), await hits(page, 38)]).toEqual([[], [960]]);
  await page.keyboard.press("Shift+ArrowUp");
  expect([await hits(page, 36), await hits(page, 38)]).toEqual([[960], []]);
  const empty = await placeOf(page, "drums", 38, 1920);
  await page.mouse.dblclick(empty.x, empty.y);
  expect(await hits(page, 38)).toEqual([1920]);
});

test("a bass line: rows stay where they are, an octave by drag past the edge, values by their change", async ({
  page,
}) => {
  await openNew(page);
  await takeBass(page);
  const { y } = await placeOf(page, "bass", 41, 0);
  for (const tick of [0, 1920, 3840]) {
    await page.mouse.click((await placeOf(page, "bass", 41, tick)).x, y);
  }
  expect((await lineOf(page, "bass")).map(([, , pitch]) => pitch)).toEqual([41, 41, 41]);
  // Dragged over the upper edge the rows scroll, slowly, and the note goes along.
  const note = await placeOf(page, "bass", 41, 0);
  const top = await placeOf(page, "bass", 50, 0);
  await page.mouse.move(note.x, note.y);
  await page.mouse.down();
  await page.mouse.move(note.x, top.y - 22, { steps: 6 });
  await expect
    .poll(async () => (await lineOf(page, "bass"))[0]![2], { intervals: [50] })
    .toBeGreaterThanOrEqual(53);
  await page.mouse.up();
  const high = (await lineOf(page, "bass"))[0]![2];
  expect(high).toBeLessThan(90);
  // The ones that are left below are marked at the lower edge: a press there shows them.
  const pitch = page.getByRole("spinbutton", { name: "Pitch", exact: true });
  await pitch.fill("-12");
  await pitch.press("Enter");
  expect((await lineOf(page, "bass"))[0]![2]).toBe(high - 12);
  const length = page.getByRole("spinbutton", { name: "Length", exact: true });
  await length.fill("1/4");
  await length.press("Enter");
  await length.fill("*2");
  await length.press("Enter");
  await expect(length).toHaveValue("1/2");
  await length.fill("nonsense");
  await length.press("Enter");
  await expect(page.getByText("“nonsense” means nothing here")).toBeVisible();
  await expect(length).toHaveValue("1/2");
});

test("nothing leaves the loop unseen: pasted, pushed, or by another metre", async ({ page }) => {
  await openNew(page);
  await clickAt(page, "drums", 36, 7200);
  await page.keyboard.press("Control+d");
  await expect(status(page)).toHaveText("1 note duplicated; the loop is now 3 bars");
  expect(await hits(page, 36)).toEqual([7200, 8160]);
  await page.keyboard.press("Control+z");
  await clickAt(page, "drums", 42, 3600);
  await page.getByRole("combobox", { name: "Metre" }).selectOption("7/8");
  await page.getByRole("button", { name: "Notes move with their bars" }).click();
  // Both stood in the last eighth of their bars, which are shorter now.
  const mark = page.getByRole("button", { name: "Harbour kit: 2 notes past the end of the loop" });
  await expect(mark).toBeVisible();
  await mark.click();
  await page.getByRole("menuitem", { name: "Wrap round to the beginning" }).click();
  await expect(mark).toHaveCount(0);
  expect((await drums(page)).every((note) => note.start < 2 * 3360)).toBe(true);
  await page.keyboard.press("Control+z");
  await expect(mark).toBeVisible();
  await page.keyboard.press("Control+z");
  await page.getByRole("combobox", { name: "Metre" }).selectOption("7/8");
  await page.getByRole("button", { name: "Notes stay where they are", exact: true }).click();
  expect((await drums(page)).map((note) => note.start)).toEqual([3600, 7200]);
  await expect(mark).toHaveCount(0);
});

test("thirty-two bars are followed while they play, and looked at in the overview", async ({
  page,
}) => {
  await openNew(page);
  const bars = page.getByRole("spinbutton", { name: "Length of the pattern in bars" });
  await bars.fill("32");
  await bars.press("Enter");
  const tempo = page.getByRole("spinbutton", { name: "Tempo" });
  await tempo.fill("400");
  await tempo.press("Enter");
  const overview = page.getByTestId("overview");
  await expect(overview).toBeVisible();
  const at = () => overview.getAttribute("aria-valuenow").then(Number);
  await play(page);
  // Page by page: the view is farther on than its first page.
  await expect.poll(at, { timeout: 30_000 }).toBeGreaterThan(3840);
  await stop(page);
  const box = (await overview.boundingBox())!;
  await page.mouse.click(box.x + box.width - 4, box.y + 10);
  expect(await at()).toBeGreaterThan(24 * 3840);
  await overview.focus();
  await page.keyboard.press("PageUp");
  expect(await at()).toBeLessThan(28 * 3840);

  // The ruler sets where playing starts; shift space plays from the caret.
  const sheet = (await page.getByTestId("sheet").boundingBox())!;
  await page.mouse.click(sheet.x + 300, sheet.y + 10);
  await expect(page.getByTestId("play-start")).toBeVisible();
  await page.evaluate(() => window.hailstep!.clear());
  await page.getByTestId("sheet").focus();
  await page.keyboard.press("Space");
  await expect
    .poll(() => page.evaluate(() => window.hailstep!.position()?.tick ?? 0))
    .toBeGreaterThan(20 * 3840);
  await stop(page);
});

test("undo comes back over a reload, with the names of the edits", async ({ page }) => {
  await openNew(page);
  for (const tick of [0, 960, 1920]) await clickAt(page, "drums", 36, tick);
  await page.keyboard.press("Control+z");
  await saved(page);
  // The history is kept when nothing was done for a moment.
  const kept = () =>
    page.evaluate(
      () =>
        new Promise<number>((resolve) => {
          const opening = indexedDB.open("hailstep-history");
          opening.onsuccess = () => {
            const all = opening.result.transaction("histories").objectStore("histories").getAll();
            all.onsuccess = () =>
              resolve((all.result as { future: unknown[] }[]).at(-1)?.future.length ?? 0);
          };
        }),
    );
  await expect.poll(kept).toBe(1);
  await page.reload();
  await ready(page);
  await expect(page.getByRole("button", { name: "Undo Paint hits" })).toBeEnabled();
  await page.keyboard.press("Control+Shift+z");
  expect(await hits(page, 36)).toEqual([0, 960, 1920]);
  for (let i = 0; i < 3; i++) await page.keyboard.press("Control+z");
  expect(await hits(page, 36)).toEqual([]);
});

test("step entry: a click places the caret, pads enter hits, keys sound while the loop plays", async ({
  page,
}) => {
  await openNew(page);
  await takeBass(page);
  await page.keyboard.press("i");
  await clickAt(page, "bass", 41, 1920);
  expect(await lineOf(page, "bass")).toEqual([]);
  await page.keyboard.press("a");
  expect((await lineOf(page, "bass")).map(([start]) => start)).toEqual([1920]);
  await play(page);
  await page.keyboard.press("d");
  expect(await lineOf(page, "bass")).toHaveLength(2);
  await stop(page);
  await page.keyboard.press("Escape");
  await page.getByRole("button", { name: "Kick", exact: true }).click();
  await page.keyboard.press("i");
  await page.getByRole("group", { name: "Pads" }).getByRole("button", { name: "Snare" }).click();
  expect(await drums(page)).toHaveLength(1);
});

test("files dropped on the sheet: a sound on its lane, a project anywhere, anything else refused", async ({
  page,
}) => {
  await openNew(page, "Open one");
  const give = (name: string, bytes: Buffer, x: number, y: number) =>
    page.evaluate(
      ([file, data, left, top]) => {
        const list = new DataTransfer();
        list.items.add(new File([Uint8Array.from(data)], file));
        const target = document.elementFromPoint(left, top)!;
        const event = new DragEvent("drop", {
          dataTransfer: list,
          bubbles: true,
          cancelable: true,
          clientX: left,
          clientY: top,
        });
        target.dispatchEvent(event);
        return event.defaultPrevented;
      },
      [name, [...bytes], x, y] as const,
    );
  const lane = await placeOf(page, "drums", 38, 2880);
  expect(await give("winch.wav", wave(0.3), lane.x, lane.y)).toBe(true);
  await expect
    .poll(async () => (await projectOf(page)).tracks[0]!.kit?.pads[0]?.sample?.name)
    .toBe("winch.wav");
  expect(await give("winch.wav", wave(0.3), 640, 20)).toBe(true);
  const heard = page.getByRole("dialog", { name: "What is in “winch.wav”" });
  await expect(heard).toBeVisible();
  await page.keyboard.press("Escape");
  await expect(heard).toBeHidden();
  expect(await give("notes.txt", Buffer.from("hello"), 640, 20)).toBe(true);
  await expect(page.getByText("“notes.txt” not imported")).toBeVisible();
  expect((await projectOf(page)).name).toBe("Open one");
});

for (const [width, height] of [
  [1024, 700],
  [800, 600],
  [640, 400],
] as const) {
  test(`everything is within reach at ${width} by ${height}`, async ({ page }) => {
    await page.setViewportSize({ width, height });
    await openCopy(page, "Slack Water");
    const inside = async (name: string, role: "button" | "tab" = "button") => {
      const box = (await page.getByRole(role, { name, exact: true }).boundingBox())!;
      expect(box.x, name).toBeGreaterThanOrEqual(0);
      expect(box.x + box.width, name).toBeLessThanOrEqual(width);
    };
    for (const name of [
      "Play",
      "Pattern Quay",
      "Pattern Lamps up",
      "Export",
      "Find an action",
      "Panel",
    ]) {
      await inside(name);
    }
    await page.getByRole("button", { name: "Panel", exact: true }).click();
    await inside("Transform", "tab");
    await inside("Measure", "tab");
    await page.getByRole("tab", { name: "Generate" }).click();
    await page.keyboard.press("Escape");
    await expect(page.getByRole("tab", { name: "Generate" })).toBeHidden();
    // A command that is for the bench opens it.
    await page.keyboard.press("Alt+3");
    await expect(page.getByRole("tab", { name: "Sound" })).toBeVisible();
  });
}

test("by touch: pointers on screen select and erase, two fingers scroll both ways", async ({
  page,
}) => {
  await openNew(page);
  for (const tick of [0, 960, 1920]) await clickAt(page, "drums", 36, tick);
  const tools = page.getByRole("radiogroup", { name: "Pointer" });
  await tools.getByRole("radio", { name: "Select" }).click();
  const first = await placeOf(page, "drums", 36, -120);
  const last = await placeOf(page, "drums", 36, 1200);
  await drag(page, { x: first.x, y: first.y - 12 }, { x: last.x, y: last.y + 12 });
  await expect(page.getByLabel("Exact values").getByText("2 hits")).toBeVisible();
  await tools.getByRole("radio", { name: "Erase" }).click();
  await clickAt(page, "drums", 36, 1920);
  expect(await hits(page, 36)).toEqual([0, 960]);
  for (const radio of await tools.getByRole("radio").all()) {
    const box = (await radio.boundingBox())!;
    expect(Math.min(box.width, box.height)).toBeGreaterThanOrEqual(24);
  }

  await page.setViewportSize({ width: 1280, height: 520 });
  const sheet = (await page.getByTestId("sheet").boundingBox())!;
  const scrolled = () =>
    page.getByTestId("sheet").evaluate((element) => element.previousElementSibling!.scrollTop);
  const before = await scrolled();
  const session = await page.context().newCDPSession(page);
  const fingers = (type: "touchStart" | "touchMove" | "touchEnd", ...points: [number, number][]) =>
    session.send("Input.dispatchTouchEvent", {
      type,
      touchPoints: points.map(([x, y], id) => ({ x: sheet.x + x, y: sheet.y + y, id })),
    });
  await fingers("touchStart", [200, 150]);
  await fingers("touchStart", [200, 150], [300, 150]);
  for (let i = 1; i <= 6; i++) {
    await fingers("touchMove", [200, 150 - 12 * i], [300, 150 - 12 * i]);
  }
  await fingers("touchEnd");
  expect(await scrolled()).toBeGreaterThan(before + 30);
  expect(await hits(page, 36)).toEqual([0, 960]);
});

test("a stutter that slows down, and rolls in rolls, heard as they are shown", async ({ page }) => {
  await openNew(page);
  await takeBass(page);
  await clickAt(page, "bass", 36, 0);
  const length = page.getByRole("spinbutton", { name: "Length", exact: true });
  await length.fill("1/1");
  await length.press("Enter");
  await page.getByRole("button", { name: /^Stutter/ }).click();
  const card = page.getByTestId("step-stutter");
  await expect(card.getByLabel("From").locator("option:checked")).toHaveText("1/32");
  await expect(card.getByTestId("effect")).toHaveText(/^1 note became \d+, from \d+ ms to \d+ ms$/);
  await page.getByRole("button", { name: "Write to notes" }).click();
  const starts = (await lineOf(page, "bass")).map(([start]) => start);
  const gaps = starts.slice(1).map((start, i) => start - starts[i]!);
  expect(gaps.at(-1)!).toBeGreaterThan(2 * gaps[0]!);

  await clickAt(page, "drums", 38, 1920);
  for (const n of ["4", "3"]) await page.keyboard.press(n);
  expect(await hits(page, 38)).toHaveLength(12);
  await play(page);
  await waitSent(page, starts.length + 12);
  await stop(page);
});
