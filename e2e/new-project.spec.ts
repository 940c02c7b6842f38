import { expect, openCopy, projectOf, ready, test } from "./fixtures";

test("a project begins with a beat and a band that were heard and seen before", async ({
  page,
}) => {
  await page.goto("/");
  await page.getByRole("button", { name: "New project" }).click();
  const dialog = page.getByRole("dialog", { name: "What does it begin with?" });
  const name = dialog.getByRole("textbox", { name: "Name" });
  await expect(name).not.toHaveValue("");
  // Nothing yet is asked of an empty sheet.
  await expect(dialog.getByRole("button", { name: "Another" })).toBeDisabled();
  const band = dialog.getByRole("radio", { name: "A beat with chords and bass" });
  await band.click();
  const picture = () => band.locator("svg").innerHTML();
  const first = await picture();
  await dialog.getByRole("button", { name: "Another" }).click();
  expect(await picture()).not.toBe(first);
  await dialog.getByRole("combobox", { name: "Style" }).selectOption("four on the floor");
  await dialog.getByRole("button", { name: "Hear a beat with chords and bass" }).click();
  const stop = dialog.getByRole("button", { name: "Stop a beat with chords and bass" });
  await expect(stop).toHaveAttribute("title", "Stop");
  await stop.click();
  await name.fill("Net Loft");
  await dialog.getByRole("button", { name: "Start" }).click();
  await page.waitForURL("**/p/**");
  await ready(page);
  const made = await projectOf(page);
  expect(made.name).toMatch(/^Net Loft( \d+)?$/);
  expect(made.tracks.map((track) => track.name)).toEqual([
    "Harbour kit",
    "Reed bass",
    "Glass keys",
  ]);
  const [pattern] = made.patterns;
  expect(pattern!.chords!.length).toBeGreaterThan(2);
  expect(pattern!.parts.every((part) => part.notes.length > 3)).toBe(true);
  // Four on the floor: a kick on each beat of the first bar.
  const kicks = pattern!.parts[0]!.notes.filter((n) => n.pitch === 36).map((n) => n.start);
  expect([0, 960, 1920, 2880].every((at) => kicks.includes(at))).toBe(true);
});

test("escape leaves no project behind; the settings say what a new one is", async ({ page }) => {
  await page.goto("/settings");
  await expect(page.getByText("Play or stop")).toBeVisible();
  await page.getByRole("spinbutton", { name: "Tempo of a new project" }).fill("93");
  await page.keyboard.press("Enter");
  await page
    .getByRole("combobox", { name: "Kit of a new project" })
    .selectOption({ label: "Foghorn kit" });
  await page.goto("/");
  const count = page.getByRole("heading", { level: 1 }).locator("span");
  const before = await count.textContent();
  await page.getByRole("button", { name: "New project" }).click();
  await page.keyboard.press("Escape");
  await expect(page.getByRole("dialog")).toHaveCount(0);
  expect(await count.textContent()).toBe(before);
  await page.getByRole("button", { name: "New project" }).click();
  // By the keyboard alone.
  await page.getByRole("button", { name: "Start" }).press("Enter");
  await page.waitForURL("**/p/**");
  await ready(page);
  const made = await projectOf(page);
  expect([made.tempo, made.tracks[0]!.name, made.tracks[0]!.sound]).toEqual([
    93,
    "Foghorn kit",
    "foghorn",
  ]);
  expect(made.patterns[0]!.parts.every((part) => part.notes.length === 0)).toBe(true);
});

test("a card of the library plays its first bars; one at a time", async ({ page }) => {
  await openCopy(page, "Gull Parade");
  const project = await projectOf(page);
  for (const name of ["Bell North", "Bell South"])
    await page.request.post("/api/projects", { data: { project, name } });
  await page.goto("/");
  // Cards far down are not there until they are scrolled to.
  await page.getByRole("searchbox", { name: "Search projects" }).fill("Bell");
  const hear = (name: string) => page.getByRole("button", { name: `Hear ${name}`, exact: true });
  const stop = (name: string) => page.getByRole("button", { name: `Stop ${name}`, exact: true });
  await hear("Bell North").click();
  await expect(stop("Bell North")).toHaveAttribute("title", "Stop");
  await hear("Bell South").click();
  await expect(hear("Bell North")).toBeVisible();
  await expect(stop("Bell South")).toBeVisible();
  await stop("Bell South").click();
  await expect(hear("Bell South")).toBeVisible();
  expect(new URL(page.url()).pathname).toBe("/");
});

test("a project that is none is refused with what is wrong, and nothing is made", async ({
  page,
}) => {
  const send = (project: unknown) => page.request.post("/api/projects", { data: { project } });
  const before = ((await (await page.request.get("/api/projects")).json()) as { total: number })
    .total;
  const answer = await send({ name: "x", tempo: -3 });
  expect(answer.status()).toBe(422);
  expect(await answer.text()).toContain("tempo");
  const after = ((await (await page.request.get("/api/projects")).json()) as { total: number })
    .total;
  expect(after).toBe(before);
});
