import { unzipSync } from "fflate";
import { parseMidi } from "midi-file";
import wavefile from "wavefile";
import { readFile, readSmf, writeFile } from "@/core/formats";
import {
  chooseExport,
  expect,
  expectOnTime,
  exported,
  openCopy,
  play,
  projectOf,
  stop,
  test,
  waitSent,
} from "./fixtures";
import { note, openThree } from "./three";

const { WaveFile } = wavefile;

/** Channels of a WAV file from −1 to 1, read by another program. */
function sound(bytes: Uint8Array): {
  rate: number;
  sides: Float64Array[];
  file: InstanceType<typeof WaveFile>;
} {
  const file = new WaveFile(bytes);
  const { sampleRate, bitsPerSample, audioFormat } = file.fmt as Record<string, number>;
  const scale = audioFormat === 3 ? 1 : 2 ** (bitsPerSample! - 1);
  const sides = file.getSamples(false, Float64Array) as unknown as Float64Array[];
  return { rate: sampleRate!, sides: sides.map((side) => side.map((x) => x / scale)), file };
}
const decibels = (x: number) => 20 * Math.log10(x);
const largest = (samples: Float64Array) =>
  samples.reduce((most, x) => Math.max(most, Math.abs(x)), 0);

test("a WAV has its hits on their samples, in any format, and rings out", async ({ page }) => {
  const at = [0, 937, 1921, 3333];
  const hits = at.map((tick, i) => note(`h${i}`, tick, 37));
  await openThree(page, [], { tempo: 97.3, notes: { a: hits, b: [], c: [] } });
  for (const [bits, rate] of [
    ["16", "44.1 kHz"],
    ["32 float", "96 kHz"],
  ] as const) {
    const { name, bytes } = await exported(page, "WAV", "Pattern", {
      Bits: bits,
      "Sample rate": rate,
      "Let it ring out": true,
    });
    expect(name).toBe("Three A.wav");
    const { rate: hz, sides } = sound(bytes);
    const [left] = sides;
    const seconds = (3840 / 960) * (60 / 97.3);
    expect(left!.length / hz).toBeGreaterThanOrEqual(seconds - 1 / hz);
    for (const tick of at) {
      // From silence, the first sample that is none is the hit's.
      const due = ((tick / 960) * 60 * hz) / 97.3;
      const from = Math.max(0, Math.floor(due) - 40);
      const quiet = left!.subarray(from, Math.floor(due));
      const began = left!.subarray(Math.floor(due), Math.floor(due) + 8);
      expect(largest(began)).toBeGreaterThan(20 * largest(quiet) + 1e-3);
    }
  }
});

test("a loop is as long as it should be to the sample, and its end leads into its beginning", async ({
  page,
}) => {
  await openCopy(page, "Slack Water");
  const { bytes } = await exported(page, "WAV", "Pattern as a loop", { Bits: "24" });
  const { rate, sides, file } = sound(bytes);
  const seconds = 8 * (60 / 84);
  for (const side of sides) {
    expect(side.length).toBe(Math.round(seconds * rate));
    // What rings on from its end is there at its beginning.
    const jumps = side.map((x, i) => Math.abs(x - side.at(i - 1)!));
    expect(jumps[0]!).toBeLessThanOrEqual(largest(jumps.slice(1)));
  }
  const [loop] = (file.smpl as { loops: { dwStart: number; dwEnd: number }[] }).loops;
  expect(loop).toMatchObject({ dwStart: 0, dwEnd: sides[0]!.length - 1 });
});

test("a loop's beginning is its own and all that rang on from the loops before", async ({
  page,
}) => {
  // A crash near the end of a bar of 0.8 s rings on through several loops.
  const hits = [note("k", 0, 36), note("c", 3360, 49)];
  await openThree(page, [], { tempo: 300, notes: { a: hits, b: [], c: [] } });
  const plain = { Bits: "32 float", "Limiter of the whole": false };
  const loop = sound((await exported(page, "WAV", "Pattern as a loop", plain)).bytes);
  const once = sound(
    (await exported(page, "WAV", "Pattern", { ...plain, "Let it ring out": true })).bytes,
  );
  const [own, ringing] = [loop.sides[0]!, once.sides[0]!];
  expect(own.length).toBe(Math.round(0.8 * loop.rate));
  expect(ringing.length).toBeGreaterThan(2 * own.length);
  const worst = own.map((x, i) => {
    let sum = 0;
    for (let at = i; at < ringing.length; at += own.length) sum += ringing[at]!;
    return x - sum;
  });
  expect(decibels(largest(worst))).toBeLessThan(-80);
});

test("stems are of one length and sum up to the mix, with the room apart, with each track, by lane", async ({
  page,
}) => {
  // Five renderings, each of several files.
  test.setTimeout(180_000);
  // Its kit is not compressed, which would work on each lane by itself.
  await openCopy(page, "Night Ferry");
  const off = { "Limiter of the whole": false, Bits: "32 float", "Let it ring out": false };
  const mix = sound((await exported(page, "WAV", "Pattern", { ...off, Files: "the mix" })).bytes);
  for (const [files, sends] of [
    ["tracks", "files of their own"],
    ["tracks", "with each"],
    ["lanes", "files of their own"],
    ["drums and melodies", "with each"],
  ] as const) {
    const { name, bytes } = await exported(page, "WAV", "Pattern", {
      ...off,
      Files: files,
      "Reverb and echo": sends,
    });
    expect(name).toMatch(/^Night Ferry copy .* stems.zip$/);
    const stems = Object.values(unzipSync(bytes)).map(sound);
    expect(stems.length).toBeGreaterThan(1);
    const sum = [0, 1].map(() => new Float64Array(mix.sides[0]!.length));
    for (const { sides, rate } of stems) {
      expect(rate).toBe(mix.rate);
      sides.forEach((side, c) => {
        expect(side.length).toBe(mix.sides[0]!.length);
        side.forEach((x, i) => (sum[c]![i]! += x));
      });
    }
    const worst = Math.max(
      ...sum.map((side, c) => largest(side.map((x, i) => x - mix.sides[c]![i]!))),
    );
    expect(decibels(worst), `${files}, ${sends}`).toBeLessThan(-90);
  }
});

test("what is rendered in pieces is what is rendered at once, room, echo and held notes included", async ({
  page,
}) => {
  test.setTimeout(240_000);
  for (const name of ["Slack Water", "Night Ferry"]) {
    await openCopy(page, name);
    const apart = await page.evaluate(async () => {
      const { bounce, project } = window.hailstep!;
      const how = { pattern: project().patterns[0]!.id, loop: true };
      const whole = await bounce(project(), 0, 4 * 7680, how);
      const pieces = await bounce(project(), 0, 4 * 7680, { ...how, piece: 7.3 });
      let worst = 0;
      for (const side of [0, 1]) {
        const [a, b] = [whole.getChannelData(side), pieces.getChannelData(side)];
        for (let i = 0; i < a.length; i++) worst = Math.max(worst, Math.abs(a[i]! - b[i]!));
      }
      return worst;
    });
    expect(decibels(apart), name).toBeLessThan(-80);
  }
});

test("an export shows how far it is, goes on while the loop plays, and is given up without a file", async ({
  page,
}) => {
  await openCopy(page, "Slack Water");
  await play(page);
  await waitSent(page, 10);
  const dialog = await chooseExport(page, "WAV", "Pattern", { Files: "the mix" });
  const rounds = dialog.getByRole("spinbutton", { name: "Loops of the pattern" });
  await rounds.fill("99");
  await rounds.press("Enter");
  let files = 0;
  page.on("download", () => files++);
  await dialog.getByRole("button", { name: "Export", exact: true }).click();
  const progress = dialog.getByRole("progressbar");
  await expect(progress).toBeVisible();
  await expect.poll(async () => Number(await progress.getAttribute("value"))).toBeGreaterThan(0.02);
  await expect(dialog.getByText(/\d+ %, (<1|\d+) s left/)).toBeVisible();
  // Closed, it goes on, and is there again.
  await page.keyboard.press("Escape");
  await expect(dialog).toBeHidden();
  const button = page.getByRole("button", { name: "Export", exact: true });
  await expect(button).toContainText("%");
  await button.click();
  await dialog.getByRole("button", { name: "Cancel" }).click();
  await expect(page.getByText("WAV audio not exported: given up")).toBeVisible();
  await expect(dialog.getByRole("button", { name: "Export", exact: true })).toBeEnabled();
  expect(files).toBe(0);
  await waitSent(page, 60);
  await expectOnTime(page);
  await page.keyboard.press("Escape");
  await stop(page);
});

test("MIDI of a lane, a selection and in one track; the project with its samples; a drawing; again by key", async ({
  page,
}) => {
  await openCopy(page, "Slack Water");
  const project = await projectOf(page);
  const lane = await exported(page, "MIDI", "Lane", { Tracks: "all in one (0)" });
  expect(parseMidi(lane.bytes).header).toMatchObject({ format: 0, numTracks: 1 });
  const pitches = new Set(
    parseMidi(lane.bytes).tracks[0]!.flatMap((event) =>
      event.type === "noteOn" ? [event.noteNumber] : [],
    ),
  );
  expect([...pitches]).toEqual([36]);
  // Again as last time, by key.
  const [again] = await Promise.all([
    page.waitForEvent("download"),
    page.keyboard.press("Control+Alt+e"),
  ]);
  expect(again.suggestedFilename()).toBe(lane.name);
  // A selection.
  await page.getByTestId("sheet").focus();
  await page.keyboard.press("Shift+C");
  const chosen = await exported(page, "MIDI", "Selection", { Tracks: "tracks apart (1)" });
  const notes = readSmf(chosen.bytes).project.patterns.flatMap((p) =>
    p.parts.flatMap((q) => q.notes),
  );
  expect(notes.length).toBeGreaterThan(0);
  // The project as one file is the project.
  const { name, bytes } = await exported(page, "Project The");
  expect(name).toBe("Slack Water copy.hailstep");
  expect(Object.keys(unzipSync(bytes))).toEqual(["project.json", "picture.svg"]);
  expect(readFile(bytes, name).project).toEqual(await projectOf(page));
  const drawn = await exported(page, "Sheet", undefined, { As: "drawing (SVG)" });
  expect(new TextDecoder().decode(drawn.bytes)).toBe(
    writeFile(project, "drawing", { pattern: project.patterns[0]!.id }).body,
  );
  const picture = await exported(page, "Sheet", undefined, { As: "picture (PNG)" });
  // PNG (W3C, third edition), 5.2 and 11.2.1: the signature, then width and height.
  const view = new DataView(picture.bytes.buffer);
  expect(view.getUint32(0)).toBe(0x89504e47);
  expect(view.getUint32(16)).toBe(1280);
});

test("FLAC is made in the page as well; what sounds nowhere is said and makes no file", async ({
  page,
}) => {
  await openThree(page);
  const { name, bytes } = await exported(page, "FLAC", "Pattern");
  expect(name).toBe("Three A.flac");
  expect(new TextDecoder().decode(bytes.subarray(0, 4))).toBe("fLaC");
  await page.evaluate(() => document.querySelector<HTMLElement>("[data-testid=sheet]")!.focus());
  await page.getByRole("button", { name: "Mute Harbour kit" }).first().click();
  const dialog = await chooseExport(page, "WAV", "Pattern");
  await dialog.getByRole("button", { name: "Export", exact: true }).click();
  await expect(page.getByText("WAV audio not exported: Nothing sounds there")).toBeVisible();
  await expect(dialog).toBeVisible();
});

test("the lane, the selection or the part is dragged out of the window as a MIDI file, or copied", async ({
  page,
  context,
}) => {
  await openCopy(page, "Slack Water");
  const carried = async (name: string) => {
    const handle = page.getByRole("button", { name });
    const data = await handle.evaluate((element) => {
      const transfer = new DataTransfer();
      element.dispatchEvent(
        new DragEvent("dragstart", { dataTransfer: transfer, bubbles: true, cancelable: true }),
      );
      return { file: transfer.getData("DownloadURL"), types: [...transfer.types] };
    });
    expect(data.types).toContain("text/uri-list");
    const [, type, file, url] = /^([^:]+):([^:]+):(.*)$/.exec(data.file)!;
    expect(type).toBe("audio/midi");
    expect(file).toBe("Slack Water copy Harbour kit.mid");
    const bytes = Uint8Array.from(Buffer.from(url!.split(",")[1]!, "base64"));
    const { patterns } = readSmf(bytes).project;
    return new Set(patterns.flatMap((p) => p.parts.flatMap((q) => q.notes.map((n) => n.pitch))));
  };
  expect(await carried("Drag the lane out as MIDI")).toEqual(new Set([36]));
  await page.getByTestId("sheet").focus();
  await page.keyboard.press("Shift+A");
  await context.grantPermissions(["clipboard-read", "clipboard-write"]);
  await page.getByRole("button", { name: /^Drag .* out as MIDI$/ }).click();
  await expect(page.getByText(/^Copied the .* as a MIDI file$/)).toBeVisible();
  const kept = await page.evaluate(async () => {
    const [item] = await navigator.clipboard.read();
    return item!.types;
  });
  expect(kept).toContain("web audio/midi");
});
