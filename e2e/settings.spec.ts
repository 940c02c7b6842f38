import type { Page } from "@playwright/test";
import { clickAt, expect, openCopy, openNew, projectOf, ready, test } from "./fixtures";

const kicks = async (page: Page) =>
  (await projectOf(page)).patterns[0]!.parts[0]!.notes.filter(({ pitch }) => pitch === 36);

/** The page of settings, once it is the browser's. */
async function openSettings(page: Page): Promise<void> {
  await page.goto("/settings");
  await expect(page.getByText("Play or stop")).toBeVisible();
}

test("a key is changed, said where it is, and works over a reload; a clash is named and settled", async ({
  page,
}) => {
  await openCopy(page, "Slack Water");
  await page.keyboard.press("Control+,");
  await page.waitForURL(/settings/);
  const search = page.getByRole("searchbox", { name: "Search settings and keys" });
  await search.fill("mixer");
  await page.getByRole("button", { name: "Change the key of Mixer" }).click();
  await expect(page.getByRole("textbox", { name: "New key of Mixer" })).toBeFocused();
  await page.keyboard.press("Shift+X");
  await expect(page.getByText("shift X: also Before or Now")).toBeVisible();
  await page.getByRole("button", { name: "Take it from there" }).click();
  await expect(page.getByText("also Before or Now")).toHaveCount(0);
  await page.getByRole("link", { name: "Back to the project" }).click();
  await page.waitForURL(/\/p\//);
  await ready(page);
  const mixer = page.getByRole("region", { name: "Mixer", exact: true });
  const button = page.getByRole("button", { name: "Mixer", exact: true });
  await expect(button).toHaveAttribute("title", /\(shift X\)$/);
  await page.getByTestId("sheet").focus();
  await page.keyboard.press("Alt+m");
  await expect(mixer).toHaveCount(0);
  await page.keyboard.press("Shift+X");
  await expect(mixer).toBeVisible();
  await page.reload();
  await ready(page);
  await page.getByTestId("sheet").focus();
  await page.keyboard.press("Shift+X");
  await expect(button).toHaveAttribute("aria-pressed", "true");
  // Reset as a group: both are as at first.
  await openSettings(page);
  await page.getByRole("button", { name: "Reset the keys of View" }).click();
  await page.getByRole("button", { name: "Reset the keys of Play" }).click();
  await search.fill("Before or Now");
  await expect(page.getByRole("region", { name: "Keys: Play" })).toContainText("shift X");
});

test("settings go out as a file, are reset, and come back from it; another file changes nothing", async ({
  page,
}) => {
  await openSettings(page);
  const theme = page.getByRole("combobox", { name: "Theme" });
  await theme.selectOption({ label: "Dark" });
  await expect(page.locator("html")).toHaveAttribute("data-theme", "slate");
  await page.getByRole("combobox", { name: "Colours of tracks" }).selectOption({ index: 1 });
  const waiting = page.waitForEvent("download");
  await page.getByRole("link", { name: "Export settings" }).click();
  const path = await (await waiting).path();
  await page.getByRole("button", { name: "Reset all settings" }).click();
  await expect(page.getByText("All settings are as at first")).toBeVisible();
  await expect(theme).toHaveValue("0");
  const file = page.getByLabel("File of settings");
  await file.setInputFiles({
    name: "other.json",
    mimeType: "application/json",
    buffer: Buffer.from('{"colour":"red"}'),
  });
  await expect(page.getByText(/other.json holds no settings/)).toBeVisible();
  await expect(theme).toHaveValue("0");
  await file.setInputFiles(path);
  await expect(page.locator("html")).toHaveAttribute("data-theme", "slate");
  await page.reload();
  await expect(page.locator("html")).toHaveAttribute("data-theme", "slate");
  await expect(page.locator("html")).toHaveAttribute("data-tracks", "apart");
});

test("help shows keys on the controls and what hands do with the pointer at hand, and goes away", async ({
  page,
}) => {
  await openNew(page);
  await page.keyboard.press("?");
  const help = page.getByRole("dialog", { name: "What hands do on the sheet" });
  await expect(help).toContainText("alt-press a step");
  await expect(help).toContainText("ctrl-press a note");
  const keys = page.getByTestId("help-keys");
  await expect(keys).toContainText("alt M");
  await page.keyboard.press("Escape");
  await expect(help).toHaveCount(0);
  // The keyboard is the sheet's; another pointer has other words.
  await page.getByRole("button", { name: "Reed bass", exact: true }).click();
  await page.getByTestId("sheet").focus();
  await page.keyboard.press("y");
  await page.keyboard.press("?");
  await expect(help).toContainText("cuts it at the line of the grid");
  await page.keyboard.press("?");
  await expect(help).toHaveCount(0);
  await expect(page.getByTestId("sheet")).toBeFocused();
  // All of them on a page, to search in.
  await page.goto("/keys");
  await page.getByRole("searchbox", { name: "Search keys" }).fill("coarser");
  await expect(page.getByRole("definition")).toHaveText(["["]);
});

test("a bracket is found on a German keyboard by its sign and, where that is wanted, by its place", async ({
  page,
}) => {
  await openNew(page);
  const grid = async () => (await projectOf(page)).tracks[0]!.lanes[0]!.grid.value;
  const before = await grid();
  // AltGr and 8 write it there; the key beside P writes ü.
  const press = (key: string, code: string, third: boolean) =>
    page.getByTestId("sheet").evaluate(
      (sheet, [k, c, t]) =>
        sheet.dispatchEvent(
          new KeyboardEvent("keydown", {
            ...{ key: k, code: c, modifierAltGraph: t, bubbles: true, cancelable: true },
          }),
        ),
      [key, code, third] as const,
    );
  await press("[", "Digit8", true);
  await expect.poll(grid).toBeLessThan(before);
  const coarser = await grid();
  await press("ü", "BracketLeft", false);
  expect(await grid()).toBe(coarser);
  await openSettings(page);
  await page
    .getByRole("combobox", { name: "A key is known by" })
    .selectOption({ label: "Its place" });
  await openNew(page);
  await press("ü", "BracketLeft", false);
  await expect.poll(grid).toBeLessThan(before);
});

test("a click on a hit selects it first where a person wants that, and the next deletes it", async ({
  page,
}) => {
  await openSettings(page);
  await page.getByRole("combobox", { name: "A click on a hit" }).selectOption({ index: 1 });
  await openNew(page);
  await clickAt(page, "drums", 36, 0);
  await clickAt(page, "drums", 36, 960);
  expect(await kicks(page)).toHaveLength(2);
  await clickAt(page, "drums", 36, 0);
  expect(await kicks(page)).toHaveLength(2);
  // One press elsewhere in between, which adds to what is selected: it is no double click.
  await page.keyboard.down("Control");
  await clickAt(page, "drums", 36, 960);
  await page.keyboard.up("Control");
  expect(await kicks(page)).toHaveLength(2);
  await clickAt(page, "drums", 36, 0);
  expect((await kicks(page)).map(({ start }) => start)).toEqual([960]);
});

test("the sheet is two presses of the tab key away", async ({ page }) => {
  await openNew(page);
  await page.reload();
  await ready(page);
  await page.evaluate(() => (document.activeElement as HTMLElement | null)?.blur());
  await page.keyboard.press("Tab");
  await expect(page.getByRole("link", { name: "To the sheet" })).toBeFocused();
  await page.keyboard.press("Enter");
  await expect(page.getByTestId("sheet")).toBeFocused();
});

test("tracks are stepped through by key, round and back", async ({ page }) => {
  await openCopy(page, "Slack Water");
  await page.getByTestId("sheet").focus();
  const said = page.locator("p[role=status]");
  for (const name of ["Reed bass", "Glass keys", "Harbour kit"]) {
    await page.keyboard.press("Alt+g");
    await expect(said).toHaveText(name);
  }
  await page.keyboard.press("Alt+Shift+G");
  await expect(said).toHaveText("Glass keys");
});
