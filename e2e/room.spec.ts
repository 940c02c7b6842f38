import * as edits from "@/core/edits";
import { barTicks, tempoTable, ticksToMs } from "@/core/time";
import { type Project, changePart, createProject, makeNote, makeTrack } from "@/core/score";
import { largestStep, reverberationTime, rms } from "@/audio/listen.test-helper";
import { expect, openNew, test } from "./fixtures";
import { renderHeld, renderStretch } from "./render";

const QUIET = -20;

/** A project of a kit and a bass, its parts given notes. */
function playing(notes: Record<string, readonly Parameters<typeof makeNote>[0][]>): Project {
  const project = createProject({ tempo: 120 });
  return Object.entries(notes).reduce(
    (p, [track, list]) =>
      changePart(p, { pattern: "a", track }, (part) => ({
        ...part,
        notes: list.map(makeNote),
      })),
    project,
  );
}

/** What of a sound comes from the room: with it, less what is heard without. */
const less = (with_: Float32Array, without: Float32Array): Float32Array =>
  with_.map((x, i) => x - without[i]!);

test("a reverb dies away in the time asked for, a track's and a pad's alike", async ({ page }) => {
  await openNew(page);
  const hit = [{ pitch: 37, velocity: 127, from: 0.01, to: 0.1 }];
  for (const [decay, size] of [
    [300, 0],
    [500, 40],
    [1800, 20],
    [4000, 100],
  ] as const) {
    // A hit as short as a click.
    const click = edits.changePad(createProject(), "drums", 37, { decay: 8 });
    const dry = edits.changeTrack(edits.changeRoom(click, { decay, size }), "drums", {
      level: QUIET,
    });
    const seconds = decay / 1000 + 0.5;
    const plain = await renderHeld(page, dry, "drums", hit, seconds);
    const sent = [
      edits.changeMix(dry, "drums", { reverb: 0 }),
      edits.changePad(dry, "drums", 37, { reverb: 0 }),
    ];
    for (const project of sent) {
      const heard = await renderHeld(page, project, "drums", hit, seconds);
      const wet = less(heard.left, plain.left);
      const from = Math.round(0.08 * heard.rate);
      const time = reverberationTime(wet.subarray(from), heard.rate);
      expect(Math.abs(time / (decay / 1000) - 1), `${time} for ${decay}`).toBeLessThan(0.1);
    }
    // Another pad goes there not at all.
    const other = edits.changePad(dry, "drums", 38, { reverb: 0 });
    const heard = await renderHeld(page, other, "drums", hit, seconds);
    expect(rms(less(heard.left, plain.left), heard.rate, 0, seconds)).toBeLessThan(1e-6);
  }
});

test("an echo comes back on the sample of its note value, at every tempo, softer each time", async ({
  page,
}) => {
  await openNew(page);
  const hit = [{ pitch: 37, velocity: 127, from: 0, to: 0.1 }];
  for (const [tempo, echoValue] of [
    [84, "1/8."],
    [120, "1/4"],
    [133.7, "1/16T"],
    [97, "1/8T"],
  ] as const) {
    const dry = edits.changeTrack(createProject({ tempo }), "drums", { level: QUIET });
    for (const pingPong of [false, true]) {
      const room = edits.changeRoom(dry, { echoValue, feedback: 50, echoTone: 16_000, pingPong });
      const project = edits.changeMix(room, "drums", { echo: 0 });
      const plain = await renderHeld(page, dry, "drums", hit, 3);
      const heard = await renderHeld(page, project, "drums", hit, 3);
      const wet = { left: less(heard.left, plain.left), right: less(heard.right, plain.right) };
      const { ms } = tempoTable(tempo).find((row) => row.name === echoValue)!;
      const late = Math.round((ms / 1000) * heard.rate);
      /** How far a side, from an echo on, is from what was played. */
      const apart = (side: Float32Array) => {
        let off = 0;
        for (let i = 0; i < 200; i++)
          off = Math.max(off, Math.abs(side[late + i]! - plain.left[i]!));
        return off;
      };
      const loud = plain.left.reduce((m, x) => Math.max(m, Math.abs(x)), 0);
      const first = wet.left.findIndex((x) => Math.abs(x) > 1e-5);
      const played = plain.left.findIndex((x) => Math.abs(x) > 1e-5);
      expect(first, `${tempo} ${echoValue}`).toBe(late + played);
      expect(apart(wet.left)).toBeLessThan(0.01 * loud);
      // Back and forth: the second on the other side alone.
      const at = (side: Float32Array, n: number) =>
        rms(side, heard.rate, (n * ms) / 1000, (n * ms) / 1000 + 0.03);
      if (pingPong) {
        expect(at(wet.right, 1)).toBeLessThan(1e-6);
        expect(at(wet.right, 2)).toBeGreaterThan(20 * at(wet.left, 2));
      } else expect(at(wet.right, 1)).toBeCloseTo(at(wet.left, 1), 5);
      const side = pingPong ? wet.right : wet.left;
      // And the second where the hit lies best, but for the sample or two its tone takes.
      const fits = (lag: number) => {
        let sum = 0;
        for (let i = 0; i < 1500; i++) sum += plain.left[i]! * (side[2 * late + lag + i] ?? 0);
        return sum;
      };
      const lags = Array.from({ length: 401 }, (_, i) => i - 200);
      const lag = lags.reduce((best, one) => (fits(one) > fits(best) ? one : best));
      expect(Math.abs(lag), `second echo ${lag}`).toBeLessThanOrEqual(3);
      const falls = at(side, 2) / at(wet.left, 1);
      expect(falls).toBeGreaterThan(0.35);
      expect(falls).toBeLessThan(0.52);
    }
  }
});

test("a kick presses a track down by the depth asked for, and lets it come back in time", async ({
  page,
}) => {
  await openNew(page);
  const bar = barTicks({ beats: 4, unit: 4 });
  let dry = playing({
    drums: [{ id: "k", start: 960, pitch: 36, velocity: 127 }],
    bass: [{ id: "b", start: 0, length: 2 * bar, pitch: 57, velocity: 100 }],
  });
  dry = edits.changeTrack(dry, "bass", { sound: "chapel-pipes", level: -8 });
  dry = edits.changeTrack(dry, "drums", { level: -60 });
  const plain = await renderStretch(page, dry, 0, 2 * bar, { pattern: "a" });
  const hitAt = ticksToMs(960, 120) / 1000;
  for (const [duckDepth, duckRelease] of [
    [6, 120],
    [12, 300],
    [24, 800],
  ] as const) {
    const ducked = edits.changeMix(dry, "bass", { duckBy: "drums", duckDepth, duckRelease });
    const heard = await renderStretch(page, ducked, 0, 2 * bar, { pattern: "a" });
    const gain = (at: number) =>
      rms(heard.left, heard.rate, at - 0.002, at + 0.002) /
      rms(plain.left, heard.rate, at - 0.002, at + 0.002);
    expect(gain(hitAt - 0.1)).toBeCloseTo(1, 3);
    const deepest = -20 * Math.log10(gain(hitAt + 0.0075));
    expect(Math.abs(deepest - duckDepth), `${deepest} of ${duckDepth}`).toBeLessThan(1);
    // Nine tenths of the way back after the release; measured where that is.
    const floor = 10 ** (-duckDepth / 20);
    const back = floor + 0.9 * (1 - floor);
    let at = hitAt + 0.008;
    while (gain(at) < back && at < hitAt + 2) at += 0.001;
    const took = (at - hitAt) * 1000;
    expect(Math.abs(took / duckRelease - 1), `${took} of ${duckRelease}`).toBeLessThan(0.12);
  }
  // A lane that is not the one named does nothing.
  const other = edits.changeMix(dry, "bass", { duckBy: "drums", duckPad: 38 });
  const heard = await renderStretch(page, other, 0, 2 * bar, { pattern: "a" });
  expect(rms(less(heard.left, plain.left), heard.rate, 0, 4)).toBeLessThan(1e-5);
});

test("the compressor brings soft and loud together and moves no hit; shelves and drive do what they say", async ({
  page,
}) => {
  await openNew(page);
  const track = (sound: string) => edits.changeTrack(createProject(), "bass", { sound, level: -8 });
  const organ = track("chapel-pipes");
  const level = async (project: Project, velocity: number) => {
    const notes = [{ pitch: 57, velocity, from: 0, to: 1.5 }];
    const { left, rate } = await renderHeld(page, project, "bass", notes, 1.5);
    return 20 * Math.log10(rms(left, rate, 0.5, 1.4));
  };
  const apart = async (compress: number) => {
    const project = edits.changeMix(organ, "bass", { compress });
    return (await level(project, 127)) - (await level(project, 40));
  };
  const [none, half, full] = [await apart(0), await apart(50), await apart(100)];
  expect(none).toBeGreaterThan(half! + 2);
  expect(half).toBeGreaterThan(full! + 2);
  // On a hit: it begins on the same sample.
  const hit = [{ pitch: 36, velocity: 120, from: 0.1, to: 0.2 }];
  const kit = edits.changeTrack(createProject(), "drums", { level: -6 });
  const begins = async (compress: number) => {
    const project = edits.changeMix(kit, "drums", { compress });
    const { left } = await renderHeld(page, project, "drums", hit, 0.5);
    return left.findIndex((x) => Math.abs(x) > 1e-4);
  };
  expect(Math.abs((await begins(100)) - (await begins(0)))).toBeLessThanOrEqual(1);
  // Shelves: a low tone by the low one, a high tone by the high one.
  const sine = track("keel-bass");
  const tone = async (pitch: number, mix: Parameters<typeof edits.changeMix>[2]) => {
    const notes = [{ pitch, velocity: 100, from: 0, to: 1 }];
    const { left, rate } = await renderHeld(
      page,
      edits.changeMix(sine, "bass", mix),
      "bass",
      notes,
      1,
    );
    return 20 * Math.log10(rms(left, rate, 0.3, 0.9));
  };
  expect((await tone(28, { low: 9 })) - (await tone(28, {}))).toBeGreaterThan(7);
  expect((await tone(28, { high: 9 })) - (await tone(28, {}))).toBeLessThan(0.3);
  expect((await tone(120, { high: -9 })) - (await tone(120, {}))).toBeLessThan(-6);
  const driven = edits.changeMix(sine, "bass", { drive: 100 });
  const heard = await renderHeld(
    page,
    driven,
    "bass",
    [{ pitch: 45, velocity: 127, from: 0, to: 1 }],
    1,
  );
  const plain = await renderHeld(
    page,
    sine,
    "bass",
    [{ pitch: 45, velocity: 127, from: 0, to: 1 }],
    1,
  );
  const edge = ({ left, rate }: typeof heard) =>
    largestStep(left, rate, 0.3, 0.9) / rms(left, rate, 0.3, 0.9);
  expect(edge(heard)).toBeGreaterThan(1.3 * edge(plain));
});

test("values that change while it sounds make no click", async ({ page }) => {
  test.setTimeout(120_000);
  await openNew(page);
  const track = makeTrack({ id: "bass", kind: "melody", name: "x", sound: "keel-bass", level: -6 });
  const start = { ...createProject(), tracks: [createProject().tracks[0]!, track] };
  const notes = [{ pitch: 40, velocity: 100, from: 0, to: 2 }];
  const changes: readonly [string, (p: Project) => Project][] = [
    ["level", (p) => edits.changeTrack(p, "bass", { level: -18 })],
    ["pan", (p) => edits.changeTrack(p, "bass", { pan: 0.8 })],
    ["low", (p) => edits.changeMix(p, "bass", { low: -12 })],
    ["drive", (p) => edits.changeMix(p, "bass", { drive: 80 })],
    ["compress", (p) => edits.changeMix(p, "bass", { compress: 90 })],
    ["reverb", (p) => edits.changeMix(p, "bass", { reverb: -6 })],
    ["echo", (p) => edits.changeMix(p, "bass", { echo: -6 })],
    ["master", (p) => edits.changeRoom(p, { level: -9 })],
    ["brightness", (p) => edits.shapeSound(p, "bass", { brightness: 70 })],
    ["body", (p) => edits.shapeSound(p, "bass", { body: -60 })],
    ["motion", (p) => edits.shapeSound(p, "bass", { motion: 80 })],
    ["width", (p) => edits.shapeSound(p, "bass", { width: 100 })],
    ["shape drive", (p) => edits.shapeSound(p, "bass", { drive: 70 })],
  ];
  for (const [what, change] of changes) {
    // A bass has no motion.
    const from =
      what === "motion" ? edits.changeTrack(start, "bass", { sound: "chapel-pipes" }) : start;
    const project = change(from);
    const heard = await renderHeld(page, from, "bass", notes, 2, [{ at: 1, project }]);
    const { left, rate } = heard;
    const usual = Math.max(largestStep(left, rate, 0.7, 0.98), largestStep(left, rate, 1.3, 1.9));
    const there = largestStep(left, rate, 0.99, 1.2);
    expect(there / usual, `${what}: ${there} against ${usual}`).toBeLessThan(1.25);
    // And it is heard.
    const before = await renderHeld(page, from, "bass", notes, 2);
    expect(rms(less(left, before.left), rate, 1.2, 1.9), what).toBeGreaterThan(1e-4);
  }
});
