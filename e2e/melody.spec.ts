import type { Page } from "@playwright/test";
import {
  clickAt,
  drag,
  expect,
  lineOf,
  openCopy,
  openNew,
  placeOf,
  play,
  projectOf,
  saved,
  sentNotes,
  stop,
  test,
  waitSent,
  waitTicks,
} from "./fixtures";

const bass = (page: Page) => lineOf(page, "bass");
const takeBass = (page: Page) =>
  page.getByRole("button", { name: "Reed bass", exact: true }).click();
const press = async (page: Page, ...keys: string[]) => {
  for (const key of keys) await page.keyboard.press(key);
};
/** The newest part of a track in the first pattern. */
const partOf = async (page: Page, track: string) =>
  (await projectOf(page)).patterns[0]!.parts.find((part) => part.track === track)!;

test("a line drawn and edited by pointer alone", async ({ page }) => {
  await openNew(page);
  await takeBass(page);
  const at = (pitch: number, tick: number) => placeOf(page, "bass", pitch, tick);

  // Draw three notes, the first longer by dragging on. C minor: 36 C, 43 G, 41 F.
  await drag(page, await at(36, 0), await at(36, 960));
  await clickAt(page, "bass", 43, 1920);
  await clickAt(page, "bass", 41, 2880);
  expect(await bass(page)).toEqual([
    [0, 960, 36],
    [1920, 960, 43],
    [2880, 960, 41],
  ]);

  // Lengthen the G from its back end, then from its front.
  const end = await at(43, 2880);
  await drag(page, { x: end.x - 3, y: end.y }, { x: (await at(43, 2400)).x - 3, y: end.y });
  expect((await bass(page))[1]).toEqual([1920, 480, 43]);
  const front = await at(43, 1920);
  await drag(page, { x: front.x - 10, y: front.y }, { x: (await at(43, 1440)).x - 10, y: front.y });
  expect((await bass(page))[1]).toEqual([1440, 960, 43]);

  // Move it down to F and a step later.
  await drag(page, await at(43, 1440), await at(41, 1680));
  expect((await bass(page))[1]).toEqual([1680, 960, 41]);

  // Cut it at the grid with the knife, and join the pieces again.
  await page.getByRole("radio", { name: "Cut", exact: true }).click();
  const middle = await at(41, 2160);
  await page.mouse.click(middle.x + 3, middle.y);
  expect((await bass(page)).slice(1, 3)).toEqual([
    [1680, 480, 41],
    [2160, 480, 41],
  ]);
  await page.getByRole("button", { name: "Join", exact: true }).click();
  expect((await bass(page))[1]).toEqual([1680, 960, 41]);

  // Paint freehand: slowly each step, fast with gaps. All in the scale, none overlapping.
  await page.getByRole("radio", { name: "Freehand" }).click();
  await drag(page, await at(38, 3840), await at(46, 5760), 40);
  const slow = (await bass(page)).filter(([start]) => start >= 3840);
  expect(slow.map(([start]) => start)).toEqual(Array.from({ length: 9 }, (_, i) => 3840 + i * 240));
  for (let i = 1; i < slow.length; i++) {
    expect(slow[i - 1]![0] + slow[i - 1]![1]).toBeLessThanOrEqual(slow[i]![0]);
    expect([0, 2, 3, 5, 7, 8, 10]).toContain(slow[i]![2] % 12);
  }
  await press(page, "Control+z");
  await drag(page, await at(38, 3840), await at(38, 5760), 3);
  const fast = (await bass(page)).filter(([start]) => start >= 3840);
  expect(fast.length).toBeGreaterThan(1);
  expect(fast.length).toBeLessThan(6);

  // Select by box, add by box, take out by box.
  await page.getByRole("radio", { name: "Draw" }).click();
  await page.mouse.click((await at(36, 7200)).x, (await at(36, 7200)).y);
  await press(page, "Control+z", "Escape");
  const box = async (from: [number, number], to: [number, number], ...keys: string[]) => {
    for (const key of keys) await page.keyboard.down(key);
    const [a, b] = [await at(...from), await at(...to)];
    await drag(page, { x: a.x - 12, y: a.y - 6 }, { x: b.x + 12, y: b.y + 6 });
    for (const key of keys) await page.keyboard.up(key);
  };
  const count = page.locator("footer").getByText(/^\d+ notes$/);
  await box([43, 1560], [36, 3000], "Shift");
  await expect(count).toHaveText("2 notes");
  await box([43, 0], [36, 240], "Shift", "Control");
  await expect(count).toHaveText("3 notes");
  await box([43, 0], [36, 240], "Shift", "Alt");
  await expect(count).toHaveText("2 notes");
});

test("stretching by the handles, to double tempo and through zero into reverse", async ({
  page,
}) => {
  await openNew(page);
  await takeBass(page);
  const before = [
    [1920, 240, 36],
    [2400, 240, 38],
    [3600, 240, 43],
  ];
  for (const [tick, , pitch] of before) await clickAt(page, "bass", pitch!, tick!);
  await press(page, "Control+a");
  expect(await bass(page)).toEqual(before);
  // The handles lie in the track's head, over its first row.
  const head = (await page.getByRole("region", { name: "Reed bass" }).boundingBox())!;
  const handle = async (tick: number) => {
    return { x: (await placeOf(page, "bass", 36, tick)).x, y: head.y + 20 };
  };
  // The back handle half way: double tempo.
  await drag(page, await handle(3840), await handle(2880));
  expect(await bass(page)).toEqual([
    [1920, 120, 36],
    [2160, 120, 38],
    [2760, 120, 43],
  ]);
  await press(page, "Control+z");
  // Past the front end: turned about, as long as before.
  await drag(page, await handle(3840), await handle(0));
  expect(await bass(page)).toEqual([
    [0, 240, 43],
    [1200, 240, 38],
    [1680, 240, 36],
  ]);
  await press(page, "Control+z");
  // By the front handle, the back end stays where it is.
  await drag(page, await handle(1920), await handle(960));
  expect(await bass(page)).toEqual([
    [960, 360, 36],
    [1680, 360, 38],
    [3480, 360, 43],
  ]);
  await press(page, "Control+z");
  expect(await bass(page)).toEqual(before);
});

test("a line written and edited by keyboard alone", async ({ page }) => {
  await openNew(page);
  await page.getByTestId("sheet").focus();
  // Down to the bass by the palette, a note on every beat of the first bar.
  await takeBass(page);
  await page.getByTestId("sheet").focus();
  await press(page, "Enter");
  for (let beat = 1; beat < 4; beat++) {
    await press(page, "ArrowRight", "ArrowRight", "ArrowRight", "ArrowRight", "Enter");
  }
  const first = (await bass(page))[0]![2];
  expect(await bass(page)).toEqual([0, 960, 1920, 2880].map((start) => [start, 240, first]));

  // Walk from note to note with the arrows, extend, and move what is selected.
  await press(page, "w", "ArrowLeft", "ArrowLeft");
  await press(page, "Alt+n");
  await press(page, "Shift+ArrowUp", "Shift+ArrowUp");
  expect((await bass(page)).map(([, , pitch]) => pitch - first)).toEqual([0, 3, 3, 0]);
  await press(page, "Control+ArrowUp", "PageUp");
  expect((await bass(page)).map(([, , pitch]) => pitch - first)).toEqual([0, 16, 16, 0]);
  await press(page, "Shift+ArrowRight", "l");
  expect((await bass(page)).slice(1, 3).map(([start, length]) => [start, length])).toEqual([
    [1200, 480],
    [2160, 480],
  ]);
  await press(page, "Alt+l");
  expect((await bass(page)).slice(1, 3).map(([start, length]) => [start, length])).toEqual([
    [960, 720],
    [1920, 720],
  ]);
  // Off the grid by a tick, lengthened by the grid: the offset stays.
  await press(page, "Alt+ArrowRight", "k");
  expect((await bass(page))[1]!.slice(0, 2)).toEqual([961, 480]);

  // Select by what notes are: the palette has each way.
  const select = async (name: string) => {
    await press(page, "Control+k");
    await page.getByRole("combobox").fill(name);
    await press(page, "Enter");
  };
  await select("Select: all of the part");
  await expect(page.locator("footer").getByText("4 notes", { exact: true })).toBeVisible();
  await select("Select: every 2nd of them");
  await expect(page.locator("footer").getByText("2 notes", { exact: true })).toBeVisible();
  await select("Select: out of the key");
  const key = (await projectOf(page)).key;
  expect(key.scale).toBe("minor");
  await expect(page.locator("footer").getByText("2 notes", { exact: true })).toBeVisible();
  await press(page, "a");
  for (const [, , pitch] of await bass(page)) {
    expect([0, 2, 3, 5, 7, 8, 10]).toContain((pitch - key.root + 12) % 12);
  }

  // Cut at the caret and mark a slide.
  await press(page, "w", "Home");
  await select("Select: all of the part");
  await press(page, "ArrowRight", "Shift+y");
  await press(page, "z");
  expect((await partOf(page, "bass")).notes.every((note) => note.slide)).toBe(true);
});

test("step entry: triplets with chords, a value changed on the way, tie, rest, step back, insert", async ({
  page,
}) => {
  await openNew(page);
  await takeBass(page);
  await press(page, "i");
  const surface = page.getByRole("region", { name: "Step entry" });
  await expect(surface).toBeVisible();
  const low = Number(await surface.locator("[data-pitch]").first().getAttribute("data-pitch"));
  // C minor, eighth triplets: C, E flat and G with its fifth as a chord.
  await press(page, "4", "9", "KeyA", "KeyE");
  await page.keyboard.down("KeyG");
  await page.keyboard.down("KeyA");
  await page.keyboard.up("KeyG");
  await page.keyboard.up("KeyA");
  expect(await bass(page)).toEqual([
    [0, 320, low],
    [320, 320, low + 3],
    [640, 320, low],
    [640, 320, low + 7],
  ]);
  // On in straight quarters: a loud note, tied over, a rest, then another taken back again.
  await press(page, "9", "3", "v", "KeyF", "Equal", "Enter", "KeyD", "Backspace");
  const line = await bass(page);
  expect(line.slice(4)).toEqual([[960, 1920, low + 5]]);
  expect((await partOf(page, "bass")).notes[4]!.velocity).toBe(96);
  await expect(page.getByTestId("position")).toHaveText("2.1.1");

  // Go back to the beginning and insert: what follows moves on.
  await press(page, "ArrowLeft", "ArrowLeft", "ArrowLeft", "ArrowLeft", "KeyM", "KeyS");
  expect(await bass(page)).toEqual([
    [0, 960, low + 2],
    ...line.map(([s, l, p]) => [s + 960, l, p]),
  ]);

  // With the pointer: dynamics, a chord gathered on the keys of the screen, next step.
  await page.getByTestId("value-ladder").getByRole("radio", { name: "1/2", exact: true }).click();
  const dynamics = surface.getByRole("slider", { name: "Dynamics" });
  const strip = (await dynamics.boundingBox())!;
  await page.mouse.click(strip.x + strip.width - 4, strip.y + 10);
  await expect(dynamics).toHaveAttribute("aria-valuetext", "fff, velocity 127");
  await surface
    .getByRole("button", { name: "Overwrite" })
    .or(surface.getByRole("button", { name: "Insert" }))
    .click();
  await surface.getByRole("button", { name: "Build chord" }).click();
  for (const pitch of [low, low + 7, low + 12]) {
    const box = (await surface.locator(`[data-pitch="${pitch}"]`).boundingBox())!;
    await page.mouse.click(box.x + box.width / 2, box.y + box.height - 6);
  }
  await surface.getByRole("button", { name: "Next step" }).click();
  const at960 = (await bass(page)).filter(([start]) => start === 960);
  expect(at960).toEqual([low, low + 7, low + 12].map((pitch) => [960, 1920, pitch]));
  await press(page, "Escape");
  await expect(surface).toHaveCount(0);
  // A step is one step back in the history, chords as a whole.
  await press(page, "Control+z");
  expect((await bass(page)).filter(([s, l]) => s === 960 && l === 1920)).toHaveLength(0);
});

test("rhythm first: taps to the metronome, then pitches by key, and ideas on that rhythm", async ({
  page,
}) => {
  await openNew(page);
  await takeBass(page);
  await press(page, "Shift+i");
  await press(page, "KeyA");
  // The first tap starts the loop with the metronome.
  await page.waitForFunction(() => (window.hailstep!.position()?.tick ?? 0) > 200);
  await expect(page.getByRole("button", { name: "Metronome", exact: true })).toHaveAttribute(
    "aria-pressed",
    "true",
  );
  for (let i = 0; i < 4; i++) {
    await page.keyboard.down("KeyA");
    await waitTicks(page, 240);
    await page.keyboard.up("KeyA");
    await waitTicks(page, 480);
  }
  const tapped = (await partOf(page, "bass")).notes;
  expect(tapped.length).toBeGreaterThanOrEqual(3);
  for (const note of tapped) {
    expect(note.unpitched).toBe(true);
    expect(note.start % 240).toBe(0);
  }
  await expect(page.getByText("No pitch yet")).toBeVisible();
  expect(await page.evaluate(() => window.hailstep!.clicks())).toBeGreaterThan(1);
  await stop(page);

  // Two by typing, one by stepping it through the scale.
  await page.getByRole("radio", { name: /^Set pitches/ }).click();
  await press(page, "KeyA", "KeyG");
  await press(page, "Escape");
  const given = (await partOf(page, "bass")).notes.filter((note) => !note.unpitched);
  expect(given).toHaveLength(2);
  await press(page, "Shift+ArrowUp");
  expect((await partOf(page, "bass")).notes.filter((note) => note.unpitched)).toHaveLength(
    tapped.length - 3,
  );

  // Or all of them by ideas on that rhythm.
  await page.getByRole("tab", { name: "Generate" }).click();
  await page.getByRole("checkbox", { name: "Rhythm" }).check();
  await page.getByRole("button", { name: "Generate", exact: true }).click();
  await page.getByRole("button", { name: "Apply idea 2", exact: true }).click();
  const line = await bass(page);
  expect(line.map(([start, length]) => [start, length])).toEqual(
    tapped.map((note) => [note.start, note.length]),
  );
  expect((await partOf(page, "bass")).notes.some((note) => note.unpitched)).toBe(false);
});

test("ideas: previewed by pointing and by one key, rhythm kept, starred, varied, kept with their seed", async ({
  page,
}) => {
  const id = await openCopy(page, "Slack Water");
  await takeBass(page);
  const before = await bass(page);
  await page.getByRole("tab", { name: "Generate" }).click();
  await play(page);
  await page.getByRole("button", { name: "Generate", exact: true }).click();
  const sheet = page.getByRole("region", { name: "Ideas" });
  await expect(sheet.getByRole("listitem")).toHaveCount(12);

  // Resting on one: it is sent in place of the line, in the running loop; leaving brings mine back.
  const third = sheet.getByRole("button", { name: /^Idea 3,/ });
  await third.hover();
  await page.evaluate(() => window.hailstep!.clear());
  await page.waitForFunction(() =>
    window.hailstep!.sent().some((n) => n.track === "bass" && n.note.startsWith("g3-")),
  );
  await page.getByTestId("position").hover();
  await page.evaluate(() => window.hailstep!.clear());
  await page.waitForFunction(() =>
    window.hailstep!.sent().some((n) => n.track === "bass" && n.note.startsWith("b")),
  );
  expect(await bass(page)).toEqual(before);
  // One key for the next, without leaving the sheet; the beat goes on in time.
  await page.getByTestId("sheet").focus();
  await press(page, "/", "/");
  await page.waitForFunction(() =>
    window.hailstep!.sent().some((n) => n.track === "bass" && n.note.startsWith("g2-")),
  );
  await stop(page);

  // Star two, lock the rhythm of the one previewed, ask again: starred ones stay, rhythm is kept.
  await sheet.getByRole("button", { name: "Star idea 5" }).click();
  const shape = async (name: RegExp) => {
    await sheet.getByRole("button", { name }).click();
    return page.evaluate(() =>
      window.hailstep!.preview()!.map((n) => [n.start, n.length, n.pitch].join()),
    );
  };
  const mine = await shape(/^Idea 2,/);
  await page.getByRole("checkbox", { name: "Rhythm" }).check();
  await page.getByRole("button", { name: "Generate with a new seed" }).click();
  await expect(sheet.getByRole("listitem")).toHaveCount(13);
  const other = await shape(/^Idea 4,/);
  const rhythm = (list: string[]) => list.map((n) => n.split(",").slice(0, 2).join());
  expect(rhythm(other)).toEqual(rhythm(mine));
  expect(other).not.toEqual(mine);
  await page.getByRole("checkbox", { name: "Rhythm" }).uncheck();

  // Keep a bar; more like this; use it.
  await page.getByRole("button", { name: "Keep bar 2" }).click();
  await sheet.getByRole("button", { name: "More like idea 4", exact: true }).click();
  await expect(sheet.getByRole("listitem")).toHaveCount(13);
  const like = await shape(/^Idea 6,/);
  const second = (list: string[]) => list.filter((n) => Number(n.split(",")[0]) >= 3840);
  expect(second(like)).toEqual(second(other));
  await press(page, "Shift+Enter");
  const part = await partOf(page, "bass");
  expect(part.notes.map((n) => [n.start, n.length, n.pitch].join())).toEqual(like);
  expect(part.generated?.kind).toBe("line");
  await saved(page);
  const stored = (await (await page.request.get(`/api/projects/${id}`)).json()) as {
    project: { patterns: { parts: { generated?: { seed: number } }[] }[] };
  };
  expect(stored.project.patterns[0]!.parts[1]!.generated).toEqual(part.generated);
  await page.reload();
  await takeBass(page);
  await page.getByRole("tab", { name: "Generate" }).click();
  await expect(page.getByText(`these notes came from seed ${part.generated!.seed}`)).toBeVisible();

  // Drums have ideas for the current lane; the other lanes stay.
  await page.getByRole("button", { name: "Kick", exact: true }).click();
  const others = async () =>
    (await partOf(page, "drums")).notes
      .filter((n) => n.pitch !== 36)
      .map((n) => n.id)
      .sort();
  const rest = await others();
  await page.getByRole("button", { name: "Generate", exact: true }).click();
  await page.getByRole("button", { name: "Apply idea 3", exact: true }).click();
  expect(await others()).toEqual(rest);
});

test("settings out of reason are held or said, and a register of a third still gives ideas", async ({
  page,
}) => {
  await openNew(page);
  await takeBass(page);
  await page.getByRole("tab", { name: "Generate" }).click();
  const value = async (name: string, text: string) => {
    const field = page.getByRole("spinbutton", { name, exact: true });
    await field.fill(text);
    await field.press("Enter");
    return field.inputValue();
  };
  expect(await value("Density", "abc")).toBe("80 %");
  expect(await value("Density", "400")).toBe("100 %");
  expect(await value("Density", "0")).toBe("0 %");
  await value("Lowest note", "C2");
  expect(await value("Highest note", "Eb2")).toBe("D♯2");
  await page.getByRole("button", { name: "Generate", exact: true }).click();
  const sheet = page.getByRole("region", { name: "Ideas" });
  await expect(sheet.getByRole("listitem").first()).toBeVisible();
  // A register that holds no note of the scale is said, with what is wrong.
  await value("Lowest note", "C#2");
  await value("Highest note", "C#2");
  await page.getByRole("button", { name: "Generate", exact: true }).click();
  await expect(sheet.getByRole("alert")).toContainText(
    "no note of the scale lies between 37 and 37",
  );
});

test("a chord line: typed, by degree, refused, held, strummed and played as an arpeggio", async ({
  page,
}) => {
  await openNew(page);
  await takeBass(page);
  const line = page.getByRole("group", { name: "Chord line" });
  await page.getByRole("button", { name: "Add a chord" }).click();
  await press(page, "Escape");
  const put = async (tick: number, text: string) => {
    const { x } = await placeOf(page, "bass", 36, tick);
    const box = (await line.boundingBox())!;
    await page.mouse.click(x + 60, box.y + box.height / 2);
    await page.getByRole("textbox", { name: "Chord name" }).fill(text);
    await press(page, "Enter");
  };
  await put(0, "Cm7");
  await put(3840, "H7");
  const editor = page.getByRole("dialog", { name: "Chord" });
  await expect(editor.getByRole("alert")).toContainText("“H7” is no chord");
  await page.getByRole("textbox", { name: "Chord name" }).fill("4");
  await press(page, "Enter");
  const chords = async () => (await projectOf(page)).patterns[0]!.chords!;
  expect((await chords()).map((c) => c.name)).toEqual(["Cm7", "Fm"]);
  // First inversion of the second, then both as held notes.
  await line.getByRole("button", { name: "Chord Fm" }).click();
  await page.getByRole("combobox", { name: "Inversion" }).selectOption("1");
  await press(page, "Escape");
  expect((await chords())[1]!.inversion).toBe(1);
  await line.getByRole("button", { name: "Add as notes" }).click();
  const held = await bass(page);
  expect(held.map(([start, , pitch]) => [start, pitch % 12])).toEqual([
    ...[0, 3, 7, 10].map((pc) => [0, pc]),
    ...[8, 0, 5].map((pc) => [3840, pc]),
  ]);
  // Found back from the notes.
  await line.getByRole("button", { name: "From notes" }).click();
  expect((await chords()).map((c) => c.name)).toEqual(["Cm7", "Fm/Ab"]);

  // Strum as a card: its picture, its sentence, and what is sent.
  await press(page, "Escape");
  await page.getByRole("button", { name: /^Strum/ }).click();
  const strum = page.getByTestId("step-strum");
  await expect(strum.getByTestId("shape")).toBeVisible();
  await expect(strum.getByTestId("effect")).toContainText("2 chords of 7 notes spread over 40");
  await play(page);
  await waitSent(page, 7);
  await stop(page);
  const sent = (await sentNotes(page)).filter((note) => note.track === "bass").slice(0, 4);
  const tempo = (await projectOf(page)).tempo;
  const tick = 60_000 / tempo / 960;
  expect((sent[3]!.due - sent[0]!.due) * 1000).toBeGreaterThan(40 - 2 * tick);
  expect((sent[3]!.due - sent[0]!.due) * 1000).toBeLessThan(40 + 2 * tick);
  await strum.getByRole("button", { name: "Delete Strum" }).click();

  // Arpeggio from a preset, a step made a rest, then written.
  await page.getByRole("button", { name: /^Arpeggiate/ }).click();
  const arp = page.getByTestId("step-arpeggiate");
  await arp.getByRole("button", { name: /^Presets/ }).click();
  await arp.getByRole("button", { name: "Chord, three three two" }).click();
  await arp.getByRole("button", { name: /more values/ }).click();
  await arp.getByRole("combobox", { name: "Step 1: octave, rest or tie" }).selectOption("+1");
  await page.evaluate(() => window.hailstep!.clear());
  await play(page);
  await waitSent(page, 12);
  await stop(page);
  const notes = (await sentNotes(page)).filter((note) => note.track === "bass");
  const starts = [...new Set(notes.map((note) => note.tick))].slice(0, 3);
  expect(starts).toEqual([0, 720, 1440]);
  const root = held[0]![2];
  expect(notes.slice(0, 4).map((note) => note.pitch)).toContain(root + 12);
  await page.getByRole("button", { name: "Write to notes" }).click();
  // Two bars in groups of 3 3 2 sixteenths: six strokes a bar... of four notes, then of three.
  expect((await bass(page)).length).toBe(6 * 4 + 6 * 3);
});

test("two tracks at once: a sign for the target, a lock, copied and joined parts, all transposed", async ({
  page,
}) => {
  await openCopy(page, "Slack Water");
  await takeBass(page);
  await page.getByRole("button", { name: "Open Glass keys" }).click();
  await page.getByRole("button", { name: "Fold Harbour kit" }).click();
  await expect(
    page.getByRole("region", { name: "Reed bass" }).getByText("New notes go here"),
  ).toBeVisible();
  // Drawing on the other track makes it the current one: the sign goes along.
  await clickAt(page, "keys", 62, 3360);
  await expect(
    page.getByRole("region", { name: "Glass keys" }).getByText("New notes go here"),
  ).toBeVisible();
  expect((await lineOf(page, "keys")).some(([s, , p]) => s === 3360 && p === 62)).toBe(true);
  // Locked, the other track takes nothing.
  await press(page, "Shift+m");
  const before = await bass(page);
  await clickAt(page, "bass", 38, 2400);
  expect(await bass(page)).toEqual(before);
  await press(page, "Shift+m");

  const menu = async (name: string, choice: string, other: string) => {
    await page.getByRole("button", { name: `${name}: drag to move, click for more` }).click();
    await page.getByRole("combobox", { name: choice }).selectOption({ label: other });
  };
  await menu("Reed bass", "Copy part to", "Glass keys");
  expect(await lineOf(page, "keys")).toEqual(before);
  await press(page, "Control+z");
  await menu("Glass keys", "Join part of", "Reed bass");
  expect(await bass(page)).toEqual([]);
  expect((await lineOf(page, "keys")).length).toBeGreaterThan(before.length + 10);
  await press(page, "Control+z");
  expect(await bass(page)).toEqual(before);

  // The whole project but the drums, a fourth up, at once.
  await press(page, "Escape", "Alt+1");
  const drums = (await partOf(page, "drums")).notes;
  await page.getByRole("combobox", { name: "Works on" }).selectOption("melodic-project");
  await page.getByRole("radio", { name: "Apply now" }).click();
  await page.getByRole("button", { name: /^Transpose/ }).click();
  const card = page.getByRole("region", { name: "Apply Transpose" });
  const semitones = card.getByRole("spinbutton", { name: "Semitones" });
  await semitones.fill("5");
  await semitones.press("Enter");
  await expect(card.getByRole("status")).toContainText("in 4 parts");
  await card.getByRole("button", { name: "Apply" }).click();
  expect((await bass(page)).map(([, , p]) => p)).toEqual(before.map(([, , p]) => p + 5));
  const project = await projectOf(page);
  expect(project.patterns[1]!.parts[1]!.notes[0]!.pitch).toBe(before[0]![2] + 5);
  expect((await partOf(page, "drums")).notes).toEqual(drums);

  // A card on several parts is one card: its value changes in all of them.
  await page.getByRole("combobox", { name: "Works on" }).selectOption("melodic");
  await page.getByRole("radio", { name: "Add to chain" }).click();
  await page.getByRole("button", { name: /^Reverse/ }).click();
  const chains = (await projectOf(page)).patterns[0]!.parts.map((part) => part.chain.length);
  expect(chains).toEqual([0, 1, 1]);
  await page.getByRole("checkbox", { name: "Reverse on" }).uncheck();
  for (const part of (await projectOf(page)).patterns[0]!.parts.slice(1)) {
    expect(part.chain[0]!.on).toBe(false);
  }
});

test("before against now while the loop plays", async ({ page }) => {
  await openCopy(page, "Slack Water");
  await takeBass(page);
  await page.getByRole("button", { name: "Keep as Before", exact: true }).click();
  await press(page, "Control+a", "Control+a", "PageUp");
  const now = await bass(page);
  await play(page);
  const lowest = () =>
    page.evaluate(() =>
      Math.min(...window.hailstep!.sent().flatMap((n) => (n.track === "bass" ? [n.pitch] : []))),
    );
  await page.waitForFunction(() => window.hailstep!.sent().some((n) => n.track === "bass"));
  expect(await lowest()).toBeGreaterThanOrEqual(50);
  await page.getByRole("button", { name: "Before", exact: true }).click();
  await page.evaluate(() => window.hailstep!.clear());
  await page.waitForFunction(() =>
    window.hailstep!.sent().some((n) => n.track === "bass" && n.pitch < 50),
  );
  // Hearing it changes nothing of the project, and an edit comes back to now.
  expect(await bass(page)).toEqual(now);
  await press(page, "Shift+x");
  await expect(page.getByRole("button", { name: "Now", exact: true })).toHaveAttribute(
    "aria-pressed",
    "true",
  );
  await stop(page);
});

test("a slide is handed to the sound and bends it into the next note", async ({ page }) => {
  await openNew(page);
  await takeBass(page);
  await clickAt(page, "bass", 36, 0);
  await clickAt(page, "bass", 48, 1920);
  await press(page, "Control+a", "z");
  await play(page);
  await waitSent(page, 3);
  await stop(page);
  const [first, second] = await sentNotes(page);
  expect([first!.pitch, first!.glide]).toEqual([36, 48]);
  expect([second!.pitch, second!.glide]).toEqual([48, 36]);
  // Rendered: just before the second note, the first pitch has been left only with the slide.
  for (const sound of ["reed-bass", "wire-lead"]) {
    const [slid, plain] = await page.evaluate(async (id) => {
      const project = window.hailstep!.project();
      const tracks = project.tracks.map((t) => (t.id === "bass" ? { ...t, sound: id } : t));
      const strength = async (slide: boolean) => {
        const patterns = project.patterns.map((pattern) => ({
          ...pattern,
          parts: pattern.parts.map((part) => ({
            ...part,
            notes: part.notes.map((note, i) => ({
              ...note,
              slide,
              length: 1920,
              pitch: i === 0 ? 60 : 79,
            })),
          })),
        }));
        const buffer = await window.hailstep!.bounce({ ...project, tracks, patterns }, 0, 1920);
        const data = buffer.getChannelData(0);
        const rate = buffer.sampleRate;
        const end = Math.round(((1920 / 960) * 60 * rate) / project.tempo);
        const size = Math.round(0.02 * rate);
        // Goertzel's sum at the first note's pitch, over the 20 ms before the second.
        const hz = 440 * 2 ** ((60 - 69) / 12);
        let [re, im] = [0, 0];
        for (let i = 0; i < size; i++) {
          const x = data[end - size + i]! * (0.5 - 0.5 * Math.cos((2 * Math.PI * i) / size));
          re += x * Math.cos((2 * Math.PI * hz * i) / rate);
          im += x * Math.sin((2 * Math.PI * hz * i) / rate);
        }
        return Math.hypot(re, im);
      };
      return [await strength(true), await strength(false)];
    }, sound);
    expect(plain! / slid!, sound).toBeGreaterThan(3);
  }
});
