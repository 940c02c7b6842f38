import type { Page } from "@playwright/test";
import { clickAt, expect, openNew, placeOf, projectOf, ready, saved, stop, test } from "./fixtures";

const drums = async (page: Page) => (await projectOf(page)).patterns[0]!.parts[0]!.notes;
const bass = async (page: Page) => (await projectOf(page)).patterns[0]!.parts[1]!.notes;
const focused = (page: Page) =>
  page.evaluate(() => document.activeElement?.getAttribute("role") ?? "");

test("space plays and enter belongs to the sheet, whatever was clicked before", async ({
  page,
}) => {
  await openNew(page);
  const mute = page.getByRole("button", { name: "Mute Reed bass" });
  await mute.click();
  await expect(mute).toHaveAttribute("aria-pressed", "true");
  await page.keyboard.press("Space");
  await expect(page.getByRole("button", { name: "Stop", exact: true })).toBeVisible();
  await expect(mute).toHaveAttribute("aria-pressed", "true");
  await stop(page);
  // The button that stopped it, too.
  await page.keyboard.press("Space");
  await stop(page);

  await page.getByRole("button", { name: "Kick", exact: true }).click();
  await page.keyboard.press("Enter");
  expect(await drums(page)).toHaveLength(1);
  // A choice made by pointer gives the keys back.
  await page.getByRole("combobox", { name: "Metre" }).selectOption("7/8");
  await page.getByRole("button", { name: "Notes stay where they are", exact: true }).click();
  await expect.poll(() => focused(page)).toBe("application");
  await page.getByRole("combobox", { name: "Metre" }).selectOption("4/4");
  await page.keyboard.press("Escape");

  // Reached by key, a button is pressed by key.
  await mute.focus();
  await page.keyboard.press("Tab");
  await page.keyboard.press("Shift+Tab");
  await page.keyboard.press("Space");
  await expect(mute).toHaveAttribute("aria-pressed", "false");
});

test("escape closes what opened and leaves the keyboard where it was", async ({ page }) => {
  await openNew(page);
  const exporting = page.getByRole("button", { name: "Export", exact: true });
  await exporting.focus();
  await page.keyboard.press("Enter");
  await expect(page.getByRole("dialog", { name: "Export" })).toBeVisible();
  await page.keyboard.press("Escape");
  await expect(page.getByRole("dialog")).toHaveCount(0);
  await expect(exporting).toBeFocused();

  const grid = page.getByRole("button", { name: "Grid of Kick" });
  await grid.focus();
  await page.keyboard.press("Enter");
  const values = page.getByRole("radiogroup", { name: "Value" });
  await values.getByRole("radio", { name: "1/16", exact: true }).focus();
  // As long as a finger stays on a key: the next is chosen while it is down.
  await page.keyboard.press("ArrowRight", { delay: 60 });
  await expect(values.getByRole("radio", { name: "1/32", exact: true })).toBeChecked();
  await page.keyboard.press("Escape");
  await expect(grid).toBeFocused();

  await page.getByRole("tab", { name: "Transform" }).focus();
  await page.keyboard.press("ArrowRight");
  await expect(page.getByRole("tab", { name: "Generate" })).toHaveAttribute(
    "aria-selected",
    "true",
  );
});

test("a fast stroke paints every step, escape in its middle takes it back, and so does undo after", async ({
  page,
}) => {
  await openNew(page);
  const from = await placeOf(page, "drums", 42, 0);
  const to = await placeOf(page, "drums", 42, 7440);
  await page.mouse.move(from.x, from.y);
  await page.mouse.down();
  await page.mouse.move(to.x, to.y, { steps: 4 });
  await page.keyboard.press("Escape");
  await page.mouse.up();
  expect(await drums(page)).toEqual([]);
  await expect(page.getByRole("button", { name: "Undo", exact: true })).toBeDisabled();

  await page.mouse.move(from.x, from.y);
  await page.mouse.down();
  await page.mouse.move(to.x, to.y, { steps: 4 });
  await page.mouse.up();
  expect(await drums(page)).toHaveLength(32);
  await page.keyboard.press("Control+z");
  expect(await drums(page)).toEqual([]);
});

test("pieces written from a card are edited one by one, after a reload too", async ({ page }) => {
  await openNew(page);
  await page.getByRole("button", { name: "Reed bass", exact: true }).click();
  await clickAt(page, "bass", 36, 0);
  const length = page.getByRole("spinbutton", { name: "Length", exact: true });
  await length.fill("1/1");
  await length.press("Enter");
  await page.getByRole("button", { name: /^Split/ }).click();
  await page.getByRole("button", { name: "Write to notes" }).click();
  const before = await bass(page);
  expect(before.length).toBeGreaterThan(5);
  await saved(page);
  await page.reload();
  await ready(page);
  // The third piece moves by itself.
  const third = before[2]!;
  const { x, y } = await placeOf(page, "bass", 36, third.start);
  await page.mouse.click(x, y);
  await page.keyboard.press("Control+ArrowUp");
  const pitches = (await bass(page)).map((note) => note.pitch);
  expect(pitches.filter((pitch) => pitch === 37)).toHaveLength(1);
  expect(pitches[2]).toBe(37);
  await page.keyboard.press("Control+a");
  await page.keyboard.press("Delete");
  expect(await bass(page)).toEqual([]);
});

test("the palette does what a word of the trade says, and a limit is said", async ({ page }) => {
  await openNew(page);
  const find = async (word: string) => {
    await page.keyboard.press("Control+k");
    await page.getByPlaceholder("Find an action").fill(word);
    await page.keyboard.press("Enter");
  };
  await find("metronome");
  await expect(page.getByRole("button", { name: "Metronome", exact: true })).toHaveAttribute(
    "aria-pressed",
    "true",
  );
  await find("bpm");
  await expect(page.getByRole("spinbutton", { name: "Tempo" })).toBeFocused();
  await page.keyboard.press("Escape");
  await find("export");
  await expect(page.getByRole("dialog", { name: "Export" })).toBeVisible();
  await page.keyboard.press("Escape");
  await find("echo");
  await expect(page.getByTestId("step-echo")).toBeVisible();
  for (let i = 0; i < 31; i++) await find("reverse: add to chain");
  await expect(page.getByText(/33 cards; the limit is 32/)).toHaveCount(0);
  await find("reverse: add to chain");
  await expect(page.getByText(/would hold 33 cards; the limit is 32/).first()).toBeVisible();
  expect((await projectOf(page)).patterns[0]!.parts[0]!.chain).toHaveLength(32);
});
