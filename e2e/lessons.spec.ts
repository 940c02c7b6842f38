import { clickAt, drag, expect, openNew, placeOf, projectOf, ready, test } from "./fixtures";

test("an empty project shows a first beat step by step; each is ticked when it happens", async ({
  page,
}) => {
  await openNew(page);
  await page.getByRole("button", { name: "Show me a first beat" }).click();
  const lesson = page.getByRole("region", { name: "A first beat", exact: true });
  const ticked = () => lesson.getByLabel("done").count();
  await expect(lesson.getByRole("listitem")).toHaveCount(6);
  expect(await ticked()).toBe(0);
  await clickAt(page, "drums", 36, 0);
  await expect.poll(ticked).toBe(1);
  // What is undone was done all the same.
  await page.keyboard.press("Control+z");
  expect(await ticked()).toBe(1);
  // Elsewhere: at the same place so soon after it would be a double click.
  await clickAt(page, "drums", 36, 1920);
  for (const beat of [960, 2880]) await clickAt(page, "drums", 38, beat);
  await expect.poll(ticked).toBe(2);
  await drag(page, await placeOf(page, "drums", 42, 0), await placeOf(page, "drums", 42, 3600));
  await expect.poll(ticked).toBe(3);
  await page.keyboard.press("Space");
  await expect.poll(ticked).toBe(4);
  await page.keyboard.press("Space");
  const kick = await placeOf(page, "drums", 36, 1920);
  await drag(page, kick, { x: kick.x, y: kick.y + 20 });
  await expect.poll(ticked).toBe(5);
  await page.keyboard.press("n");
  await page.keyboard.press("3");
  await expect.poll(ticked).toBe(6);
  // All of it is one beat that is there.
  expect((await projectOf(page)).patterns[0]!.parts[0]!.notes.length).toBeGreaterThan(18);
  await lesson.getByRole("button", { name: "A first melody" }).click();
  await expect(page.getByRole("region", { name: "A first melody" })).toBeVisible();
});

test("a lesson is put away for good, and had again from help", async ({ page }) => {
  await openNew(page);
  await page.getByRole("button", { name: "Show me a first beat" }).click();
  await page.getByRole("button", { name: "Put a first beat away" }).click();
  await expect(page.getByRole("region", { name: "A first beat", exact: true })).toHaveCount(0);
  await page.reload();
  await ready(page);
  await expect(page.getByText("Click a step to add a hit")).toBeVisible();
  await expect(page.getByRole("button", { name: "Show me a first beat" })).toHaveCount(0);
  await page.getByTestId("sheet").focus();
  await page.keyboard.press("?");
  await page.getByRole("button", { name: "Playing in", exact: true }).click();
  const lesson = page.getByRole("region", { name: "Playing in", exact: true });
  await expect(lesson).toBeVisible();
  await page.getByTestId("sheet").focus();
  await page.keyboard.press(";");
  await expect(lesson.getByLabel("done")).toHaveCount(1);
});
