import * as tonejs from "@tonejs/midi";
import { ticksToMs } from "@/core/time";
import {
  exported,
  clickAt,
  expect,
  openCopy,
  pickScale,
  placeOf,
  play,
  projectOf,
  ready,
  saved,
  sentNotes,
  stop,
  storedNotes,
  test,
  waitSent,
  waitHandedOver,
} from "./fixtures";

// The package is CommonJS: here its names arrive under `default`.
const { Midi } = (tonejs as unknown as { default?: typeof tonejs }).default ?? tonejs;

test("a beatmaker's first minutes: play, edit while playing, roll, generate, transform, reload, export", async ({
  page,
}) => {
  test.setTimeout(120_000);
  await page.goto("/");
  await page.getByRole("searchbox", { name: "Search projects" }).fill("Slack Water");
  // The copies of other tests, edited later, may stand before it.
  await expect(page.getByRole("heading", { name: /^Slack Water/ }).first()).toBeVisible();
  const id = await openCopy(page, "Slack Water");

  // Press play: what is sent is what the score says, when the tempo says.
  await play(page);
  await waitSent(page, 60);
  const project = await projectOf(page);
  const sent = await sentNotes(page);
  const expected = await page.evaluate(
    (count) =>
      window
        .hailstep!.playbackEvents(window.hailstep!.project(), 0, 99_999, { pattern: "a" })
        .slice(0, count),
    sent.length,
  );
  const start = sent[0]!.due;
  sent.forEach((note, i) => {
    const event = expected[i]!;
    expect([note.tick, note.track, note.pitch, note.velocity]).toEqual([
      event.start,
      event.track,
      event.pitch,
      event.velocity,
    ]);
    expect(note.due - start).toBeCloseTo(
      (ticksToMs(event.start, project.tempo) - ticksToMs(expected[0]!.start, project.tempo)) / 1000,
      4,
    );
  });

  // Put a hit on while it plays: it is sent within the next loop. Take it off: it is not any more.
  await clickAt(page, "drums", 36, 480);
  await expect
    .poll(async () =>
      (await projectOf(page)).patterns[0]!.parts[0]!.notes.some(
        (n) => n.pitch === 36 && n.start === 480,
      ),
    )
    .toBe(true);
  await expect
    .poll(
      async () =>
        (await sentNotes(page)).some((n) => n.pitch === 36 && n.patternTick % 7680 === 480),
      { timeout: 15_000 },
    )
    .toBe(true);
  await clickAt(page, "drums", 36, 480);
  const offAt = await page.evaluate(() => window.hailstep!.position()!.tick);
  await page.waitForFunction(
    (tick) => window.hailstep!.position()!.tick > tick + 7680 + 600,
    offAt,
    { timeout: 20_000 },
  );
  const after = (await sentNotes(page)).filter(
    (n) => n.pitch === 36 && n.patternTick % 7680 === 480 && n.tick > offAt + 600,
  );
  expect(after).toEqual([]);
  await stop(page);

  // Roll a hat from the keyboard, by pointer select first.
  await page.getByRole("button", { name: "Closed hat", exact: true }).click();
  const hats = async () =>
    (await projectOf(page)).patterns[0]!.parts[0]!.notes.filter((n) => n.pitch === 42);
  const before = (await hats()).length;
  await page.getByTestId("sheet").focus();
  await page.keyboard.press("n");
  await page.keyboard.press("3");
  expect((await hats()).length).toBe(before + 2);
  expect((await hats()).slice(0, 3).map((n) => [n.start, n.length])).toEqual([
    [0, 80],
    [80, 80],
    [160, 80],
  ]);

  // Generate a bass line in the key: heard and seen before it is kept.
  await page.getByRole("button", { name: "Reed bass", exact: true }).click();
  await page.getByRole("tab", { name: "Generate" }).click();
  const old = (await projectOf(page)).patterns[0]!.parts[1]!.notes;
  await page.getByRole("button", { name: "Generate", exact: true }).click();
  await expect(page.getByRole("list", { name: "Ideas" }).getByRole("listitem")).toHaveCount(12);
  await page.getByRole("button", { name: /^Idea 1,/ }).click();
  await page.evaluate(() => window.hailstep!.clear());
  await play(page);
  await waitSent(page, 30);
  expect((await projectOf(page)).patterns[0]!.parts[1]!.notes).toEqual(old);
  expect((await sentNotes(page)).some((n) => n.track === "bass" && n.note.startsWith("g1-"))).toBe(
    true,
  );
  await stop(page);
  await page.getByRole("button", { name: "Next idea" }).click();
  await page.getByRole("button", { name: "Apply", exact: true }).click();
  const dorian = [2, 4, 5, 7, 9, 11, 0];
  const line = (await projectOf(page)).patterns[0]!.parts[1]!.notes;
  expect(line.length).toBeGreaterThan(3);
  for (const note of line) expect(dorian).toContain(note.pitch % 12);

  // Reverse, stretch and humanize it: each shows and sounds first, then all is written.
  await page.getByRole("tab", { name: "Transform" }).click();
  await page.getByRole("button", { name: /^Reverse/ }).click();
  await page.getByRole("button", { name: /^Stretch/ }).click();
  await page.getByRole("button", { name: /^Humanize/ }).click();
  await expect(page.getByTestId("step-humanize").getByTestId("effect")).toContainText(
    "louder or softer",
  );
  await page.getByRole("button", { name: /^Values of Stretch/ }).click();
  await expect(page.getByTestId("step-stretch").getByTestId("effect")).toContainText("ms became");
  expect((await projectOf(page)).patterns[0]!.parts[1]!.notes).toEqual(line);
  await page.evaluate(() => window.hailstep!.clear());
  await play(page);
  await waitSent(page, 40);
  await stop(page);
  const span = (notes: readonly { start: number }[]) =>
    Math.max(...notes.map((n) => n.start)) - Math.min(...notes.map((n) => n.start));
  const heard = (await sentNotes(page)).filter((n) => n.track === "bass" && n.tick < 7680);
  expect(Math.max(...heard.map((n) => n.tick))).toBeLessThanOrEqual(
    Math.ceil(span(line) / 2) + 3840,
  );
  await page.getByRole("button", { name: "Write to notes" }).click();
  const written = (await projectOf(page)).patterns[0]!.parts[1]!;
  expect(written.chain).toEqual([]);
  expect(written.notes).not.toEqual(line);
  expect(written.notes).toHaveLength(line.length);
  await page.getByRole("button", { name: /^Undo Write/ }).click();
  expect((await projectOf(page)).patterns[0]!.parts[1]!.notes).toEqual(line);
  await page.getByRole("button", { name: /^Redo Write/ }).click();
  expect((await projectOf(page)).patterns[0]!.parts[1]!).toEqual(written);

  // Reload: everything is there, on the page and in the rows.
  await saved(page);
  const kept = await projectOf(page);
  await page.reload();
  await ready(page);
  expect(await projectOf(page)).toEqual(kept);
  expect(await storedNotes(page, id, "bass")).toEqual(written.notes);

  // Take a MIDI file away, and read it with another reader.
  const { name, bytes } = await exported(page, "MIDI file", "Pattern");
  expect(name).toBe("Slack Water copy Quay.mid");
  const midi = new Midi(bytes);
  expect(midi.header.tempos[0]!.bpm).toBeCloseTo(84, 3);
  const theirs = midi.tracks.find((track) => track.name === "Reed bass")!;
  expect(theirs.notes.map((n) => [n.ticks, n.midi]).sort()).toEqual(
    written.notes
      .filter((n) => n.start < 7680)
      .map((n) => [Math.max(0, n.start), n.pitch])
      .sort(),
  );
  expect(midi.tracks.find((track) => track.channel === 9)!.notes.length).toBeGreaterThan(50);
});

test("the sheet by pointer: paint, erase, velocity, box, move and lengthen", async ({ page }) => {
  await openCopy(page, "Breakwater");
  const part = async (i: number) => (await projectOf(page)).patterns[0]!.parts[i]!.notes;

  // Paint a run on the low tom lane; drag it away again with the right button.
  const from = await placeOf(page, "drums", 45, 0);
  const to = await placeOf(page, "drums", 45, 4 * 240);
  await page.mouse.move(from.x, from.y);
  await page.mouse.down();
  await page.mouse.move(to.x, to.y, { steps: 12 });
  await page.mouse.up();
  const toms = async () => (await part(0)).filter((n) => n.pitch === 45);
  expect((await toms()).map((n) => n.start)).toEqual([0, 240, 480, 720, 960]);

  // Velocity by drag on a stone.
  await page.mouse.move(to.x, to.y);
  await page.mouse.down();
  await page.mouse.move(to.x, to.y + 20, { steps: 5 });
  await page.mouse.up();
  expect((await toms()).at(-1)!.velocity).toBe(76);

  // Box selection with shift, then delete; one undo brings them back.
  await page.keyboard.down("Shift");
  await page.mouse.move(from.x - 8, from.y - 12);
  await page.mouse.down();
  await page.mouse.move(to.x - 6, to.y + 12, { steps: 6 });
  await page.mouse.up();
  await page.keyboard.up("Shift");
  await page.keyboard.press("Delete");
  expect((await toms()).map((n) => n.start)).toEqual([960]);
  await page.keyboard.press("Control+z");
  expect(await toms()).toHaveLength(5);
  await page.mouse.move(from.x - 4, from.y);
  await page.mouse.down({ button: "right" });
  await page.mouse.move(to.x + 4, to.y, { steps: 20 });
  await page.mouse.up({ button: "right" });
  expect(await toms()).toHaveLength(0);

  // A bass note: drag it a step later and a degree up, then make it longer at its end.
  const bass = (await part(1))[0]!;
  const head = await placeOf(page, "bass", bass.pitch, bass.start);
  const target = await placeOf(page, "bass", 43, bass.start + 240);
  await page.mouse.move(head.x, head.y);
  await page.mouse.down();
  await page.mouse.move(target.x, target.y, { steps: 8 });
  await page.mouse.up();
  expect((await part(1))[0]).toMatchObject({ id: bass.id, start: 240, pitch: 43 });
  const end = await placeOf(page, "bass", 43, 240 + bass.length);
  await page.mouse.move(end.x - 3, end.y);
  await page.mouse.down();
  const further = await placeOf(page, "bass", 43, 240 + bass.length + 480);
  await page.mouse.move(further.x - 3, further.y, { steps: 6 });
  await page.mouse.up();
  expect((await part(1))[0]!.length).toBe(bass.length + 480);

  // Exact values in the foot.
  const start = page.getByRole("spinbutton", { name: "Start" });
  await start.fill("1.2.1+7");
  await start.press("Enter");
  expect((await part(1)).find((n) => n.id === bass.id)!.start).toBe(967);
  await page.getByRole("spinbutton", { name: "Pitch" }).fill("Ab2");
  await page.getByRole("spinbutton", { name: "Pitch" }).press("Enter");
  expect((await part(1)).find((n) => n.id === bass.id)!.pitch).toBe(44);
});

test("the sheet by keyboard alone", async ({ page }) => {
  await openCopy(page, "Slack Water");
  const kicks = async () =>
    (await projectOf(page)).patterns[0]!.parts[0]!.notes.filter((n) => n.pitch === 36).map(
      (n) => n.start,
    );
  await page.getByTestId("sheet").focus();
  const before = await kicks();
  await page.keyboard.press("ArrowRight");
  await page.keyboard.press("Enter");
  expect(await kicks()).toEqual([...before, 480].sort((a, b) => a - b));
  await expect(page.locator("p[role=status]")).toHaveText("Kick, 1.1.3, velocity 96");
  await page.keyboard.press("Alt+ArrowDown");
  await page.keyboard.press("Alt+ArrowRight");
  const hit = (await projectOf(page)).patterns[0]!.parts[0]!.notes.find((n) => n.start === 481)!;
  expect(hit.velocity).toBe(92);
  await page.keyboard.press("]");
  await page.keyboard.press("t");
  expect((await projectOf(page)).tracks[0]!.lanes[0]!.grid).toMatchObject({
    value: 16,
    kind: "triplet",
  });
  await page.keyboard.press("Delete");
  expect(await kicks()).toEqual(before);
  for (let i = 0; i < 6; i++) await page.keyboard.press("Control+z");
  expect((await projectOf(page)).tracks[0]!.lanes[0]!.grid).toMatchObject({
    value: 8,
    kind: "straight",
  });
  expect(await kicks()).toEqual(before);
  await page.keyboard.press(".");
  await expect(page.getByRole("button", { name: "Pattern Lamps up" })).toHaveAttribute(
    "aria-pressed",
    "true",
  );

  // The palette finds an action by name and shows its key.
  await page.keyboard.press("Control+k");
  await page.keyboard.type("play or");
  await page.keyboard.press("Enter");
  await waitSent(page, 3);
  await page.getByTestId("sheet").focus();
  await page.keyboard.press("Space");
  await expect(page.getByRole("button", { name: "Play", exact: true })).toBeVisible();
});

test("a chain shows its effect, can be switched, reordered and compared, and is kept over a reload", async ({
  page,
}) => {
  await openCopy(page, "Slack Water");
  await page.getByRole("button", { name: "Closed hat", exact: true }).click();
  await page.getByRole("button", { name: /^Roll/ }).click();
  const card = page.getByTestId("step-roll");
  await expect(card.getByTestId("effect")).toContainText(/\d+ hits became \d+, /);
  const count = card.getByRole("spinbutton", { name: "Hits" });
  await count.fill("4");
  await count.press("Enter");
  await expect(card.getByTestId("effect")).toContainText("30 hits became 120");
  await page.getByRole("button", { name: /^Reverse/ }).click();
  await page.getByRole("button", { name: "Move Reverse up" }).click();
  const order = async () =>
    (await projectOf(page)).patterns[0]!.parts[0]!.chain.map((s) => s.transform);
  expect(await order()).toEqual(["reverse", "roll"]);
  await card.getByRole("button", { name: /^Values of Roll/ }).click();
  await card.getByRole("checkbox", { name: "Roll on" }).uncheck();
  await expect(card.getByTestId("effect")).toHaveText("Switched off");
  await card.getByRole("checkbox", { name: "Roll on" }).check();

  await page.evaluate(() => window.hailstep!.clear());
  const compare = page.getByRole("button", { name: "Bypass (hold)" });
  await compare.hover();
  await page.mouse.down();
  await expect(card.getByTestId("effect")).toHaveText("Bypassed");
  await page.mouse.up();
  await expect(card.getByTestId("effect")).toContainText("became 120");

  await saved(page);
  await page.reload();
  await ready(page);
  expect(await order()).toEqual(["reverse", "roll"]);
  await page.getByRole("button", { name: "Delete Reverse" }).click();
  await page.getByRole("button", { name: "Delete Roll" }).click();
  expect(await order()).toEqual([]);
});

test("velocities are drawn in the profile; time is zoomed and scrolled by wheel and key", async ({
  page,
}) => {
  await openCopy(page, "Slack Water");
  await page.getByRole("button", { name: "Closed hat", exact: true }).click();
  const hats = async () =>
    (await projectOf(page)).patterns[0]!.parts[0]!.notes.filter((n) => n.pitch === 42);
  const count = (await hats()).length;
  const profile = (await page.getByTestId("velocity-profile").boundingBox())!;
  // A falling line from the left edge to the right: loud first, soft last, in one step.
  await page.mouse.move(profile.x + 5, profile.y + 8);
  await page.mouse.down();
  await page.mouse.move(profile.x + profile.width - 5, profile.y + profile.height - 6, {
    steps: 20,
  });
  await page.mouse.up();
  const drawn = (await hats()).map((n) => n.velocity);
  expect(drawn).toHaveLength(count);
  for (let i = 1; i < drawn.length; i++) expect(drawn[i]!).toBeLessThanOrEqual(drawn[i - 1]!);
  expect(drawn[0]!).toBeGreaterThan(110);
  expect(drawn.at(-1)!).toBeLessThan(25);
  await page.keyboard.press("Control+z");
  expect((await hats()).map((n) => n.velocity)).not.toEqual(drawn);

  // Zoomed in and scrolled, the same place on the page is another time; fitted, it is as before.
  const kick = await placeOf(page, "drums", 36, 480);
  const kicks = async () =>
    (await projectOf(page)).patterns[0]!.parts[0]!.notes.filter((n) => n.pitch === 36).map(
      (n) => n.start,
    );
  const before = await kicks();
  await page.mouse.move(kick.x, kick.y);
  await page.keyboard.down("Control");
  await page.mouse.wheel(0, -300);
  await page.keyboard.up("Control");
  await page.keyboard.down("Shift");
  await page.mouse.wheel(0, 400);
  await page.keyboard.up("Shift");
  await page.mouse.click(kick.x, kick.y);
  const added = (await kicks()).filter((start) => !before.includes(start));
  expect(added).toHaveLength(1);
  expect(added[0]!).toBeGreaterThan(480);
  await page.keyboard.press("Control+z");
  await page.keyboard.press("0");
  await page.mouse.click(kick.x, kick.y);
  expect((await kicks()).filter((start) => !before.includes(start))).toEqual([480]);
});

test("patterns are duplicated, varied, lengthened and removed; notes compared while the loop plays", async ({
  page,
}) => {
  await openCopy(page, "Slack Water");
  await page.getByRole("button", { name: "Duplicate the pattern" }).click();
  await expect(page.getByRole("button", { name: "Pattern Quay 2" })).toHaveAttribute(
    "aria-pressed",
    "true",
  );
  const patterns = async () => (await projectOf(page)).patterns;
  expect((await patterns())[2]!.parts).toEqual((await patterns())[0]!.parts);
  const bars = page.getByRole("spinbutton", { name: "Length of the pattern in bars" });
  await bars.fill("4");
  await bars.press("Enter");
  // The two-bar parts now repeat under four bars.
  expect((await patterns())[2]).toMatchObject({ name: "Quay 2", bars: 4 });
  expect((await patterns())[2]!.parts.map((part) => part.length)).toEqual([7680, 7680, 7680]);

  // A stretch of the bass is heard; while comparing, the notes as they are.
  await page.getByRole("button", { name: "Reed bass", exact: true }).click();
  await page.getByRole("button", { name: /^Transpose/ }).click();
  const octaves = page.getByTestId("step-transpose").getByRole("spinbutton", { name: "Octaves" });
  await octaves.fill("2");
  await octaves.press("Enter");
  await play(page);
  await page.waitForFunction(
    () => window.hailstep!.sent().filter((n) => n.track === "bass").length > 2,
  );
  const own = new Set((await patterns())[2]!.parts[1]!.notes.map((n) => n.pitch));
  const bass = async () =>
    (await sentNotes(page)).filter((n) => n.track === "bass").map((n) => n.pitch);
  for (const pitch of await bass()) expect(own.has(pitch - 24)).toBe(true);
  await page.getByRole("button", { name: "Bypass (hold)" }).hover();
  await page.mouse.down();
  await waitHandedOver(page);
  await page.evaluate(() => window.hailstep!.clear());
  await page.waitForFunction(
    () => window.hailstep!.sent().filter((n) => n.track === "bass").length > 1,
  );
  for (const pitch of await bass()) expect(own.has(pitch)).toBe(true);
  await page.mouse.up();
  await stop(page);

  await page.getByRole("button", { name: "Delete the pattern" }).click();
  expect((await patterns()).map((p) => p.name)).toEqual(["Quay", "Lamps up"]);
  await saved(page);
});

test("a change of key takes hold at once and asks what becomes of the notes", async ({ page }) => {
  await openCopy(page, "Slack Water");
  const bass = async () => (await projectOf(page)).patterns[0]!.parts[1]!.notes.map((n) => n.pitch);
  const drums = (await projectOf(page)).patterns[0]!.parts[0]!.notes;
  const before = await bass();
  const root = page.getByRole("combobox", { name: "Root of the key" });

  // D dorian to E phrygian by degree: every first degree is now an E, every third a G.
  await root.selectOption("4");
  await pickScale(page, "phrygian");
  const ask = page.getByRole("dialog", { name: "Notes in the new key" });
  await expect(ask).toContainText("From D dorian to E phrygian");
  await ask.getByRole("button", { name: /^Move them by degree/ }).click();
  await expect(ask).toHaveCount(0);
  const moved = await bass();
  before.forEach((pitch, i) => {
    if (pitch % 12 === 2) expect(moved[i]! % 12).toBe(4);
    if (pitch % 12 === 5) expect(moved[i]! % 12).toBe(7);
  });
  expect((await projectOf(page)).patterns[0]!.parts[0]!.notes).toEqual(drums);
  // Key and notes are one step.
  await page.keyboard.press("Control+z");
  expect(await bass()).toEqual(before);
  expect((await projectOf(page)).key).toEqual({ root: 2, scale: "dorian" });

  await pickScale(page, "major pentatonic");
  await ask.getByRole("button", { name: /^Snap them/ }).click();
  for (const pitch of await bass()) expect([2, 4, 6, 9, 11]).toContain(pitch % 12);
  await page.keyboard.press("Control+z");

  await root.selectOption("7");
  await ask.getByRole("button", { name: /^Keep the notes/ }).click();
  expect(await bass()).toEqual(before);
  expect((await projectOf(page)).key.root).toBe(7);
});
