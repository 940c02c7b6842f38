import Database from "better-sqlite3";
import type { Page } from "@playwright/test";
import { gridTicks } from "@/core/time";
import type { Project } from "@/core/score";
import {
  NO_SERVER,
  clickAt,
  cutSaves,
  expect,
  expected,
  openCopy,
  openNew,
  play,
  placeOf,
  projectOf,
  ready,
  saved,
  savesCanBeCut,
  stop,
  storedNotes,
  test,
  waitSent,
  type TestServer,
} from "./fixtures";

/** How often the server is killed under a painting hand, and how long it stays away: more in a longer run. */
const KILLS = Number(process.env.KILLS ?? 2);
const AWAY_MS = Number(process.env.AWAY_S ?? 6) * 1000;
const EDITS = Number(process.env.EDITS ?? 25);

/** Rows of the line: pitches of its key. */
const LINE = [36, 38, 39, 41, 43, 44, 46, 48];

const state = (page: Page) => page.getByTestId("save-state");
const startsHere = async (page: Page) =>
  (await projectOf(page)).patterns[0]!.parts[0]!.notes.map((n) => `${n.pitch}@${n.start}`).sort();
const startsThere = async (page: Page, id: string) =>
  (await storedNotes(page, id, "drums")).map((n) => `${n.pitch}@${n.start}`).sort();

/** Spoils what is kept of a project, as a fault of the disk or of an older program would. */
function spoil(server: TestServer, id: string): void {
  const database = new Database(`${server.data}/hailstep.db`);
  database.prepare("update parts set notes = ? where project_id = ?").run('[{"id":"x"', id);
  database.prepare("update projects set summary = null where id = ?").run(id);
  database.close();
}

test("a project that cannot be read is listed by name, exported as it is kept, and deleted", async ({
  page,
  server,
  problems,
}) => {
  const id = await openNew(page, "Driftwood");
  const other = await openNew(page, "Sound hull");
  spoil(server, id);
  await page.goto("/");
  const card = page
    .getByRole("listitem")
    .filter({ has: page.getByRole("heading", { name: "Driftwood", exact: true }) });
  await expect(card).toContainText("Cannot be opened");
  await card.getByRole("link", { name: "Open Driftwood" }).click();
  await expect(page.getByRole("heading", { name: "“Driftwood” cannot be opened" })).toBeVisible();
  const [download] = await Promise.all([
    page.waitForEvent("download"),
    page.getByRole("link", { name: "Export it as it is kept" }).click(),
  ]);
  expect(download.suggestedFilename()).toMatch(/\.json$/);
  await page.getByRole("button", { name: "Delete it" }).click();
  await page.waitForURL("/");
  await expect(page.getByRole("heading", { name: "Sound hull", exact: true })).toBeVisible();
  await expect(card).toHaveCount(0);
  await page.goto(`/p/${other}`);
  await ready(page);
  expected(problems, /status of 4/);
});

for (const [name, body] of [
  ["cut", '{"revision": 4, "sta'],
  ["empty", ""],
  ["of another shape", '{"ok": true}'],
] as const) {
  test(`an answer that is ${name} counts as none, and the page goes on by itself`, async ({
    page,
    problems,
  }) => {
    const id = await openNew(page);
    let spoiled = 0;
    // The server has the edit; what it says of it does not arrive whole.
    await page.route(`**/api/projects/${id}`, async (route) => {
      if (route.request().method() !== "PATCH" || spoiled++ > 0) return route.continue();
      const response = await route.fetch();
      await route.fulfill({ response, body });
    });
    await clickAt(page, "drums", 36, 0);
    await expect.poll(() => spoiled).toBeGreaterThan(0);
    await clickAt(page, "drums", 36, 960);
    await saved(page);
    await clickAt(page, "drums", 38, 1920);
    await saved(page);
    expect(await startsThere(page, id)).toEqual(["36@0", "36@960", "38@1920"]);
    expect(await startsHere(page)).toEqual(await startsThere(page, id));
    // The edit was there already: asked again, the server says so, and what it has is merged.
    expected(problems, /409/);
  });
}

test("with the server away for long, work goes on and then everything is saved", async ({
  page,
  server,
  problems,
}) => {
  test.setTimeout(60_000 + AWAY_MS);
  const id = await openNew(page);
  await server.kill();
  const until = Date.now() + AWAY_MS;
  for (let n = 0; n < 16; n++) await clickAt(page, "drums", n % 2 ? 36 : 38, n * 480);
  await expect.poll(() => Date.now(), { timeout: AWAY_MS + 10_000 }).toBeGreaterThan(until);
  await expect(state(page)).toHaveText("waiting for the server");
  await server.start();
  await saved(page);
  expect(await startsThere(page, id)).toHaveLength(16);
  expect(await startsThere(page, id)).toEqual(await startsHere(page));
  expected(problems, NO_SERVER);
});

test("a tab and its double keep what they could not send, each its own", async ({
  page,
  context,
}) => {
  await savesCanBeCut(context);
  const id = await openNew(page);
  // A window opened from a page has a copy of its session storage, as a duplicated tab has.
  const [double] = await Promise.all([
    context.waitForEvent("page"),
    page.evaluate(() => void window.open(location.href)),
  ]);
  await ready(double);
  await cutSaves(page, true);
  await clickAt(page, "drums", 36, 0);
  await clickAt(double, "drums", 38, 960);
  for (const tab of [page, double]) await expect(state(tab)).toHaveText("waiting for the server");
  await double.close({ runBeforeUnload: true });
  await page.goto("/");
  await cutSaves(page, false);
  await page.goto(`/p/${id}`);
  await expect.poll(() => startsThere(page, id)).toEqual(["36@0", "38@960"]);
  await saved(page);
});

test("nothing told as saved is lost when the server is killed under a painting hand", async ({
  page,
  server,
  problems,
}) => {
  test.setTimeout(60_000 + KILLS * 20_000);
  const id = await openNew(page);
  const rows = [36, 38, 42, 46];
  for (let kill = 0; kill < KILLS; kill++) {
    const y = rows[kill % rows.length]!;
    const from = await placeOf(page, "drums", y, 0);
    const to = await placeOf(page, "drums", y, 7200);
    // Each row is painted, and the next time round erased.
    const button = Math.floor(kill / rows.length) % 2 ? "right" : "left";
    const moveTo = (n: number) => page.mouse.move(from.x + ((to.x - from.x) * n) / 16, from.y);
    await page.mouse.move(from.x, from.y);
    await page.mouse.down({ button });
    // While a save is on its way, and in turns when it has just been answered.
    const saving = page.waitForRequest((request) => request.method() === "PATCH");
    const begun = 5 + (kill % 8);
    for (let n = 1; n <= begun; n++) await moveTo(n);
    const request = await saving;
    if (kill % 2) await request.response();
    const killed = server.kill();
    for (let n = begun + 1; n <= 16; n++) await moveTo(n);
    await page.mouse.up({ button });
    await killed;
    const painted = await startsHere(page);
    await server.start();
    await saved(page);
    expect(await startsThere(page, id)).toEqual(painted);
    if (kill < rows.length) {
      const row = painted.filter((note) => note.startsWith(`${y}@`));
      expect(row.length).toBeGreaterThanOrEqual(8);
    }
  }
  // An answer may be cut off half way; what it said is then met again as a conflict, and merged.
  expected(problems, new RegExp(`${NO_SERVER.source}|INCOMPLETE_CHUNKED|409`));
});

test("two tabs, many edits each, on the same and on other parts, one deleting what the other edits", async ({
  page,
  context,
  problems,
}) => {
  test.setTimeout(60_000 + EDITS * 8000);
  const id = await openNew(page);
  const other = await context.newPage();
  await other.goto(`/p/${id}`);
  await ready(other);
  const wanted: string[] = [];
  const cells = (pitch: number, every: number) =>
    Array.from({ length: 7680 / every }, (_, i) => ({ pitch, tick: i * every }));
  const { lanes } = (await projectOf(page)).tracks[0]!;
  const free = {
    drums: lanes.flatMap((lane) => cells(lane.pitch, gridTicks(lane.grid))),
    bass: LINE.flatMap((pitch) => cells(pitch, 480)),
  };
  /** Puts into the next free cell, so that the tabs take turns along the same rows. */
  const put = (tab: Page, track: "drums" | "bass") => {
    const { pitch, tick } = free[track].shift()!;
    wanted.push(`${track} ${pitch}@${tick}`);
    return clickAt(tab, track, pitch, tick);
  };
  const turn = (n: number) => [
    put(page, n % 5 === 4 ? "bass" : "drums"),
    put(other, n % 3 === 2 ? "bass" : "drums"),
  ];
  for (let n = 0; n < EDITS; n++) await Promise.all(turn(n));
  const all = (project: Project) =>
    project.patterns[0]!.parts.flatMap((part) =>
      part.notes.map((note) => `${part.track} ${note.pitch}@${note.start}`),
    ).sort();
  for (const tab of [page, other]) await saved(tab);
  for (const tab of [page, other])
    await expect.poll(async () => all(await projectOf(tab))).toEqual(wanted.sort());
  const { project } = (await (await page.request.get(`/api/projects/${id}`)).json()) as {
    project: Project;
  };
  expect(all(project)).toEqual(wanted.sort());

  // One deletes the line while the other adds to it: it comes back with both, and both are told.
  let cut = true;
  await page.route(`**/api/projects/${id}`, (route) =>
    cut && route.request().method() === "PATCH" ? route.abort() : route.continue(),
  );
  await clickAt(page, "bass", 48, 7200);
  await expect(state(page)).toHaveText("waiting for the server");
  await other.getByRole("button", { name: "Reed bass", exact: true }).click();
  await other.getByRole("tab", { name: "Sound" }).click();
  await other.getByRole("button", { name: "Delete track" }).click();
  await expect.poll(async () => (await projectOf(other)).tracks.length).toBe(1);
  await expect.poll(async () => (await projectOf(page)).tracks.length).toBe(2);
  // Both are looked at from before: what is told goes away by itself.
  const told = [page, other].map((tab) =>
    expect(tab.getByText(/came back: deleted in one tab/)).toBeVisible({ timeout: 30_000 }),
  );
  cut = false;
  await Promise.all(told);
  for (const tab of [page, other]) await saved(tab);
  wanted.push("bass 48@7200");
  for (const tab of [page, other])
    await expect.poll(async () => all(await projectOf(tab))).toEqual(wanted.sort());
  expected(problems, /409|ERR_FAILED/);
});

test("without the audio thread's program it is said, edits go on, and the next start has all", async ({
  page,
  problems,
}) => {
  await page.route("**/audio-thread.js", (route) => route.abort());
  await openCopy(page, "Slack Water");
  const said = page.getByText("Sound cannot be had").first();
  await play(page);
  await expect(said).toBeVisible();
  // The loop goes round, unheard, and what is edited is kept.
  await waitSent(page, 8);
  await stop(page);
  // An export says the same in place of a silent file.
  const bounced = () =>
    page.evaluate(async () => {
      const { bounceHeld, project } = window.hailstep!;
      const note = { pitch: 60, velocity: 100, from: 0, to: 0.5 };
      const sound = await bounceHeld(project(), { track: "keys", notes: [note], seconds: 1 });
      return sound.getChannelData(0).some((x) => Math.abs(x) > 0.01);
    });
  await expect(bounced()).rejects.toThrow(/fetch/i);
  expected(problems, /audio-thread|ERR_FAILED/);
  await page.unroute("**/audio-thread.js");
  await expect(said).toBeHidden({ timeout: 20_000 });
  await play(page);
  await waitSent(page, 16);
  await expect(said).toBeHidden();
  expect(await bounced()).toBe(true);
  // What was fetched once needs no server.
  await page.route("**/audio-thread.js", (route) => route.abort());
  expect(await bounced()).toBe(true);
});
