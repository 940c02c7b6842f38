import {
  NO_SERVER,
  clickAt,
  cutSaves,
  expect,
  expected,
  openNew,
  projectOf,
  ready,
  saved,
  savesCanBeCut,
  storedNotes,
  test,
} from "./fixtures";

const starts = (notes: readonly { start: number }[]) =>
  notes.map((n) => n.start).sort((a, b) => a - b);

test("edits survive a server that is killed and started again while they are made", async ({
  page,
  server,
  problems,
}) => {
  const id = await openNew(page);
  await clickAt(page, "drums", 36, 0);
  await saved(page);
  await server.kill();
  await clickAt(page, "drums", 36, 960);
  await clickAt(page, "drums", 36, 1920);
  await expect(page.getByTestId("save-state")).toHaveText("waiting for the server");
  await clickAt(page, "drums", 36, 2880);
  await server.start();
  await clickAt(page, "drums", 36, 3840);
  await saved(page);
  expect(starts(await storedNotes(page, id, "drums"))).toEqual([0, 960, 1920, 2880, 3840]);
  expected(problems, NO_SERVER);
});

test("edits made without a server survive a reload", async ({ page }) => {
  await savesCanBeCut(page);
  const id = await openNew(page);
  await clickAt(page, "drums", 38, 960);
  await saved(page);
  await cutSaves(page, true);
  await clickAt(page, "drums", 38, 2880);
  await expect(page.getByTestId("save-state")).toHaveText("waiting for the server");
  await page.reload();
  await expect(page.getByTestId("save-state")).toHaveText("waiting for the server");
  expect(starts((await projectOf(page)).patterns[0]!.parts[0]!.notes)).toEqual([960, 2880]);
  expect(starts(await storedNotes(page, id, "drums"))).toEqual([960]);
  await cutSaves(page, false);
  await saved(page);
  expect(starts(await storedNotes(page, id, "drums"))).toEqual([960, 2880]);
});

test("an edit right before a reload is not lost", async ({ page, problems }) => {
  await openNew(page);
  for (let i = 0; i < 4; i++) {
    await clickAt(page, "drums", 42, i * 960);
    await page.reload();
    await ready(page);
  }
  expect(starts((await projectOf(page)).patterns[0]!.parts[0]!.notes)).toEqual([
    0, 960, 1920, 2880,
  ]);
  // The request of the page that went away may have got through: then the next one is stale, and merged.
  expected(problems, /409/);
});

test("two tabs on one project lose nothing of each other's", async ({
  page,
  context,
  problems,
}) => {
  const id = await openNew(page);
  const other = await context.newPage();
  await other.goto(`/p/${id}`);
  await ready(other);

  // At the same time, so that one of them is stale.
  await Promise.all([clickAt(page, "drums", 36, 0), clickAt(other, "drums", 36, 960)]);
  await Promise.all([clickAt(page, "drums", 38, 1920), clickAt(other, "drums", 36, 2880)]);
  await saved(page);
  await saved(other);
  await expect
    .poll(async () => starts(await storedNotes(page, id, "drums")))
    .toEqual([0, 960, 1920, 2880]);
  for (const tab of [page, other]) {
    await expect
      .poll(async () => starts((await projectOf(tab)).patterns[0]!.parts[0]!.notes))
      .toEqual([0, 960, 1920, 2880]);
  }
  // Undo in one tab takes back its own edit only.
  await page.keyboard.press("Control+z");
  await saved(page);
  await expect
    .poll(async () => starts(await storedNotes(page, id, "drums")))
    .toEqual([0, 960, 2880]);
  // A stale revision is told by the browser as a failed request, and mended by the saver.
  expected(problems, /409/);
});
