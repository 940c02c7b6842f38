import type { Page } from "@playwright/test";
import { expect, openCopy, openNew, play, stop, test } from "./fixtures";
import { openThree, four } from "./three";

/** Where everything in the bar over the sheet and in the row of patterns stands, by what it is called. */
const places = (page: Page) =>
  page.evaluate(() => {
    const found: Record<string, string> = {};
    const bars = [document.querySelector("header")!, document.querySelector("main")!];
    bars.forEach((bar) => {
      const { top, height } = bar.getBoundingClientRect();
      found[bar.tagName] = `${top} ${height}`;
    });
    document
      .querySelectorAll(
        "header button, header input, header select, header a, [role=group][aria-label=Patterns]",
      )
      .forEach((element, i) => {
        const { left, top, width, height } = element.getBoundingClientRect();
        found[i] = [left, top, width, height].map(Math.round).join(" ");
      });
    return found;
  });

/** Controls of the bar that stand over one another, or beyond the window. */
const crowded = (page: Page) =>
  page.evaluate(() => {
    const wide = document.documentElement.clientWidth;
    const shown = [
      ...document.querySelectorAll<HTMLElement>(
        "header button, header input, header select, header a",
      ),
    ]
      .map((element) => ({
        name: element.getAttribute("aria-label") ?? element.textContent,
        box: element.getBoundingClientRect(),
      }))
      .filter(({ box }) => box.width > 0);
    const bar = document.querySelector("header")!.getBoundingClientRect();
    const out = shown.filter(
      ({ box }) => box.right > wide || box.left < 0 || box.top < bar.top || box.bottom > bar.bottom,
    );
    const over = shown.flatMap((a, i) =>
      shown
        .slice(i + 1)
        .filter(
          (b) =>
            Math.min(a.box.right, b.box.right) - Math.max(a.box.left, b.box.left) > 1 &&
            Math.min(a.box.bottom, b.box.bottom) - Math.max(a.box.top, b.box.top) > 1,
        )
        .map((b) => `${a.name} over ${b.name}`),
    );
    return [...out.map(({ name }) => `${name} outside`), ...over];
  });

for (const width of [1024, 1280, 1920])
  test(`the transport is one line, and nothing of it moves, at ${width} pixels`, async ({
    page,
  }) => {
    await page.setViewportSize({ width, height: 800 });
    await openThree(page, four());
    await page.getByRole("combobox", { name: "Metre" }).selectOption("4/4");
    const before = await places(page);
    expect(await crowded(page)).toEqual([]);

    await play(page);
    expect(await places(page)).toEqual(before);
    await stop(page);
    // The song in place of the pattern, and back.
    await page.keyboard.press("Alt+p");
    await play(page);
    expect(await places(page)).toEqual(before);
    await stop(page);
    await page.keyboard.press("Alt+p");
    // A key of the longest name, a metre of four figures, more patterns than the row has room for.
    await page.getByRole("combobox", { name: "Root of the key" }).selectOption("6");
    await page.getByRole("button", { name: /^Scale of the key/ }).click();
    await page.getByLabel("Find a scale").fill("harmonic minor");
    await page.keyboard.press("Enter");
    await expect(
      page.getByRole("button", { name: /^Scale of the key: harmonic minor/ }),
    ).toBeVisible();
    await page.keyboard.press("Escape");
    await page.getByRole("combobox", { name: "Metre" }).selectOption("12/8");
    await page.getByRole("button", { name: "Notes move with their bars" }).click();
    for (let i = 0; i < 6; i++)
      await page.getByRole("button", { name: "Duplicate the pattern" }).click();
    await expect(page.getByRole("group", { name: "Patterns" }).getByRole("button")).toHaveCount(9);
    expect(await crowded(page)).toEqual([]);
    expect(await places(page)).toEqual(before);
  });

test("patterns stand in a row with number, name and picture; the current one is in view", async ({
  page,
}) => {
  await page.setViewportSize({ width: 1024, height: 800 });
  await openCopy(page, "Slack Water");
  const row = page.getByRole("group", { name: "Patterns" });
  await expect(row.getByRole("button")).toHaveCount(2);
  for (let i = 0; i < 7; i++) await page.keyboard.press("Shift+d");
  const chips = row.getByRole("button");
  await expect(chips).toHaveCount(9);
  // The last one was made last, and is shown.
  const shown = async (n: number) => {
    const [chip, box] = [await chips.nth(n).boundingBox(), await row.boundingBox()];
    return chip!.x >= box!.x - 1 && chip!.x + chip!.width <= box!.x + box!.width + 1;
  };
  const current = async () =>
    (await chips.evaluateAll((all) => all.map((one) => one.getAttribute("aria-pressed")))).indexOf(
      "true",
    );
  await expect.poll(async () => shown(await current())).toBe(true);
  await expect(chips.first()).toContainText("1");
  await expect(chips.first().locator("svg path")).not.toHaveCount(0);
  // A song takes no room until there is one.
  await openNew(page);
  await expect(page.getByRole("region", { name: "Song", exact: true })).toHaveCount(0);
  await page.getByRole("button", { name: "Open the song" }).click();
  await page.getByRole("button", { name: "Add this pattern" }).click();
  // What is opened late is measured, too: its one section is as wide as the row is.
  const section = page
    .getByRole("region", { name: "Song", exact: true })
    .getByRole("option", { name: /^Section 1/ });
  await expect.poll(async () => (await section.boundingBox())!.width).toBeGreaterThan(400);
  await page.getByRole("button", { name: "Fold the song" }).click();
  await expect(page.getByRole("region", { name: "Song", exact: true })).toBeVisible();
});

/** Text that is cut off, and type of another size than the three of the desk. */
const illLaid = (page: Page) =>
  page.evaluate(() => {
    const wrong: string[] = [];
    for (const element of document.querySelectorAll<HTMLElement>("body *")) {
      if (element.closest("[hidden], .sr-only, .apexcharts-canvas, nextjs-portal")) continue;
      const style = getComputedStyle(element);
      const field = element.matches(
        "input:not([type=range], [type=checkbox], [type=radio], [type=file]), select",
      );
      const own = [...element.childNodes].some(
        (node) => node.nodeType === Node.TEXT_NODE && node.textContent!.trim() !== "",
      );
      const box = element.getBoundingClientRect();
      if (
        !(own || field) ||
        box.width < 2 ||
        box.height < 2 ||
        element.matches("option, style, script")
      )
        continue;
      const name = `${element.textContent!.trim().slice(0, 40) || (element as HTMLInputElement).value} (${element.getAttribute("aria-label") ?? element.getAttribute("class") ?? element.parentElement!.getAttribute("class")})`;
      // What is drawn in a picture is as large as the picture makes it.
      const scale = element instanceof SVGGraphicsElement ? element.getScreenCTM()!.a : 1;
      const size = Math.round(parseFloat(style.fontSize) * scale * 10) / 10;
      if (![12, 13, 15].includes(size)) wrong.push(`${size} px: ${name}`);
      const cut = style.overflowX !== "visible" && element.scrollWidth > element.clientWidth + 1;
      if (cut && !element.matches("textarea")) wrong.push(`cut: ${name}`);
      const shows = [...element.querySelectorAll("option")].find((option) => option.selected);
      if (!shows) continue;
      // A select tells no width of what it shows.
      const pen = document.createElement("canvas").getContext("2d")!;
      pen.font = style.font;
      const room =
        element.clientWidth - parseFloat(style.paddingLeft) - parseFloat(style.paddingRight);
      if (pen.measureText(shows.text).width > room + 1) wrong.push(`cut: ${shows.text} (${name})`);
    }
    return wrong;
  });

/** Height of the sheet in pixels. */
const sheetHeight = async (page: Page) => (await page.getByTestId("sheet").boundingBox())!.height;

test("nothing is cut off at 1280 by 800, type is of three sizes, and the sheet keeps its room", async ({
  page,
}) => {
  await openCopy(page, "Slack Water");
  const fine = async (view: string) => expect.soft(await illLaid(page), view).toEqual([]);
  await fine("sheet");
  expect.soft(await sheetHeight(page)).toBeGreaterThanOrEqual(560);
  await page.keyboard.press("ArrowRight");
  await page.getByRole("button", { name: "Closed hat", exact: true }).click();
  await page.getByTestId("sheet").focus();
  await page.keyboard.press("n");
  await fine("a hit");
  await page.getByRole("button", { name: "Reed bass", exact: true }).click();
  await page.getByTestId("sheet").focus();
  await page.keyboard.press("n");
  await fine("a note");
  for (const tab of ["Generate", "Sound", "Measure"]) {
    await page.getByRole("tab", { name: tab }).click();
    await fine(tab);
  }
  await page.getByTestId("sheet").focus();
  await page.keyboard.press("Alt+m");
  await fine("mixer");
  expect.soft(await sheetHeight(page)).toBeGreaterThanOrEqual(260);
  await page.keyboard.press("Alt+m");
  await page.keyboard.press("i");
  await fine("step entry");
  expect.soft(await sheetHeight(page)).toBeGreaterThanOrEqual(260);
  await page.keyboard.press("Escape");
  await page.getByRole("tab", { name: "Generate" }).click();
  await page.getByRole("button", { name: "Generate", exact: true }).click();
  await expect(page.getByRole("list", { name: "Ideas" }).getByRole("listitem")).toHaveCount(12);
  await fine("ideas");
  expect.soft(await sheetHeight(page)).toBeGreaterThanOrEqual(260);
});

test("fields keep their places, whatever is selected", async ({ page }) => {
  await openCopy(page, "Slack Water");
  const foot = page.locator("footer");
  const place = async (label: string) =>
    (await foot.getByText(label, { exact: true }).boundingBox())!.x;
  const labels = ["Start", "Length", "Pan", "Chance", "Loops", "Timing offset", "Duration"];
  const places = async () => Promise.all(labels.map(place));
  await page.getByRole("button", { name: "Closed hat", exact: true }).click();
  await page.getByTestId("sheet").focus();
  await page.keyboard.press("Escape");
  await page.keyboard.press("Escape");
  await expect(page.getByTestId("no-values")).toBeVisible();
  const empty = await places();
  await page.keyboard.press("n");
  expect(await places()).toEqual(empty);
  await page.getByLabel("Loops the selection sounds in").selectOption("counted");
  expect(await places()).toEqual(empty);
  await page.getByTestId("sheet").focus();
  await page.keyboard.press("Control+a");
  expect(await places()).toEqual(empty);
});

test("chords take no room until there are some, or one is asked for", async ({ page }) => {
  await openNew(page);
  const before = await sheetHeight(page);
  await expect(page.getByRole("group", { name: "Chord line" })).toHaveCount(0);
  await page.getByRole("button", { name: "Add a chord" }).click();
  await page.getByRole("textbox", { name: "Chord name" }).fill("Dm7");
  await page.keyboard.press("Enter");
  await page.keyboard.press("Escape");
  await expect(page.getByRole("button", { name: "Chord Dm7" })).toBeVisible();
  expect(await sheetHeight(page)).toBe(before - 28);
});
