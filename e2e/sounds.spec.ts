import { SOUNDS as SOUND_LIST } from "@/audio/sounds";
import { largestStep, powerAt, rms, spectralDistance, spectrum } from "@/audio/listen.test-helper";
import * as edits from "@/core/edits";
import { createProject } from "@/core/score";
import { renderHeld } from "./render";
import {
  expect,
  openNew,
  projectOf,
  play,
  saved,
  sentNotes,
  stop,
  test,
  waitSent,
} from "./fixtures";

/**
 * Melodic sounds, with a pitch in the middle of where each is played. The four there were first keep the loudness
 * they had, so that older projects sound as they did.
 */
const FIRST = ["reed-bass", "glass-keys", "rope-pluck", "wire-lead"];
const SOUNDS: readonly (readonly [id: string, pitch: number, tuned: boolean])[] = [
  ["reed-bass", 40, true],
  ["glass-keys", 60, true],
  ["rope-pluck", 60, true],
  ["wire-lead", 67, true],
  ["keel-bass", 40, true],
  ["winch-bass", 40, true],
  ["attic-upright", 60, true],
  ["wharf-piano", 60, true],
  ["buoy-bell", 67, false],
  ["driftwood", 62, true],
  ["tin-chimes", 79, true],
  ["net-harp", 60, true],
  ["sprung-wire", 60, true],
  ["gull-whistle", 74, true],
  ["pier-square", 67, true],
  ["harbour-mist", 60, true],
  ["low-tide", 57, true],
  ["lantern-choir", 60, true],
  ["sail-strings", 62, true],
  ["fog-flute", 72, true],
  ["tug-horn", 55, true],
  ["chapel-pipes", 60, true],
  ["squeezebox", 62, true],
  ["sounding", 67, true],
  ["spray", 67, false],
];

test("every melodic sound is in tune, about as loud as the others, louder and brighter when played harder", async ({
  page,
}) => {
  test.setTimeout(240_000);
  await openNew(page);
  const all: number[] = [];
  const problems: string[] = [];
  for (const [sound, centre, tuned] of SOUNDS) {
    const found = await page.evaluate(
      async ({ sound, centre, tuned }) => {
        const { bounceHeld, loudness, project } = window.hailstep!;
        const now = project();
        const one = {
          ...now,
          tracks: now.tracks.map((t) => (t.id === "bass" ? { ...t, sound, level: 0 } : t)),
        };
        const render = (pitch: number, velocity: number, to = 1.2, seconds = 1.6) =>
          bounceHeld(one, { track: "bass", notes: [{ pitch, velocity, from: 0, to }], seconds });
        /**
         * Cents from a frequency of what sounds about it, by the middle of the power there: waves a hair apart,
         * and a vibrato, lie evenly to both sides. A second through a Hann window.
         */
        const centsFrom = (b: AudioBuffer, near: number) => {
          const from = Math.round(0.02 * b.sampleRate);
          const samples = b.getChannelData(0).subarray(from, from + b.sampleRate);
          const n = samples.length;
          const power = (hz: number) => {
            const w = (2 * Math.PI * hz) / b.sampleRate;
            const c = 2 * Math.cos(w);
            let [s1, s2] = [0, 0];
            for (let i = 0; i < n; i++) {
              const hann = 0.5 - 0.5 * Math.cos((2 * Math.PI * i) / n);
              const s0 = samples[i]! * hann + c * s1 - s2;
              [s2, s1] = [s1, s0];
            }
            return s1 * s1 + s2 * s2 - c * s1 * s2;
          };
          let [sum, weight] = [0, 0];
          for (let cents = -60; cents <= 60; cents += 4) {
            const p = power(near * 2 ** (cents / 1200));
            sum += cents * p;
            weight += p;
          }
          return Math.abs(sum / weight);
        };
        /** Where half of the sound's differences lie: how bright it is. */
        const bright = (b: AudioBuffer) => {
          const samples = b.getChannelData(0);
          let [steps, level] = [0, 0];
          for (let i = 1; i < 0.5 * b.sampleRate; i++) {
            steps += (samples[i]! - samples[i - 1]!) ** 2;
            level += samples[i]! ** 2;
          }
          return Math.sqrt(steps / level);
        };
        const lufs = (b: AudioBuffer) =>
          loudness([b.getChannelData(0), b.getChannelData(1)], b.sampleRate);
        const cents: number[] = [];
        const heard: number[] = [];
        for (const pitch of [centre - 7, centre, centre + 7]) {
          const buffer = await render(pitch, 96);
          const want = 440 * 2 ** ((pitch - 69) / 12);
          if (tuned) cents.push(centsFrom(buffer, want));
          heard.push(lufs(buffer));
        }
        const [soft, hard] = [await render(centre, 40), await render(centre, 120)];
        const long = await render(centre, 110, 0.5, 12);
        const samples = long.getChannelData(0);
        let [dc, last, peak] = [0, 0, 0];
        samples.forEach((s, i) => {
          dc += s / samples.length;
          peak = Math.max(peak, Math.abs(s));
          if (i > 10.5 * long.sampleRate) last = Math.max(last, Math.abs(s));
        });
        return {
          cents: Math.max(0, ...cents),
          heard: heard.reduce((sum, l) => sum + l, 0) / heard.length,
          louder: lufs(hard) - lufs(soft),
          brighter: bright(hard) / bright(soft),
          dc: 20 * Math.log10(Math.abs(dc) + 1e-12),
          last,
          peak,
        };
      },
      { sound, centre, tuned },
    );
    const told = `${sound} ${JSON.stringify(found)}`;
    const wrong = [
      // Equal temperament, A4 = 440 Hz (ISO 16).
      found.cents >= 3 && "out of tune",
      found.louder <= 6 && "not louder",
      found.brighter <= 1.002 && "not brighter",
      found.dc >= -60 && "off the middle",
      // Ten seconds after its end it is silent.
      found.last >= 0.0005 && "not silent",
      found.peak >= 0.95 && "too near to the limit",
    ].filter(Boolean);
    if (wrong.length > 0) problems.push(`${wrong.join(", ")}: ${told}`);
    if (!FIRST.includes(sound)) all.push(found.heard);
  }
  expect(problems).toEqual([]);
  // Loudness by ITU-R BS.1770, at velocity 96, a bass's and a flute's alike.
  const middle = [...all].sort((a, b) => a - b)[all.length >> 1]!;
  all.forEach((lufs, i) =>
    expect(Math.abs(lufs - middle), `${SOUNDS[i + FIRST.length]![0]} ${lufs}`).toBeLessThan(2),
  );
});

test("a sound is found by how it sounds, heard in the loop before it is chosen, and changes no note", async ({
  page,
}) => {
  await openNew(page);
  await page.getByText("Reed bass", { exact: true }).first().click();
  await page.keyboard.press("Enter");
  await page.getByRole("tab", { name: "Sound" }).click();
  await play(page);
  await waitSent(page, 1);
  const before = await projectOf(page);
  const find = page.getByRole("searchbox", { name: "Find a sound" });
  await find.fill("bell water");
  const bell = page.getByRole("radio", { name: /^Buoy bell/ });
  await expect(page.getByRole("radio", { name: /^Reed bass/ })).toHaveCount(0);
  await bell.hover();
  await expect(page.locator("[data-sound=buoy-bell][data-previewed]")).toBeVisible();
  // The loop goes on, and nothing of the project has changed.
  await page.evaluate(() => window.hailstep!.clear());
  await waitSent(page, 1);
  expect(await projectOf(page)).toEqual(before);
  await page.mouse.move(300, 300);
  await expect(page.locator("[data-previewed]")).toHaveCount(0);
  await find.fill("nothing of the kind");
  await expect(page.getByText("No matching sound")).toBeVisible();
  // By key: the arrows hear one after another, escape leaves it, enter takes it.
  await find.fill("bell");
  await find.press("ArrowDown");
  await expect(page.locator("[data-sound=buoy-bell][data-previewed]")).toBeVisible();
  expect(await projectOf(page)).toEqual(before);
  await find.press("Escape");
  await expect(page.locator("[data-previewed]")).toHaveCount(0);
  await find.fill("bell");
  await bell.click();
  const after = await projectOf(page);
  expect(after.tracks[1]!.sound).toBe("buoy-bell");
  expect(after.patterns).toEqual(before.patterns);
  expect((await sentNotes(page)).every((note) => !note.late)).toBe(true);
  await stop(page);
  // Next and previous by key; one undo step for a run of them.
  await page.getByTestId("sheet").focus();
  await page.keyboard.press("Shift+K");
  expect((await projectOf(page)).tracks[1]!.sound).toBe("driftwood");
  await page.keyboard.press("Shift+J");
  expect((await projectOf(page)).tracks[1]!.sound).toBe("buoy-bell");
  await saved(page);
  await page.reload();
  await page.waitForFunction(() => window.hailstep !== undefined);
  expect((await projectOf(page)).tracks[1]!.sound).toBe("buoy-bell");
});

test("no two sounds and no two kits lie nearer than what is told apart", async ({ page }) => {
  test.setTimeout(120_000);
  await openNew(page);
  const far = (list: readonly { id: string; heard: number[] }[]) =>
    list.flatMap((a, i) =>
      list.slice(i + 1).map((b) => ({
        pair: `${a.id} ${b.id}`,
        apart: spectralDistance(a.heard, b.heard),
      })),
    );
  const melodic: { id: string; heard: number[] }[] = [];
  for (const { id } of SOUND_LIST.filter(({ kind }) => kind === "melody")) {
    const project = edits.changeTrack(createProject(), "bass", { sound: id });
    const { left, rate } = await renderHeld(
      page,
      project,
      "bass",
      [{ pitch: 60, velocity: 100, from: 0, to: 0.8 }],
      1,
    );
    melodic.push({ id, heard: spectrum(left, rate) });
  }
  const near = far(melodic).sort((a, b) => a.apart - b.apart);
  expect(melodic.length).toBeGreaterThanOrEqual(25);
  // Three decibels in the mean, over 25 bands and three stretches of time.
  expect(near[0]!.apart, JSON.stringify(near.slice(0, 5))).toBeGreaterThan(3);

  const kits: { id: string; heard: number[] }[] = [];
  for (const { id } of SOUND_LIST.filter(({ kind }) => kind === "drums")) {
    const project = edits.changeTrack(createProject(), "drums", { sound: id });
    const pads = [];
    for (const pitch of [36, 38, 42, 46, 45]) {
      const hit = [{ pitch, velocity: 110, from: 0, to: 0.1 }];
      const { left, rate } = await renderHeld(page, project, "drums", hit, 1);
      pads.push(spectrum(left, rate));
    }
    kits.push({ id, heard: pads.flat() });
  }
  const nearKits = far(kits).sort((a, b) => a.apart - b.apart);
  expect(kits.length).toBeGreaterThanOrEqual(8);
  // Five pads each: five decibels in the mean.
  expect(nearKits[0]!.apart, JSON.stringify(nearKits.slice(0, 5))).toBeGreaterThan(5);
});

test("a sound that is swapped while it plays leaves no gap, and a kit is heard before it is chosen", async ({
  page,
}) => {
  await openNew(page);
  const organ = edits.changeTrack(createProject(), "bass", { sound: "chapel-pipes" });
  const notes = [{ pitch: 57, velocity: 100, from: 0, to: 1.5 }];
  const flute = edits.changeTrack(organ, "bass", { sound: "fog-flute" });
  const whole = await renderHeld(page, organ, "bass", notes, 2);
  const swapped = await renderHeld(page, organ, "bass", notes, 2, [{ at: 0.7, project: flute }]);
  // What was asked of the first sounds to its end, sample for sample.
  expect(rms(swapped.left, swapped.rate, 0.7, 1.5)).toBeGreaterThan(0.01);
  let off = 0;
  for (let i = 0; i < 1.5 * whole.rate; i++)
    off = Math.max(off, Math.abs(whole.left[i]! - swapped.left[i]!));
  expect(off).toBeLessThan(1e-6);

  await page.getByRole("button", { name: "Kick", exact: true }).first().click();
  await page.getByTestId("sheet").focus();
  await page.keyboard.press("Enter");
  await page.getByRole("tab", { name: "Sound" }).click();
  await play(page);
  await waitSent(page, 1);
  const before = await projectOf(page);
  await page.getByRole("button", { name: "Try all kits" }).click();
  await page.locator("[data-sound=pebble]").hover();
  await expect(page.locator("[data-sound=pebble][data-previewed]")).toBeVisible();
  await page.evaluate(() => window.hailstep!.clear());
  await waitSent(page, 2);
  expect(await projectOf(page)).toEqual(before);
  await page.locator("[data-sound=pebble]").click();
  const after = await projectOf(page);
  expect(after.tracks[0]!.sound).toBe("pebble");
  expect(after.patterns).toEqual(before.patterns);
  expect((await sentNotes(page)).every((note) => !note.late)).toBe(true);
  await stop(page);
});

test("a glide takes a line from note to note, and a chord of hundreds gives way without a click", async ({
  page,
}) => {
  await openNew(page);
  const line = edits.shapeSound(
    edits.changeTrack(createProject(), "bass", { sound: "pier-square" }),
    "bass",
    { glide: 300 },
  );
  // The second begins before the first has ended.
  const notes = [
    { pitch: 57, velocity: 100, from: 0, to: 0.7 },
    { pitch: 69, velocity: 100, from: 0.6, to: 1.6 },
  ];
  const { left, rate } = await renderHeld(page, line, "bass", notes, 1.8);
  const power = (hz: number, from: number, to: number) =>
    powerAt(left.subarray(Math.round(from * rate), Math.round(to * rate)), rate, hz);
  // Half way, in time, it is half way, in octaves: 220 to 440 Hz.
  expect(power(311, 0.7, 0.8)).toBeGreaterThan(4 * power(220, 0.7, 0.8));
  expect(power(311, 0.7, 0.8)).toBeGreaterThan(4 * power(440, 0.7, 0.8));
  // There in 300 ms, and the first has given way.
  expect(power(440, 1, 1.5)).toBeGreaterThan(1000 * power(220, 1, 1.5));
  // Apart, each begins at its own pitch.
  const apart = [notes[0]!, { ...notes[1]!, from: 0.8 }];
  const two = await renderHeld(page, line, "bass", apart, 1.8);
  const at = two.left.subarray(Math.round(0.82 * rate), Math.round(0.95 * rate));
  expect(powerAt(at, rate, 440)).toBeGreaterThan(20 * powerAt(at, rate, 311));

  const many = Array.from({ length: 400 }, (_, i) => ({
    pitch: 30 + (i % 60),
    velocity: 30,
    from: 0.2 + i * 0.002,
    to: 2,
  }));
  const pad = edits.changeTrack(createProject(), "bass", { sound: "low-tide", level: -24 });
  const crowd = await renderHeld(page, pad, "bass", many, 2.5);
  const usual = largestStep(crowd.left, rate, 1.4, 1.9);
  expect(largestStep(crowd.left, rate, 0.3, 1.2) / usual).toBeLessThan(1.6);
  expect(rms(crowd.left, rate, 1.2, 1.9)).toBeGreaterThan(1e-3);
});
