import { Buffer } from "node:buffer";
import type { Page } from "@playwright/test";
import { waveFile } from "@/core/formats";
import { recordedLoop } from "../src/audio/recorded.test-helper";
import { expect, expected, play, projectOf, ready, saved, stop, test } from "./fixtures";
import { openThree } from "./three";

const loop = recordedLoop({ kit: "lantern", tempo: 104, seed: 4, bars: 2, rate: 22_050 });
const bytes = Buffer.from(waveFile([loop.samples], loop.rate));

async function openEmpty(page: Page): Promise<void> {
  const made = await page.request.post("/api/projects", { data: { name: "Quay" } });
  await page.goto(`/p/${((await made.json()) as { id: string }).id}`);
  await ready(page);
}
const give = (page: Page, name: string, buffer: Buffer) =>
  page.getByLabel("File to import").setInputFiles({ name, mimeType: "audio/wav", buffer });
const dialogOf = (page: Page) => page.getByRole("dialog", { name: /^What is in/ });
const put = (page: Page) => dialogOf(page).getByRole("button", { name: /^Put into/ });

test("a drum loop becomes hits on lanes with its tempo, plays behind them, and is taken away", async ({
  page,
}) => {
  await openEmpty(page);
  const before = await projectOf(page);
  // Dropped on the sheet, as a hand does.
  await page.evaluate(
    ([data]) => {
      const transfer = new DataTransfer();
      transfer.items.add(new File([Uint8Array.from(data)], "quay.wav", { type: "audio/wav" }));
      document
        .querySelector("[data-testid=sheet]")!
        .dispatchEvent(
          new DragEvent("drop", { dataTransfer: transfer, bubbles: true, cancelable: true }),
        );
    },
    [[...bytes]] as const,
  );
  const dialog = dialogOf(page);
  await expect(dialog.getByLabel("Tempo of the recording")).toHaveValue("104");
  await expect(dialog.getByTestId("certainty")).toHaveText("certain");
  await expect(dialog.getByRole("status")).toContainText("2 bars");
  expect(await projectOf(page)).toEqual(before);
  await put(page).click();
  await expect(dialog).toBeHidden();
  const after = await projectOf(page);
  expect(after.tempo).toBe(104);
  const part = after.patterns[0]!.parts[2]!;
  const kicks = part.notes.filter((n) => n.pitch === 36).map((n) => n.start);
  const played = loop.hits.filter((hit) => hit.kind === "low");
  expect(kicks).toHaveLength(played.length);
  played.forEach(({ time }, i) =>
    expect(Math.abs(kicks[i]! - (time * 104 * 960) / 60)).toBeLessThan(20),
  );
  // Behind the pattern, over and over; and gone when it is taken away.
  const strip = page.getByRole("group", { name: "Recording behind the pattern" });
  await expect(strip).toBeVisible();
  await play(page);
  await expect.poll(() => page.evaluate(() => window.hailstep!.referenceBegun())).toBe(1);
  await expect
    .poll(() => page.evaluate(() => window.hailstep!.referenceBegun()), { timeout: 15_000 })
    .toBe(2);
  const balance = strip.getByRole("slider", { name: /^Balance/ });
  await balance.fill("-1");
  await expect(balance).toHaveAttribute("aria-valuetext", "recording by 1");
  await stop(page);
  await saved(page);
  await page.reload();
  await ready(page);
  await expect(strip).toBeVisible();
  await strip.getByRole("button", { name: "Delete recording" }).click();
  await expect(strip).toBeHidden();
  await page.keyboard.press("Control+z");
  await expect(strip).toBeVisible();
});

test("what was heard is corrected by hand: attacks, the first bar, the tempo; a slip is undone", async ({
  page,
}) => {
  await openEmpty(page);
  await give(page, "quay.wav", bytes);
  const dialog = dialogOf(page);
  const picture = dialog.getByTestId("recording-picture");
  const box = (await picture.boundingBox())!;
  const count = async () =>
    Number(/(\d+) attacks/.exec((await dialog.getByRole("status").textContent())!)?.[1] ?? NaN);
  const found = await count();
  // One added where none is, taken out again by key.
  await page.mouse.click(box.x + box.width * 0.985, box.y + 120);
  await expect.poll(count).toBe(found + 1);
  await picture.focus();
  await page.keyboard.press("Delete");
  await expect.poll(count).toBe(found);
  // Half the tempo, and twice.
  await dialog.getByRole("button", { name: "Take 52 BPM" }).click();
  await expect(dialog.getByTestId("certainty")).toHaveText("by hand");
  await expect(dialog.getByRole("status")).toContainText("1 bar");
  await dialog.getByRole("button", { name: "Take 104 BPM" }).click();
  // The first bar, dragged and by key; the second bar stretches the tempo.
  const length = loop.samples.length / loop.rate;
  await page.mouse.move(box.x + 2, box.y + 8);
  await page.mouse.down();
  await page.mouse.move(box.x + box.width * 0.1, box.y + 8, { steps: 3 });
  await page.mouse.up();
  const first = dialog.getByRole("spinbutton", { name: "First bar" });
  const at = parseFloat(await first.inputValue());
  expect(Math.abs(at - 0.1 * length)).toBeLessThan(0.02);
  const bar = (60 / 104) * 4;
  const second = box.x + (box.width * (at + bar)) / length;
  await page.mouse.move(second, box.y + 8);
  await page.mouse.down();
  await page.mouse.move(second + 0.05 * box.width, box.y + 8, { steps: 3 });
  await page.mouse.up();
  const tempo = parseFloat(await dialog.getByLabel("Tempo of the recording").inputValue());
  expect(Math.abs(tempo - 240 / (bar + 0.05 * length))).toBeLessThan(1);
  // Less sensitive finds fewer, and leaves what was corrected.
  await dialog.getByRole("slider", { name: "Sensitivity" }).fill("10");
  await expect.poll(count).toBeLessThan(found);
  await expect(first).toHaveValue(`${at.toFixed(3)} s`);
  await page.keyboard.press("Escape");
  await expect(dialog).toBeHidden();
  expect((await projectOf(page)).tracks).toHaveLength(2);
});

test("in 7/8 a bar is three and a half quarters long, drawn, dragged and counted", async ({
  page,
}) => {
  await openEmpty(page);
  await page.getByRole("combobox", { name: "Metre" }).selectOption("7/8");
  await give(page, "quay.wav", bytes);
  const dialog = dialogOf(page);
  const picture = dialog.getByTestId("recording-picture");
  const tempo = dialog.getByLabel("Tempo of the recording");
  await tempo.fill("104");
  await tempo.press("Enter");
  const first = dialog.getByRole("spinbutton", { name: "First bar" });
  await first.fill("0");
  await first.press("Enter");
  const length = loop.samples.length / loop.rate;
  const bar = (60 / 104) * 3.5;
  await expect(dialog.getByRole("status")).toContainText(`${Math.ceil(length / bar)} bars`);
  const box = (await picture.boundingBox())!;
  const second = box.x + (box.width * bar) / length;
  await page.mouse.move(second, box.y + 8);
  await page.mouse.down();
  await page.mouse.move(second + 0.05 * box.width, box.y + 8, { steps: 3 });
  await page.mouse.up();
  const asked = (60 * 3.5) / (bar + 0.05 * length);
  await expect
    .poll(async () => Math.abs(parseFloat(await tempo.inputValue()) - asked))
    .toBeLessThan(1);
});

test("slices on pads play the recording as it was; a line and a rhythm become notes", async ({
  page,
}) => {
  await openEmpty(page);
  await give(page, "quay.wav", bytes);
  const dialog = dialogOf(page);
  await dialog.getByRole("radio", { name: "Slices on pads" }).click();
  await put(page).click();
  await expect(dialog).toBeHidden();
  const sliced = await projectOf(page);
  const track = sliced.tracks[2]!;
  const part = sliced.patterns[0]!.parts[2]!;
  expect(track.kit!.pads).toHaveLength(part.notes.length);
  expect(track.kit!.pads.every((pad) => pad.sample !== null)).toBe(true);
  part.notes.forEach((note, i) => {
    expect(note.pitch).toBe(36 + i);
    const next = part.notes[i + 1];
    if (next) expect(note.start + note.length).toBe(next.start);
  });
  await saved(page);
  await give(page, "quay.wav", bytes);
  await dialog.getByRole("radio", { name: "A rhythm" }).click();
  await put(page).click();
  await expect(dialog).toBeHidden();
  const rhythm = (await projectOf(page)).patterns[0]!.parts[3]!;
  expect(rhythm.notes.length).toBe(part.notes.length);
  expect(rhythm.notes.every((note) => note.unpitched)).toBe(true);
});

test("the whole of a recording goes on one pad: of a new kit, of a new lane, or over what a pad had", async ({
  page,
}) => {
  await openThree(page);
  const before = await projectOf(page);
  const dialog = dialogOf(page);
  const done = dialog.getByRole("button", { name: "Put on the pad" });
  const samplesOf = async (at: number) =>
    ((await projectOf(page)).tracks[at]!.kit?.pads ?? []).flatMap((pad) =>
      pad.sample ? [pad.pitch] : [],
    );
  await give(page, "quay.wav", bytes);
  await dialog.getByRole("radio", { name: "One pad" }).click();
  // Its tempo and attacks have no say then.
  await expect(dialog.getByRole("spinbutton", { name: "Tempo of the recording" })).toHaveCount(0);
  await done.click();
  await expect(dialog).toBeHidden();
  const made = (await projectOf(page)).tracks.at(-1)!;
  expect([made.name, made.lanes.map((lane) => lane.pitch)]).toEqual(["quay", [36]]);
  expect(await samplesOf(before.tracks.length)).toEqual([36]);
  // Nothing is written: a pad waits to be struck.
  expect((await projectOf(page)).patterns[0]!.parts.at(-1)!.notes).toEqual([]);

  const kit = before.tracks.findIndex((track) => track.kind === "drums");
  const { name, pitch } = before.tracks[kit]!.lanes[0]!;
  await give(page, "quay.wav", bytes);
  await dialog.getByRole("radio", { name: "One pad" }).click();
  await dialog.getByLabel("Onto which track").selectOption(before.tracks[kit]!.id);
  await dialog
    .getByLabel("Onto which pad")
    .selectOption({ label: `${name}, whose sound it takes over` });
  await done.click();
  await expect(dialog).toBeHidden();
  expect(await samplesOf(kit)).toEqual([pitch]);
  const notes = (at: number) => (p: typeof before) => p.patterns[0]!.parts[at]!.notes;
  expect(notes(kit)(await projectOf(page))).toEqual(notes(kit)(before));
  await give(page, "quay.wav", bytes);
  await dialog.getByRole("radio", { name: "One pad" }).click();
  await dialog.getByLabel("Onto which track").selectOption(before.tracks[kit]!.id);
  await done.click();
  await expect(dialog).toBeHidden();
  expect(await samplesOf(kit)).toHaveLength(2);
  expect((await projectOf(page)).tracks[kit]!.lanes).toHaveLength(
    before.tracks[kit]!.lanes.length + 1,
  );
  await saved(page);
  const after = await projectOf(page);
  await page.reload();
  await ready(page);
  expect(await projectOf(page)).toEqual(after);
  for (let i = 0; i < 3; i++) await page.keyboard.press("Control+z");
  expect((await projectOf(page)).tracks).toEqual(before.tracks);
});

test("a file that is no sound, or too large, changes nothing; a server that refuses leaves the dialog", async ({
  page,
  problems,
}) => {
  await openThree(page);
  const before = await projectOf(page);
  await give(page, "none.wav", Buffer.from("not a sound at all"));
  await expect(page.getByText(/“none.wav” not imported: This is no WAV/)).toBeVisible();
  await give(page, "large.wav", Buffer.alloc(21 * 1024 * 1024, 1));
  await expect(page.getByText(/“large.wav” not imported: It is 21 MB large/)).toBeVisible();
  expect(await projectOf(page)).toEqual(before);
  await page.route("**/api/samples?*", (route) => route.fulfill({ status: 507, body: "{}" }));
  await give(page, "quay.wav", bytes);
  await put(page).click();
  await expect(page.getByText(/“quay.wav” not taken/)).toBeVisible();
  await expect(dialogOf(page)).toBeVisible();
  expect(await projectOf(page)).toEqual(before);
  expected(problems, /507/);
});
