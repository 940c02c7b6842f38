import { mkdtempSync, readFileSync, rmSync } from "node:fs";
import { type AddressInfo, createServer } from "node:net";
import { tmpdir } from "node:os";
import path from "node:path";
import {
  expect,
  test as base,
  type BrowserContext,
  type Locator,
  type Page,
} from "@playwright/test";
import type { Grid } from "@/core/time";
import type { Project } from "@/core/score";
import { RULER_HEIGHT, layOut } from "@/ui/geometry/layout";
import { fitZoom, xOf } from "@/ui/geometry/view";
import { startServer, type RunningServer } from "../scripts/server.mjs";

/** A server on a fresh folder of data; `restart` kills it as a crash would and starts it again. */
export interface TestServer {
  url: string;
  /** Folder of its data. */
  data: string;
  kill(): Promise<void>;
  start(): Promise<void>;
}

/** A port that nothing listens on: a suite beside this one keeps its own server. */
const freePort = () =>
  new Promise<number>((resolve, reject) => {
    const probe = createServer();
    probe.on("error", reject);
    probe.listen(0, "127.0.0.1", () => {
      const { port } = probe.address() as AddressInfo;
      probe.close(() => resolve(port));
    });
  });

export const test = base.extend<{ problems: string[] }, { server: TestServer }>({
  server: [
    async ({}, use) => {
      const data = mkdtempSync(path.join(tmpdir(), "hailstep-e2e-"));
      const port = await freePort();
      let running: RunningServer = await startServer({ port, data });
      await use({
        url: running.url,
        data,
        kill: () => running.kill(),
        start: async () => {
          running = await startServer({ port, data });
        },
      });
      await running.stop();
      rmSync(data, { recursive: true, force: true });
    },
    { scope: "worker", timeout: 60_000 },
  ],
  baseURL: async ({ server }, use) => use(server.url),
  /**
   * Errors of the page, breaches of its content security policy and requests to any other host among them.
   * A test that provokes some empties the list; otherwise any fails it.
   */
  problems: [
    async ({ page, context, server }, use) => {
      const problems: string[] = [];
      context.on("request", (request) => {
        const { protocol, origin } = new URL(request.url());
        const own = origin === server.url || protocol === "data:" || protocol === "blob:";
        if (!own) problems.push(`asked another host: ${request.url()}`);
      });
      page.on("pageerror", (error) => problems.push(error.message));
      page.on("console", (message) => {
        if (message.type() === "error") problems.push(message.text());
      });
      await use(problems);
      expect(problems, "errors in the console").toEqual([]);
    },
    { auto: true },
  ],
});
export { expect };

/** Opens a fresh copy of a demo project, so that tests do not meet each other's edits. */
export async function openCopy(page: Page, name: string): Promise<string> {
  const listed = await page.request.get("/api/projects", { params: { search: name, limit: 200 } });
  const { projects } = (await listed.json()) as {
    projects: { id: string; name: string }[];
  };
  const { id } = projects.find((p) => p.name === name)!;
  const copy = (await (await page.request.post(`/api/projects/${id}/duplicate`)).json()) as {
    id: string;
  };
  await page.goto(`/p/${copy.id}`);
  await ready(page);
  return copy.id;
}

/** A new project with a kit and a bass and nothing in them. */
export async function openNew(page: Page, name = "Test"): Promise<string> {
  const made = await page.request.post("/api/projects", { data: { name } });
  const { id } = (await made.json()) as { id: string };
  await page.goto(`/p/${id}`);
  await ready(page);
  return id;
}

export async function ready(page: Page): Promise<void> {
  await page.waitForFunction(() => window.hailstep !== undefined);
  await expect(page.getByTestId("save-state")).toHaveText("saved");
}

export const projectOf = (page: Page): Promise<Project> =>
  page.evaluate(() => window.hailstep!.project());

/** Where a row and tick of the first or given pattern lie on the page; the tracks given are open. */
export async function placeOf(
  page: Page,
  track: string,
  pitch: number,
  tick: number,
  pattern?: string,
): Promise<{ x: number; y: number }> {
  const project = await projectOf(page);
  const open = new Set(
    await page
      .getByRole("button", { name: /^Fold / })
      .evaluateAll((buttons) => buttons.map((b) => b.getAttribute("aria-label")!.slice(5))),
  );
  const ids = project.tracks.filter((t) => open.has(t.name)).map((t) => t.id);
  const windows = await page.evaluate(() => window.hailstep!.windows());
  const layout = layOut(project, pattern ?? project.patterns[0]!.id, {
    open: new Set(ids),
    windows,
  });
  const row = layout.blocks.find((b) => b.track.id === track)!.rows.find((r) => r.pitch === pitch)!;
  const sheet = page.getByTestId("sheet");
  const box = (await sheet.boundingBox())!;
  // A track that was taken may have been scrolled into view; what lies below is scrolled to.
  const below = row.y + row.height - (box.height - RULER_HEIGHT);
  const top = await sheet.evaluate(
    async (element, [least, most]) => {
      const scroller = element.previousElementSibling!;
      if (scroller.scrollTop < least) scroller.scrollTop = least;
      if (scroller.scrollTop > most) scroller.scrollTop = most;
      // What was scrolled is drawn, and pressed, from the next frame on.
      for (let n = 0; n < 2; n++) await new Promise(requestAnimationFrame);
      return scroller.scrollTop;
    },
    [below, row.y] as const,
  );
  const zoom = fitZoom(Math.floor(box.width), layout.total, project.metre);
  const x = xOf({ width: box.width, height: box.height, zoom, scroll: 0, top: 0 }, tick);
  return { x: box.x + x, y: box.y + RULER_HEIGHT + row.y - top + row.height / 2 };
}

export async function clickAt(
  page: Page,
  track: string,
  pitch: number,
  tick: number,
  pattern?: string,
) {
  const { x, y } = await placeOf(page, track, pitch, tick, pattern);
  await page.mouse.click(x, y);
}

/** Takes the errors that a test provokes itself off the list. */
export function expected(problems: string[], which: RegExp): void {
  problems.splice(0, problems.length, ...problems.filter((problem) => !which.test(problem)));
}

/** From the next load on, saves of these pages can be cut off while the pages themselves load. */
export const savesCanBeCut = (pages: Page | BrowserContext) =>
  pages.addInitScript(() => {
    const fetchNow = window.fetch.bind(window);
    window.fetch = (input, init) =>
      init?.method === "PATCH" && localStorage.getItem("cut") !== null
        ? Promise.reject(new TypeError("cut off"))
        : fetchNow(input, init);
  });
export const cutSaves = (page: Page, cut: boolean) =>
  page.evaluate((on) => {
    if (on) localStorage.setItem("cut", "yes");
    else localStorage.removeItem("cut");
  }, cut);

/** What the browser says of requests that found no server, or lost it. */
export const NO_SERVER =
  /ERR_CONNECTION_(REFUSED|RESET)|ERR_EMPTY_RESPONSE|ERR_INCOMPLETE_CHUNKED_ENCODING|ERR_SOCKET_NOT_CONNECTED/;

/** Waits until the server has everything. */
export const saved = (page: Page) => expect(page.getByTestId("save-state")).toHaveText("saved");

/** Notes of one part as the server has them. */
export async function storedNotes(page: Page, id: string, track: string, pattern = 0) {
  const { project } = (await (await page.request.get(`/api/projects/${id}`)).json()) as {
    project: Project;
  };
  return project.patterns[pattern]!.parts.find((part) => part.track === track)!.notes;
}

export const play = (page: Page) => page.getByRole("button", { name: "Play", exact: true }).click();
export const stop = (page: Page) => page.getByRole("button", { name: "Stop", exact: true }).click();

/** What was played so far was nearly all on time, on a machine that may have more to do. */
export async function expectOnTime(page: Page): Promise<void> {
  const { sent, late } = await page.evaluate(() => window.hailstep!.counts());
  expect(sent).toBeGreaterThan(0);
  expect(late / sent).toBeLessThan(0.1);
}

/** What the sound engine has sent so far. */
export const sentNotes = (page: Page) => page.evaluate(() => window.hailstep!.sent());

/** Waits until the engine has sent at least so many notes since the record was cleared. */
export const waitSent = (page: Page, count: number) =>
  page.waitForFunction((n) => window.hailstep!.counts().sent >= n, count);

/** Chooses a scale of the key by typing its name. */
export async function pickScale(page: Page, name: string): Promise<void> {
  await page.getByRole("button", { name: /^Scale of the key/ }).click();
  await page.getByRole("textbox", { name: "Find a scale" }).fill(name);
  await page.getByRole("option", { name, exact: true }).click();
}

/** Notes of a track in the first pattern, as start, length and pitch. */
export async function lineOf(page: Page, track: string): Promise<[number, number, number][]> {
  const project = await projectOf(page);
  const { notes } = project.patterns[0]!.parts.find((part) => part.track === track)!;
  return notes.map((note) => [note.start, note.length, note.pitch]);
}

/** Drags from one place of the page to another in a few steps. */
export async function drag(
  page: Page,
  from: { x: number; y: number },
  to: { x: number; y: number },
  steps = 8,
): Promise<void> {
  await page.mouse.move(from.x, from.y);
  await page.mouse.down();
  await page.mouse.move(to.x, to.y, { steps });
  await page.mouse.up();
}

/** Waits until the loop has gone on by so many ticks. */
export async function waitTicks(page: Page, ticks: number): Promise<void> {
  const from = await page.evaluate(() => window.hailstep!.position()?.tick ?? 0);
  await page.waitForFunction(
    (until) => (window.hailstep!.position()?.tick ?? 0) >= until,
    from + ticks,
  );
}

/** Waits until all that was handed to the audio clock so far has sounded. */
export async function waitHandedOver(page: Page): Promise<void> {
  const last = await page.evaluate(() => window.hailstep!.sent().at(-1)?.tick ?? 0);
  await page.waitForFunction((tick) => (window.hailstep!.position()?.tick ?? 0) >= tick, last);
}

/** Waits until the server remembers a grid as the one used last. */
export async function waitGridUsed(page: Page, value: number, kind: string): Promise<void> {
  const last = async () => {
    const answer = await page.request.get("/api/user");
    const { grids } = (await answer.json()) as { grids: { recent: Grid[] } };
    return grids.recent[0];
  };
  await expect.poll(last).toMatchObject({ value, kind });
}

/** The dialog that exports, open. */
export async function exportDialog(page: Page): Promise<Locator> {
  const dialog = page.getByRole("dialog", { name: "Export" });
  if (!(await dialog.isVisible()))
    await page.getByRole("button", { name: "Export", exact: true }).click();
  return dialog;
}

/** Chooses in the export dialog: a format by the beginning of its name, how much, and answers by label. */
export async function chooseExport(
  page: Page,
  format: string,
  extent?: string,
  answers: Readonly<Record<string, string | boolean>> = {},
): Promise<Locator> {
  const dialog = await exportDialog(page);
  await dialog.getByRole("radio", { name: new RegExp(`^${format}`) }).check({ force: true });
  if (extent) await dialog.getByRole("radio", { name: extent, exact: true }).click();
  for (const [label, value] of Object.entries(answers)) {
    if (typeof value === "string")
      await dialog.getByRole("combobox", { name: label }).selectOption(value);
    else await dialog.getByRole("checkbox", { name: label }).setChecked(value);
  }
  return dialog;
}

/** Exports through the dialog, and gives the file's name and bytes. */
export async function exported(
  page: Page,
  format: string,
  extent?: string,
  answers: Readonly<Record<string, string | boolean>> = {},
): Promise<{ name: string; bytes: Uint8Array<ArrayBuffer> }> {
  const dialog = await chooseExport(page, format, extent, answers);
  const [file] = await Promise.all([
    page.waitForEvent("download"),
    dialog.getByRole("button", { name: "Export", exact: true }).click(),
  ]);
  await expect(dialog).toBeHidden();
  return {
    name: file.suggestedFilename(),
    bytes: Uint8Array.from(readFileSync((await file.path())!)),
  };
}
