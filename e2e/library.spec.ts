import type { Page } from "@playwright/test";
import * as edits from "@/core/edits";
import { type Project, createProject, makeNote } from "@/core/score";
import { writeProjectJson, writeSmf } from "@/core/formats";
import { exported, expect, expected, projectOf, ready, test } from "./fixtures";
import { wave } from "./wave";

const card = (page: Page, name: string) =>
  page.getByRole("listitem").filter({ has: page.getByRole("heading", { name, exact: true }) });

const tune = (name: string) =>
  edits.setNotes(createProject({ name, tempo: 97 }), { pattern: "a", track: "bass" }, [
    makeNote({ id: "x", start: 480, pitch: 43 }),
  ]);

/** Brings a project into view, however many there are by now: by name, it comes before its own copies. */
async function find(page: Page, name: string): Promise<void> {
  await page.getByRole("combobox", { name: "In order of" }).selectOption("name");
  await page.getByRole("searchbox", { name: "Search projects" }).fill(name);
}

/** Drops a file on the page as a file manager does. */
async function drop(page: Page, name: string, bytes: Uint8Array): Promise<void> {
  const transfer = await page.evaluateHandle(
    ({ name, bytes }) => {
      const data = new DataTransfer();
      data.items.add(new File([new Uint8Array(bytes)], name));
      return data;
    },
    { name, bytes: [...bytes] },
  );
  await page.locator("main").dispatchEvent("dragover", { dataTransfer: transfer });
  await page.locator("main").dispatchEvent("drop", { dataTransfer: transfer });
}

test("shows the demo projects with tempo, metre, key and a picture of their notes", async ({
  page,
}) => {
  await page.goto("/");
  await find(page, "Gull Parade");
  await expect(card(page, "Gull Parade")).toContainText("132 BPM · 7/8 · A mixolydian · 4 bars");
  await find(page, "Breakwater");
  await expect(card(page, "Breakwater")).toContainText("F harmonic minor");
  await find(page, "Slack Water");
  const marks = card(page, "Slack Water").getByTestId("marks");
  await expect(marks.first()).toBeAttached();
  const dots = await marks.evaluateAll((paths) =>
    paths.map((path) => path.getAttribute("d")).join(""),
  );
  expect(dots.match(/M/g)!.length).toBeGreaterThan(50);
});

test("a picture that is made late, and after a request that failed, comes by itself", async ({
  page,
  problems,
}) => {
  let looks = 0;
  await page.route("**/api/projects?**", async (route) => {
    // Further pages of all projects, asked for before the search, are no looks for its pictures.
    if (!new URL(route.request().url()).searchParams.get("search")) return route.continue();
    looks++;
    if (looks === 3) return route.abort();
    const response = await route.fetch();
    const answer = (await response.json()) as { projects: { bars: number | null }[] };
    // What the server says of a project whose picture is still to be made.
    if (looks < 9)
      answer.projects.forEach((one) => Object.assign(one, { bars: null, picture: null }));
    return route.fulfill({ response, json: answer });
  });
  await page.clock.install();
  await page.goto("/");
  await find(page, "Slack Water");
  for (let look = 1; look <= 9; look++) {
    await expect.poll(() => looks).toBeGreaterThanOrEqual(look);
    await page.clock.runFor(10_000);
  }
  // From the ninth look on the server says what it knows, which may be later on a busy machine.
  const marks = card(page, "Slack Water").getByTestId("marks").first();
  await expect
    .poll(async () => {
      await page.clock.runFor(10_000);
      return marks.count();
    })
    .toBeGreaterThan(0);
  // A look on its way comes to its end; what the browser says of the one that failed is said by then.
  await page.unrouteAll({ behavior: "wait" });
  await page.goto("/lost");
  expected(problems, /ERR_FAILED|404/);
});

test("new, rename, duplicate, delete and bring back", async ({ page }) => {
  await page.goto("/");
  await page.getByRole("button", { name: "New project" }).click();
  await page.getByRole("button", { name: "Start" }).click();
  await page.waitForURL("**/p/**");
  await ready(page);
  const fresh = await projectOf(page);
  expect(fresh.tracks.map((track) => track.kind)).toEqual(["drums", "melody"]);
  const name = page.getByRole("textbox", { name: "Project name" });
  await name.fill("Mooring");
  await name.press("Enter");
  await expect(page.getByTestId("save-state")).toHaveText("saved");
  await page.getByRole("link", { name: "Hailstep" }).click();

  await page.getByRole("button", { name: "Rename Mooring" }).click();
  const field = page.getByRole("textbox", { name: "New name of Mooring" });
  await field.fill(`<b>Tide & "Tow"</b>`);
  await field.press("Enter");
  await expect(card(page, `<b>Tide & "Tow"</b>`)).toBeVisible();
  await page.getByRole("button", { name: `Duplicate <b>Tide & "Tow"</b>` }).click();
  await expect(card(page, `<b>Tide & "Tow"</b> copy`)).toBeVisible();

  await page.getByRole("button", { name: `Delete <b>Tide & "Tow"</b> copy` }).click();
  await expect(card(page, `<b>Tide & "Tow"</b> copy`)).toHaveCount(0);
  await page.getByRole("button", { name: "Undo" }).click();
  await expect(card(page, `<b>Tide & "Tow"</b> copy`)).toBeVisible();
  await page.reload();
  await expect(card(page, `<b>Tide & "Tow"</b> copy`)).toBeVisible();
});

test("imports MIDI and project files, by button and by dropping", async ({ page }) => {
  await page.goto("/");
  await page.getByLabel("File to import").setInputFiles({
    name: "Bollard.mid",
    mimeType: "audio/midi",
    buffer: Buffer.from(writeSmf(tune("Bollard"))),
  });
  // Shown first, with what it holds; nothing is made before it is asked for.
  const dialog = page.getByRole("dialog", { name: /^Import/ });
  await expect(dialog).toContainText("97 BPM");
  await expect(card(page, "Bollard")).toHaveCount(0);
  await dialog.getByRole("button", { name: "Import", exact: true }).click();
  await expect(card(page, "Bollard")).toContainText("97 BPM");
  await drop(page, "whatever.json", new TextEncoder().encode(writeProjectJson(tune("Capstan"))));
  await dialog.getByRole("button", { name: "Import", exact: true }).click();
  await expect(card(page, "Capstan")).toBeVisible();
  // Left with escape, a file becomes nothing.
  await drop(page, "left.mid", writeSmf(tune("Left")));
  await expect(dialog).toBeVisible();
  await page.keyboard.press("Escape");
  await expect(dialog).toBeHidden();
  await expect(card(page, "Left")).toHaveCount(0);
  await card(page, "Capstan").getByRole("link").click();
  await page.waitForURL("**/p/**");
  await ready(page);
  expect((await projectOf(page)).patterns[0]!.parts[1]!.notes[0]).toMatchObject({
    start: 480,
    pitch: 43,
  });

  // What the sheet exports as a project comes back the same.
  const { bytes } = await exported(page, "Project as text");
  expect(JSON.parse(new TextDecoder().decode(bytes)).project).toEqual(await projectOf(page));
});

test("a sound given to the library becomes a project in which it is listened to", async ({
  page,
}) => {
  await page.goto("/");
  await drop(page, "Slipway.wav", wave(0.4));
  await page.waitForURL("**/p/**");
  await expect(page.getByRole("dialog", { name: "What is in “Slipway.wav”" })).toBeVisible();
  expect((await projectOf(page)).name).toBe("Slipway");
});

test("a project that is renamed keeps its room and its seed", async ({ page }) => {
  const made = await page.request.post("/api/projects", { data: { name: "Jetty" } });
  const { id, project } = (await made.json()) as { id: string; project: Project };
  const { tempo, metre, key, song } = project;
  const kept = { seed: 7, room: { level: -3 } };
  const head = { name: "Jetty", tempo, metre, key, song, ...kept };
  const put = await page.request.patch(`/api/projects/${id}`, {
    data: { revision: 1, change: { head } },
  });
  expect(put.ok(), await put.text()).toBe(true);
  await page.goto("/");
  await page.getByRole("button", { name: "Rename Jetty" }).click();
  const field = page.getByRole("textbox", { name: "New name of Jetty" });
  await field.fill("Long jetty");
  await field.press("Enter");
  await expect(card(page, "Long jetty")).toBeVisible();
  const read = (await (await page.request.get(`/api/projects/${id}`)).json()) as {
    project: Project;
  };
  expect(read.project).toMatchObject({ name: "Long jetty", ...kept });
});

test("says what is wrong with a bad file and changes nothing", async ({ page, problems }) => {
  await page.goto("/");
  const heading = page.getByRole("heading", { level: 1 });
  const count = await heading.textContent();
  expect(count).toMatch(/^Projects \d+$/);
  const bad: [string, Uint8Array, RegExp][] = [
    ["empty.mid", new Uint8Array(), /“empty\.mid” not imported: The file is empty/],
    [
      "song.mid",
      new TextEncoder().encode("not a song"),
      /no known format: MIDI file or score or project or project as text expected/,
    ],
    ["half.mid", writeSmf(tune("Half")).slice(0, 60), /“half\.mid” not imported/],
    ["odd.json", new TextEncoder().encode('{"format":"something"}'), /format/],
    [
      "wrong.json",
      new TextEncoder().encode(writeProjectJson(tune("W")).replace('"pitch": 43', '"pitch": 430')),
      /pitch must be a whole number from 0 to 127/,
    ],
  ];
  for (const [name, bytes, message] of bad) {
    await drop(page, name, bytes);
    await expect(page.getByText(message).first()).toBeVisible();
  }
  await page.reload();
  await expect(heading).toHaveText(count!);
  expected(problems, /status of 4(00|22)/);
});

test("a project can lose all its tracks, and get them back", async ({ page }) => {
  await page.goto("/");
  await page.getByRole("button", { name: "New project" }).click();
  await page.getByRole("button", { name: "Start" }).click();
  await page.waitForURL("**/p/**");
  await ready(page);
  await page.getByRole("tab", { name: "Sound" }).click();
  await page.getByRole("button", { name: "Delete track" }).click();
  await page.getByRole("button", { name: "Delete track" }).click();
  await expect(page.getByText("No tracks yet")).toBeVisible();
  await page.keyboard.press("Enter");
  await page.keyboard.press("Delete");
  await page.getByRole("button", { name: "Add a track" }).click();
  await page
    .getByRole("combobox", { name: "Sound of the new track" })
    .selectOption({ label: "Keys: Glass keys" });
  await expect
    .poll(async () => (await projectOf(page)).tracks.map((t) => t.sound))
    .toEqual(["glass-keys"]);
  for (let i = 0; i < 3; i++) await page.keyboard.press("Control+z");
  await expect.poll(async () => (await projectOf(page)).tracks.length).toBe(2);
  await expect(page.getByTestId("save-state")).toHaveText("saved");
  await page.reload();
  await ready(page);
  expect((await projectOf(page)).tracks).toHaveLength(2);
});
