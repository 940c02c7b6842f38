import * as edits from "@/core/edits";
import { type Part, createProject, makeNote } from "@/core/score";
import type { PlayedNote } from "@/core/perform";
import { writeSmf } from "@/core/formats";
import type { Page } from "@playwright/test";
import {
  expect,
  openCopy,
  openNew,
  play,
  projectOf,
  saved,
  stop,
  test,
  waitTicks,
} from "./fixtures";

/** Remembers when keys went down, and where the loop was for the player then. */
const watchKeys = (page: Page) =>
  page.evaluate(() => {
    const seen: { code: string; tick: number | null; time: number }[] = [];
    Object.assign(window, { keysSeen: seen });
    window.addEventListener(
      "keydown",
      ({ code, timeStamp, repeat }) => {
        const at = window.hailstep!.playedAt(timeStamp);
        if (!repeat) seen.push({ code, time: timeStamp, tick: at && at.tick });
      },
      { capture: true },
    );
  });
const keysSeen = (page: Page) =>
  page.evaluate(
    () => (window as unknown as { keysSeen: { code: string; tick: number | null }[] }).keysSeen,
  );

const partOf = async (page: Page, track: string): Promise<Part> =>
  (await projectOf(page)).patterns[0]!.parts.find((part) => part.track === track)!;
const live = (page: Page) => page.evaluate(() => window.hailstep!.live());
const playedNotes = (page: Page): Promise<readonly PlayedNote[]> =>
  page.evaluate(() => window.hailstep!.played());
const hold = async (page: Page, key: string, ticks = 150) => {
  await page.keyboard.down(key);
  await waitTicks(page, ticks);
  await page.keyboard.up(key);
};
/** Sets something of how recording works, as its panel does. */
const setRecording = async (page: Page, group: string, option: string) => {
  await page.getByRole("button", { name: "Recording and metronome" }).click();
  await page
    .getByRole("radiogroup", { name: group, exact: true })
    .getByRole("radio", { name: option, exact: true })
    .click();
  await page.keyboard.press("Escape");
};
const takeBass = (page: Page) => page.getByText("Reed bass", { exact: true }).first().click();

test("a beat played by keys over two loops lands where it was played, each loop one step", async ({
  page,
}) => {
  await openNew(page);
  await setRecording(page, "Count-in", "None");
  await watchKeys(page);
  await page.keyboard.press(";");
  await page.keyboard.press("Alt+r");
  await waitTicks(page, 200);
  for (const key of ["a", "w", "a", "s", "w", "a"]) {
    await page.keyboard.press(key);
    await waitTicks(page, 700);
  }
  // Into the second loop.
  const total = (await partOf(page, "drums")).length;
  await page.waitForFunction((t) => (window.hailstep!.position()?.tick ?? 0) > t + 300, total);
  for (const key of ["s", "a"]) {
    await page.keyboard.press(key);
    await waitTicks(page, 500);
  }
  // The metronome is heard while recording, and not after it.
  expect(await page.evaluate(() => window.hailstep!.clicks())).toBeGreaterThan(4);
  await page.keyboard.press("Alt+r");
  await waitTicks(page, 600);
  const clicked = await page.evaluate(() => window.hailstep!.clicks());
  await waitTicks(page, 2000);
  expect(await page.evaluate(() => window.hailstep!.clicks())).toBe(clicked);
  await stop(page);
  const lanes = (await projectOf(page)).tracks[0]!.lanes.map((lane) => lane.pitch);
  const seen = (await keysSeen(page)).filter(({ code }) => /^Key[AWS]$/.test(code));
  expect(seen).toHaveLength(8);
  const { notes } = await partOf(page, "drums");
  const wanted = seen
    .map(({ code, tick }) => {
      const inLoop = Math.round(tick!) % total;
      const start = total - inLoop <= 120 ? inLoop - total : inLoop;
      return [start, lanes[["KeyA", "KeyW", "KeyS"].indexOf(code)]];
    })
    .sort((a, b) => a[0]! - b[0]!);
  // The latency rule: the tick that was heard when the key went down, to a tick of rounding.
  expect(notes.map((note) => note.pitch)).toEqual(wanted.map(([, pitch]) => pitch));
  notes.forEach((note, i) => expect(Math.abs(note.start - wanted[i]![0]!)).toBeLessThanOrEqual(1));

  // Each loop is one step; undone and redone, and there after a reload.
  await page.getByRole("button", { name: /^Undo/ }).click();
  expect((await partOf(page, "drums")).notes).toHaveLength(6);
  await page.getByRole("button", { name: /^Redo/ }).click();
  expect((await partOf(page, "drums")).notes).toHaveLength(8);
  await saved(page);
  await page.reload();
  await page.waitForFunction(() => window.hailstep !== undefined);
  await expect.poll(async () => (await partOf(page, "drums")).notes.length).toBe(8);
});

test("count-in: a bar of clicks and nothing else, the beat shown large, recording from bar one", async ({
  page,
}) => {
  await openCopy(page, "Breakwater");
  const { tempo, metre } = await projectOf(page);
  await page.keyboard.press("Alt+r");
  await expect(page.getByTestId("count-in")).toBeVisible();
  await expect(page.getByTestId("count-in")).toContainText(/[1-9]/);
  // Played while it counts, more than half a beat before bar one: remembered, not recorded.
  await page.keyboard.press(";");
  await page.keyboard.press("a");
  const before = (await partOf(page, (await projectOf(page)).tracks[0]!.id)).notes.length;
  await page.waitForFunction(() => (window.hailstep!.position()?.tick ?? -1) >= 300);
  await expect(page.getByTestId("count-in")).toHaveCount(0);
  const clicks = await page.evaluate(() => [...window.hailstep!.lastClicks()]);
  const counted = clicks.filter((click) => click.countIn);
  const beat = (60 / tempo) * (4 / metre.unit);
  expect(counted.length * beat).toBeCloseTo((60 / tempo) * 4 * (metre.beats / metre.unit), 3);
  counted.slice(1).forEach((click, i) => {
    expect(click.due - counted[i]!.due).toBeCloseTo(beat, 3);
    expect(click.tick).toBeLessThan(0);
  });
  // The first note sounds one beat after the last click of the count-in.
  const first = (await page.evaluate(() => window.hailstep!.sent()))[0]!;
  expect(first.tick).toBe(0);
  expect(first.due - counted.at(-1)!.due).toBeCloseTo(beat, 2);
  expect((await partOf(page, (await projectOf(page)).tracks[0]!.id)).notes).toHaveLength(before);
  expect((await playedNotes(page)).length).toBe(1);
  expect((await playedNotes(page))[0]!.loop!.tick).toBeLessThan(-480);
  // Space ends the loop and the recording with it.
  await page.keyboard.press("Space");
  await expect(page.getByRole("button", { name: "Record", exact: true })).toBeVisible();
});

test("replace clears what is played over, overdub adds, and a loop is undone while it goes on", async ({
  page,
}) => {
  await openNew(page);
  await takeBass(page);
  await setRecording(page, "Count-in", "None");
  await page.keyboard.press(";");
  await page.keyboard.press("Alt+r");
  await waitTicks(page, 500);
  await hold(page, "a", 300);
  await waitTicks(page, 900);
  await hold(page, "s", 300);
  await page.keyboard.press("Alt+r");
  expect((await partOf(page, "bass")).notes).toHaveLength(2);
  for (const { length } of (await partOf(page, "bass")).notes) {
    expect(length).toBeGreaterThan(200);
    expect(length).toBeLessThan(900);
  }
  await setRecording(page, "Recording", "Replace");
  const total = (await partOf(page, "bass")).length;
  // From the next loop's beginning, one other note.
  const turn = await page.evaluate(() => window.hailstep!.position()!.tick);
  const next = Math.ceil(turn / total) * total;
  await page.waitForFunction((t) => window.hailstep!.position()!.tick > t + 50, next);
  await page.keyboard.press("Alt+r");
  await hold(page, "f", 200);
  await page.waitForFunction((t) => window.hailstep!.position()!.tick > t, next + total + 100);
  await page.keyboard.press("Alt+r");
  const after = (await partOf(page, "bass")).notes;
  expect(after).toHaveLength(1);
  await page.keyboard.press("Alt+r");
  await hold(page, "g", 150);
  await page.keyboard.press("Alt+u");
  await expect(page.getByRole("button", { name: "Stop recording" })).toBeVisible();
  await stop(page);
  expect((await partOf(page, "bass")).notes.map((note) => note.id)).toEqual(after.map((n) => n.id));
});

test("what was played without recording: a stretch is heard, put in, another thrown away, after a reload too", async ({
  page,
}) => {
  await openNew(page);
  await takeBass(page);
  await page.keyboard.press(";");
  await play(page);
  await waitTicks(page, 200);
  await hold(page, "a");
  await hold(page, "d");
  const total = (await partOf(page, "bass")).length;
  await page.waitForFunction((t) => window.hailstep!.position()!.tick > t + 400, total);
  await hold(page, "g");
  await stop(page);
  expect((await partOf(page, "bass")).notes).toEqual([]);
  const strip = page.getByTestId("played-strip");
  await expect(strip).toHaveAccessibleName("What was played: 2 loops");
  // It is there after a reload.
  await expect
    .poll(async () =>
      page.evaluate(
        () =>
          new Promise<number>((done) => {
            const open = indexedDB.open("hailstep-played");
            open.onsuccess = () => {
              const all = open.result.transaction("notes").objectStore("notes").getAll();
              all.onsuccess = () => done(all.result.filter((n: PlayedNote) => n.length).length);
            };
          }),
      ),
    )
    .toBe(3);
  await page.reload();
  await expect(strip).toHaveAccessibleName("What was played: 2 loops");
  // The first loop, by key: heard over the loop, then put where it was played.
  await strip.focus();
  await page.keyboard.press("Home");
  const tools = page.getByRole("toolbar", { name: "The selected stretch" });
  await expect(tools.getByText("2 notes")).toBeVisible();
  await tools.getByRole("button", { name: "Hear over the loop" }).click();
  await expect.poll(() => page.evaluate(() => window.hailstep!.preview()?.length)).toBe(2);
  expect((await partOf(page, "bass")).notes).toEqual([]);
  await page.keyboard.press("Escape");
  await stop(page);
  await strip.focus();
  await page.keyboard.press("Home");
  await tools.getByRole("button", { name: "Put where it was played" }).click();
  const known = await playedNotes(page);
  const { notes } = await partOf(page, "bass");
  expect(notes.map((n) => n.id)).toEqual(known.slice(0, 2).map((n) => n.id));
  notes.forEach((note, i) => expect(note.start).toBe(Math.round(known[i]!.loop!.tick)));
  // The second loop, by pointer: thrown away.
  const box = (await strip.boundingBox())!;
  await strip.focus();
  await page.keyboard.press("End");
  await tools.getByRole("button", { name: "Throw away" }).click();
  await expect(strip).toHaveAccessibleName("What was played: 1 loop");
  // A stretch dragged over with the pointer takes what begins in it.
  await page.mouse.move(box.x + 2, box.y + 10);
  await page.mouse.down();
  await page.mouse.move(box.x + 400, box.y + 20, { steps: 4 });
  await page.mouse.up();
  await expect(tools.getByText("2 notes")).toBeVisible();
  // Dragged onto the kit they are hits of its lanes, at the caret.
  const sheet = (await page.getByTestId("sheet").boundingBox())!;
  await page.getByTestId("played-range").dragTo(page.getByTestId("sheet"), {
    targetPosition: { x: sheet.width / 2, y: 80 },
  });
  await expect.poll(async () => (await partOf(page, "drums")).notes.length).toBe(2);
});

test("one key keeps the last loop; without the loop the first note lies on the beat", async ({
  page,
}) => {
  await openNew(page);
  await takeBass(page);
  await page.keyboard.press(";");
  for (const key of ["a", "s", "d"]) {
    await page.keyboard.down(key);
    await page.waitForFunction(
      () => window.hailstep!.live().started > window.hailstep!.live().ended,
    );
    await page.keyboard.up(key);
  }
  await expect.poll(async () => (await live(page)).ended).toBe(3);
  await page.keyboard.press("Alt+t");
  const { notes } = await partOf(page, "bass");
  expect(notes).toHaveLength(3);
  expect(notes[0]!.start).toBe(0);
  expect(await page.getByRole("button", { name: /^Undo/ }).getAttribute("title")).toContain(
    "Keep what was played",
  );
});

test("keys sound as long as they are held: over a change of track, and let go when the window is lost", async ({
  page,
}) => {
  await openNew(page);
  await takeBass(page);
  await page.keyboard.press(";");
  await page.keyboard.down("a");
  await expect.poll(async () => (await live(page)).started).toBe(1);
  const lit = page.locator("[data-pitch].lit, [data-pitch] .lit");
  await expect(lit).toHaveCount(1);
  await page.keyboard.press("p");
  await page.getByRole("button", { name: "Kick", exact: true }).click();
  await page.keyboard.down("w");
  await expect.poll(async () => (await live(page)).started).toBeGreaterThanOrEqual(2);
  expect((await live(page)).ended).toBeLessThan((await live(page)).started);
  await page.keyboard.up("a");
  const { notes } = await live(page);
  expect(notes[0]!.track).toBe("bass");
  expect(notes.at(-1)!.track).toBe("drums");
  // The key of the kit is still down when the window loses the keyboard.
  await page.evaluate(() => window.dispatchEvent(new Event("blur")));
  const after = await live(page);
  expect(after.ended).toBe(after.started);
  await page.keyboard.up("w");
  expect((await live(page)).ended).toBe(after.started);
  const played = await playedNotes(page);
  expect(played.every((note) => note.length !== null)).toBe(true);
});

test("rows of the scale: no key is wrong, the chord's tones are marked and change with the loop", async ({
  page,
}) => {
  await openCopy(page, "Slack Water");
  await takeBass(page);
  await page.keyboard.press(";");
  await page.keyboard.press("[");
  const rows = page.getByRole("group", { name: "Rows of the scale" });
  await expect(rows).toBeVisible();
  const dorian = [2, 4, 5, 7, 9, 11, 0];
  const pitches = await rows
    .locator("[data-pitch]")
    .evaluateAll((keys) => keys.map((key) => Number((key as HTMLElement).dataset.pitch)));
  expect(pitches.length).toBeGreaterThan(30);
  expect(pitches.every((pitch) => dorian.includes(pitch % 12))).toBe(true);
  const tones = () =>
    rows
      .locator("[data-tone]")
      .evaluateAll((keys) =>
        [...new Set(keys.map((k) => Number((k as HTMLElement).dataset.pitch) % 12))].sort(
          (a, b) => a - b,
        ),
      );
  // Dm7 at the caret, then Em while the loop is there.
  expect(await tones()).toEqual([0, 2, 5, 9]);
  await play(page);
  await page.waitForFunction(() => (window.hailstep!.position()?.tick ?? 0) > 2100);
  await expect(page.getByTestId("chord-now")).toContainText("Em");
  expect(await tones()).toEqual([4, 7, 11]);
  await stop(page);
  await page.keyboard.press("z");
  await page.keyboard.press("q");
  const played = await playedNotes(page);
  expect(played.map(({ pitch }) => dorian.includes(pitch % 12))).toEqual([true, true]);
});

test("the simulated controller plays a file in, note for note, and its wheel bends", async ({
  page,
}) => {
  await openNew(page);
  await takeBass(page);
  const bass = { pattern: "a", track: "bass" };
  const line = [0, 480, 720, 960, 1440].map((start, i) =>
    makeNote({ id: `f${i}`, start, length: 200 + 10 * i, pitch: 50 + i, velocity: 60 + 10 * i }),
  );
  const file = edits.setNotes(createProject({ bars: 1 }), bass, line);
  await page.getByRole("button", { name: "MIDI devices" }).click();
  const inputs = page.getByRole("list", { name: "MIDI inputs" });
  await expect(inputs.getByText("Simulated controller")).toBeVisible();
  await page.getByRole("button", { name: "Open the simulated controller" }).click();
  await page.keyboard.press("Escape");
  await setRecording(page, "Count-in", "None");
  await page.keyboard.press("Alt+r");
  await waitTicks(page, 300);
  await page.getByLabel("MIDI file to play").setInputFiles({
    name: "line.mid",
    mimeType: "audio/midi",
    buffer: Buffer.from(writeSmf(file)),
  });
  await expect.poll(async () => (await partOf(page, "bass")).notes.length).toBe(5);
  await expect(page.getByRole("button", { name: "Play a MIDI file" })).toBeVisible();
  const { notes } = await partOf(page, "bass");
  expect(notes.map(({ pitch, velocity }) => [pitch, velocity])).toEqual(
    line.map(({ pitch, velocity }) => [pitch, velocity]),
  );
  // Its times are those of its messages: gaps and lengths as in the file, at 120 BPM.
  const ms = (ticks: number) => (ticks * 500) / 960;
  const heard = await playedNotes(page);
  heard.forEach((note, i) => {
    expect(note.at - heard[0]!.at).toBeCloseTo(ms(line[i]!.start), 1);
    expect(note.length).toBeCloseTo(ms(line[i]!.length), 1);
  });
  // And it is written where the loop was for the ear at these times, whatever the sound card did.
  expect(notes.map(({ start, length }) => [start, length])).toEqual(
    heard.map(({ loop, ticks }) => [Math.round(loop!.tick), Math.round(ticks!)]),
  );

  // Its wheel, while recording: a curve of the part, let go at the end.
  const wheel = page.getByRole("slider", { name: "Controller bend" });
  const box = (await wheel.boundingBox())!;
  await page.mouse.move(box.x + box.width / 2, box.y + 8);
  await page.mouse.down();
  await page.mouse.move(box.x + box.width - 6, box.y + 8, { steps: 12 });
  await waitTicks(page, 300);
  await page.mouse.up();
  await waitTicks(page, 300);
  await stop(page);
  const { bend } = await partOf(page, "bass");
  expect(Math.max(...bend!.map(({ value }) => value))).toBeGreaterThan(7000);
  expect(bend!.at(-1)!.value).toBe(0);
  await saved(page);
  await page.reload();
  await page.waitForFunction(() => window.hailstep !== undefined);
  expect((await partOf(page, "bass")).bend).toEqual(bend);
  // And what is no MIDI file is refused with a reason.
  await page.getByRole("button", { name: "MIDI devices" }).click();
  await page.getByRole("button", { name: "Open the simulated controller" }).click();
  await page.keyboard.press("Escape");
  await page.getByLabel("MIDI file to play").setInputFiles({
    name: "words.mid",
    mimeType: "audio/midi",
    buffer: Buffer.from("no music"),
  });
  await expect(page.getByText(/“words.mid” not played/)).toBeVisible();
});

test("a MIDI keyboard enters steps and taps as the computer's keys do; without permission that is said", async ({
  page,
}) => {
  await openNew(page);
  await takeBass(page);
  await page.waitForFunction(() => window.hailstep?.controller !== undefined);
  await page.keyboard.press("i");
  await page.evaluate(() => {
    const { controller } = window.hailstep!;
    for (const pitch of [50, 57]) controller!.press(pitch, 33);
    for (const pitch of [50, 57]) controller!.lift(pitch);
    controller!.press(53, 101);
    controller!.lift(53);
  });
  await expect.poll(async () => (await partOf(page, "bass")).notes.length).toBe(3);
  expect(
    (await partOf(page, "bass")).notes.map((n) => [n.start, n.length, n.pitch, n.velocity]),
  ).toEqual([
    [0, 480, 50, 33],
    [0, 480, 57, 33],
    [480, 480, 53, 101],
  ]);
  await page.keyboard.press("Escape");
  await page.getByRole("button", { name: "MIDI devices" }).click();
  await page.getByRole("button", { name: "Look for MIDI devices" }).click();
  // The browser of these tests allows none.
  await expect(page.getByRole("dialog").getByRole("alert")).toContainText(
    /does not allow MIDI|has no Web MIDI/,
  );
  // Another channel than the controller's is not listened to.
  const channel = page.getByRole("spinbutton", { name: "MIDI channel" });
  await channel.fill("5");
  await channel.press("Enter");
  await page.evaluate(() => window.hailstep!.controller!.press(60, 90));
  expect(await playedNotes(page)).toHaveLength(3);
});

test("devices plugged in and pulled out are listed, heard, and let go of", async ({ page }) => {
  // Web MIDI (W3C): what of it is spoken to, with an input that comes and goes.
  await page.addInitScript(() => {
    class Input extends EventTarget {
      id = "in-1";
      name = "Dock keys";
      manufacturer = "";
      type = "input";
      version = "1";
      state = "connected";
      connection = "open";
      onmidimessage: ((event: Event) => void) | null = null;
      open = () => Promise.resolve(this);
      close = () => Promise.resolve(this);
      say(...bytes: number[]) {
        const event = Object.assign(new Event("midimessage"), { data: Uint8Array.from(bytes) });
        this.onmidimessage?.(event);
      }
    }
    const port = new Input();
    const access = Object.assign(new EventTarget(), {
      inputs: new Map<string, Input>(),
      outputs: new Map<string, never>(),
      sysexEnabled: false,
      onstatechange: null as ((event: Event) => void) | null,
    });
    const set = (state: "connected" | "disconnected") => {
      port.state = state;
      // A port that was open when it went waits to be opened again (“pending”).
      port.connection = state === "connected" ? "open" : "pending";
      if (state === "connected") access.inputs.set(port.id, port);
      else access.inputs.delete(port.id);
      const event = Object.assign(new Event("statechange"), { port });
      access.onstatechange?.(event);
      access.dispatchEvent(event);
    };
    Object.assign(navigator, { requestMIDIAccess: () => Promise.resolve(access) });
    Object.assign(window, { dock: { port, set } });
  });
  const dock = (what: "in" | "out" | number[]) =>
    page.evaluate((asked) => {
      const { port, set } = (
        window as unknown as {
          dock: { port: { say(...bytes: number[]): void }; set(state: string): void };
        }
      ).dock;
      if (asked === "in") set("connected");
      else if (asked === "out") set("disconnected");
      else port.say(...(asked as number[]));
    }, what);
  await openNew(page);
  await takeBass(page);
  await page.getByRole("button", { name: "MIDI devices" }).click();
  const inputs = page.getByRole("list", { name: "MIDI inputs" });
  // Asked for only on wish.
  await dock("in");
  await expect(inputs.getByText("Dock keys")).toHaveCount(0);
  await page.getByRole("button", { name: "Look for MIDI devices" }).click();
  await expect(inputs.getByText("Dock keys")).toBeVisible();
  await dock([0x90, 50, 90]);
  await dock([0x90, 54, 90]);
  await expect(inputs.getByRole("img", { name: "speaks" })).toBeVisible();
  await expect.poll(async () => (await live(page)).started).toBe(2);
  // Pulled out with keys down: nothing goes on.
  await dock("out");
  await expect(inputs.getByText("Dock keys")).toHaveCount(0);
  await expect.poll(async () => (await live(page)).ended).toBe(2);
  await dock("in");
  await expect(inputs.getByText("Dock keys")).toBeVisible();
  await dock([0x90, 57, 90]);
  await dock([0x80, 57, 0]);
  await expect.poll(async () => (await live(page)).ended).toBe(3);
  const played = await playedNotes(page);
  expect(played.map(({ pitch, velocity }) => [pitch, velocity])).toEqual([
    [50, 90],
    [54, 90],
    [57, 90],
  ]);
});

test("a device that is pulled out with keys down leaves nothing sounding", async ({ page }) => {
  await openNew(page);
  await takeBass(page);
  await page.getByRole("button", { name: "MIDI devices" }).click();
  await page.getByRole("button", { name: "Open the simulated controller" }).click();
  await page.keyboard.press("Escape");
  await page.evaluate(() => {
    const { controller } = window.hailstep!;
    controller!.pedal(true);
    for (const pitch of [40, 44, 47]) controller!.press(pitch, 90);
    controller!.wheel(3000);
    controller!.lift(44);
  });
  await expect.poll(async () => (await live(page)).started).toBe(3);
  await page.getByRole("button", { name: "Close the simulated controller" }).click();
  await expect.poll(async () => (await live(page)).ended).toBe(3);
  // Plugged in again it plays as before, its pedal up and its wheel in the middle.
  await page.evaluate(() => {
    window.hailstep!.controller!.press(50, 90);
    window.hailstep!.controller!.lift(50);
  });
  await expect.poll(async () => (await live(page)).ended).toBe(4);
});

test("a take lengthens the part, and tidying it up leaves the take itself as it was", async ({
  page,
}) => {
  await openNew(page);
  await takeBass(page);
  await page.getByRole("button", { name: "Recording and metronome" }).click();
  await page.getByRole("radio", { name: "Take", exact: true }).click();
  await page.getByRole("radio", { name: "None", exact: true }).click();
  await page.keyboard.press("Escape");
  const bars = (await projectOf(page)).patterns[0]!.bars;
  await page.keyboard.press(";");
  await page.keyboard.press("Alt+r");
  await waitTicks(page, 130);
  await hold(page, "a", 200);
  await page.waitForFunction((t) => window.hailstep!.position()!.tick > t, bars * 3840 + 500);
  await hold(page, "s", 200);
  await page.keyboard.press("Alt+r");
  await stop(page);
  const take = (await partOf(page, "bass")).notes;
  expect(take).toHaveLength(2);
  expect((await projectOf(page)).patterns[0]!.bars).toBe(bars + 1);
  await page.keyboard.press("Escape");
  await page.getByRole("button", { name: "Tidy up" }).click();
  await page
    .getByRole("dialog", { name: "Tidy up" })
    .getByRole("button", { name: "Quantize", exact: true })
    .click();
  const strength = page.getByRole("slider", { name: "Quantize: strength" });
  await expect(strength).toHaveValue("70");
  await page.getByRole("button", { name: "Level velocities" }).click();
  await page.getByRole("button", { name: "Delete stray notes" }).click();
  await page
    .getByRole("dialog", { name: "Tidy up" })
    .getByRole("button", { name: "Legato", exact: true })
    .click();
  await page.keyboard.press("Escape");
  const part = await partOf(page, "bass");
  expect(part.notes).toEqual(take);
  expect(part.chain.map((step) => step.transform)).toEqual([
    "quantize",
    "velocity",
    "strays",
    "legato",
  ]);
});

test("latency is measured by tapping along, and said in ms", async ({ page }) => {
  test.setTimeout(60_000);
  await openNew(page);
  await page.getByRole("button", { name: "Recording and metronome" }).click();
  await page.getByRole("button", { name: "Tap along to measure" }).click();
  await expect(page.getByRole("button", { name: "Tap", exact: true })).toBeFocused();
  for (let i = 0; i < 9; i++) {
    await page.keyboard.press("x");
    // Taps as even as the clicks: their distance is the whole of what is measured.
    await page.evaluate(
      (n) =>
        new Promise<void>((done) => {
          const w = window as unknown as { firstTap?: number };
          w.firstTap ??= performance.now();
          const look = () =>
            performance.now() >= w.firstTap! + (n + 1) * 600 ? done() : requestAnimationFrame(look);
          look();
        }),
      i,
    );
  }
  await expect(page.getByText(/\d+ taps, -?[\d.]+ ms in the middle, ±/)).toBeVisible({
    timeout: 15_000,
  });
  const field = page.getByRole("spinbutton", { name: "Input latency" });
  await expect(field).toHaveValue(/-?\d+ ms/);
  // It is kept with this browser, and can be set by hand.
  await field.fill("12");
  await field.press("Enter");
  await page.reload();
  await page.waitForFunction(() => window.hailstep !== undefined);
  await page.getByRole("button", { name: "Recording and metronome" }).click();
  await expect(page.getByRole("spinbutton", { name: "Input latency" })).toHaveValue("12 ms");
});
