import { Buffer } from "node:buffer";
import { type Project, makeNote } from "@/core/score";
import { readSmf, writeFile, writeSmf } from "@/core/formats";
import { expect, expected, openCopy, projectOf, ready, saved, test } from "./fixtures";
import { openThree } from "./three";
import type { Page } from "@playwright/test";

const give = (page: Page, name: string, body: Uint8Array | string) =>
  page.getByLabel("File to import").setInputFiles({
    name,
    mimeType: "application/octet-stream",
    buffer: Buffer.from(body),
  });

/** Drops a file on an element of the page, as a hand does. */
const drop = (page: Page, target: string, name: string, body: Uint8Array) =>
  page.evaluate(
    ([selector, file, bytes]) => {
      const transfer = new DataTransfer();
      transfer.items.add(new File([Uint8Array.from(bytes)], file));
      document
        .querySelector(selector)!
        .dispatchEvent(
          new DragEvent("drop", { dataTransfer: transfer, bubbles: true, cancelable: true }),
        );
    },
    [target, name, [...body]] as const,
  );

const dialogOf = (page: Page) => page.getByRole("dialog", { name: /^Import/ });

test("a MIDI file is shown first, its tracks chosen and changed, and brought into the open project", async ({
  page,
}) => {
  await openThree(page);
  const before = await projectOf(page);
  const source = await (async () => {
    const other = await page.context().newPage();
    await openCopy(other, "Slack Water");
    const project = await projectOf(other);
    await other.close();
    return project;
  })();
  const bytes = writeSmf(source, { pattern: source.patterns[0]!.id });
  await drop(page, "[data-testid=sheet]", "tide.mid", bytes);
  const dialog = dialogOf(page);
  await expect(dialog).toContainText("MIDI file · 3 tracks");
  await expect(dialog).toContainText("84 BPM · 4/4");
  // Nothing is done before it is asked for.
  expect(await projectOf(page)).toEqual(before);
  await dialog.getByRole("checkbox", { name: "Take Glass keys" }).uncheck();
  await dialog.getByRole("combobox", { name: "What Reed bass is" }).selectOption("drums");
  await dialog.getByRole("radio", { name: /New tracks here/ }).click();
  await dialog.getByRole("button", { name: "Import", exact: true }).click();
  await expect(dialog).toBeHidden();
  const after = await projectOf(page);
  expect(after.tracks.map((t) => [t.name, t.kind]).slice(-2)).toEqual([
    ["Harbour kit", "drums"],
    ["Reed bass", "drums"],
  ]);
  // A note that rings over the end makes another bar of a file, and the pattern grows by it.
  expect(after.patterns[0]!.bars).toBe(readSmf(bytes).project.patterns[0]!.bars);
  expect(after.patterns[0]!.parts.at(-1)!.notes.length).toBeGreaterThan(4);
  expect(after.patterns[1]!.parts.at(-1)!.notes).toEqual([]);
  await saved(page);
  await page.reload();
  await ready(page);
  expect(await projectOf(page)).toEqual(after);
  await page.keyboard.press("Control+z");
  await expect.poll(async () => (await projectOf(page)).tracks).toEqual(before.tracks);
  // As patterns, with tempo and song.
  await give(page, "tide.mid", bytes);
  await dialog.getByRole("radio", { name: /New patterns here/ }).click();
  await dialog.getByRole("button", { name: "Import", exact: true }).click();
  await expect(dialog).toBeHidden();
  const more = await projectOf(page);
  expect(more.patterns).toHaveLength(before.patterns.length + 1);
  expect(more.tracks).toHaveLength(before.tracks.length + 3);
});

test("names in another alphabet are read as chosen, markers name the sections", async ({
  page,
}) => {
  await openThree(page);
  // “мол” (pier) as Windows 1251 writes it; two markers, the second after a bar.
  const name = [0, 0xff, 3, 3, 0xec, 0xee, 0xeb];
  const marked = (wait: readonly number[], letter: number) => [...wait, 0xff, 6, 1, letter];
  const tones = [0x83, 0x00, 0x90, 60, 80, 96, 0x80, 60, 0];
  const voice = [...name, 0, 0x90, 60, 80, 96, 0x80, 60, 0, ...tones, 0, 0xff, 0x2f, 0];
  const conductor = [...marked([0], 0x41), ...marked([0x83, 0x00], 0x42), 0, 0xff, 0x2f, 0];
  const chunk = (bytes: readonly number[]) => [
    0x4d,
    0x54,
    0x72,
    0x6b,
    0,
    0,
    0,
    bytes.length,
    ...bytes,
  ];
  const head = [0x4d, 0x54, 0x68, 0x64, 0, 0, 0, 6, 0, 1, 0, 2, 0, 96];
  await give(page, "pier.mid", Uint8Array.from([...head, ...chunk(conductor), ...chunk(voice)]));
  const dialog = dialogOf(page);
  await expect(dialog.getByRole("checkbox", { name: "Take ìîë" })).toBeVisible();
  await dialog.getByLabel("How names are read").selectOption("windows-1251");
  await expect(dialog.getByRole("checkbox", { name: "Take мол" })).toBeVisible();
  await dialog.getByRole("radio", { name: /New patterns here/ }).click();
  await dialog.getByRole("button", { name: "Import", exact: true }).click();
  await expect(dialog).toBeHidden();
  const after = await projectOf(page);
  expect(after.tracks.at(-1)!.name).toBe("мол");
  expect(after.song.slice(-2).map((section) => section.name)).toEqual([undefined, "B"]);
});

test("a score, a project's zip and a project as text come in as another project; a refused file changes nothing", async ({
  page,
  problems,
}) => {
  const id = await openThree(page);
  const project = await projectOf(page);
  const noted: Project = {
    ...project,
    patterns: project.patterns.map((pattern) => ({
      ...pattern,
      parts: pattern.parts.map((part) =>
        part.track === "bass"
          ? { ...part, notes: [makeNote({ id: "n", start: 0, length: 960, pitch: 62 })] }
          : part,
      ),
    })),
  };
  for (const [format, name] of [
    ["score", "tide.musicxml"],
    ["archive", "tide.hailstep"],
    ["project", "tide.json"],
  ] as const) {
    await page.goto(`/p/${id}`);
    await ready(page);
    await give(page, name, writeFile(noted, format).body);
    await dialogOf(page).getByRole("button", { name: "Import", exact: true }).click();
    await page.waitForURL((url) => !url.pathname.endsWith(id));
    await ready(page);
    const made = await projectOf(page);
    const bass = made.tracks.find((track) => track.name === "Reed bass")!;
    const { notes } = made.patterns[0]!.parts.find((part) => part.track === bass.id)!;
    expect(notes[0]).toMatchObject({ start: 0, length: 960, pitch: 62 });
  }
  await page.goto(`/p/${id}`);
  await ready(page);
  const bomb = `<?xml version="1.0"?><!DOCTYPE score-partwise [<!ENTITY a "b">]><score-partwise/>`;
  for (const [name, body, message] of [
    ["half.mid", writeSmf(project).slice(0, 60), /“half.mid” not imported: .*Nothing was changed/],
    ["bomb.musicxml", bomb, /entities or declarations of its own/],
    ["none.txt", "not a song", /no known format/],
  ] as const) {
    await give(page, name, body);
    await expect(page.getByText(message).first()).toBeVisible();
    await expect(dialogOf(page)).toHaveCount(0);
  }
  expect(await projectOf(page)).toEqual(project);
  // Pasted, it is shown as well; a picture on the clipboard is nobody's.
  const paste = (name: string, body: Uint8Array) =>
    page.evaluate(
      ([file, bytes]) => {
        const clipboardData = new DataTransfer();
        clipboardData.items.add(new File([Uint8Array.from(bytes)], file));
        document.body.dispatchEvent(
          new ClipboardEvent("paste", { clipboardData, bubbles: true, cancelable: true }),
        );
      },
      [name, [...body]] as const,
    );
  await paste("tide.png", new Uint8Array([1, 2, 3]));
  await paste("tide.mid", writeSmf(noted));
  await expect(dialogOf(page)).toContainText("Import “tide.mid”");
  await expect(page.getByText(/“tide.png”/)).toHaveCount(0);
  await page.keyboard.press("Escape");
  await expect(dialogOf(page)).toHaveCount(0);
  // Escape leaves it; the server away while it is taken in changes nothing.
  await give(page, "tide.mid", writeSmf(noted));
  await page.keyboard.press("Escape");
  await expect(dialogOf(page)).toHaveCount(0);
  await page.route("**/api/import**", (route) => route.abort());
  await give(page, "tide.mid", writeSmf(noted));
  await dialogOf(page).getByRole("button", { name: "Import", exact: true }).click();
  await expect(page.getByText(/“tide.mid” not imported/)).toBeVisible();
  await expect(dialogOf(page)).toBeVisible();
  expect(await projectOf(page)).toEqual(project);
  expected(problems, /ERR_FAILED/);
});
