import { expect, play, projectOf, ready, saved, test } from "./fixtures";

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
  // After a click on a button, space still stops.
  await page.keyboard.press("Space");
  await expect(page.getByRole("button", { name: "Stop", exact: true })).toHaveCount(0);
  const late = await page.evaluate(() => window.hailstep!.sent().filter((one) => one.late).length);
  expect(late).toBe(0);
  await page.keyboard.press("Control+z");
  expect((await projectOf(page)).patterns[0]!.parts[1]!.notes).toEqual([]);
  await page.keyboard.press("Control+Shift+z");
  await saved(page);
  await page.reload();
  await ready(page);
  expect((await projectOf(page)).patterns[0]!.parts[1]!.notes.length).toBe(bass.notes.length);
});
