import { describe, expect, it } from "vitest";
import * as edits from "@/core/edits";
import { ticksToMs } from "@/core/time";
import { pitchHz } from "@/core/pitch";
import { type Project, createProject, makeNote } from "@/core/score";
import { playbackEvents } from "@/core/playback";
import { programOf, soundOfProgram as soundOfProgram } from "@/core/formats";
import { biquad, noise, render } from "./dsp";
import { limit } from "./limiter";
import { pluckedString } from "./melodic/rope-pluck";
import { SentNotes } from "./record";
import { Scheduler, type Due } from "./scheduler";
import { SOUNDS, soundOf } from "./sounds";

const BASS = { pattern: "a", track: "bass" };
const sixteenths = (project: Project) =>
  edits.setNotes(
    project,
    BASS,
    Array.from({ length: 16 }, (_, i) => makeNote({ id: `n${i}`, start: i * 240 })),
  );

/** Runs a scheduler as the engine does, waking every `step` seconds from `from` to `to`. */
function run(
  scheduler: Scheduler,
  project: () => Project,
  from: number,
  to: number,
  step = 0.025,
): Due[] {
  const found: Due[] = [];
  for (let now = from; now <= to; now += step) found.push(...scheduler.due(project(), now + 0.2));
  return found;
}

describe("the scheduler", () => {
  it("hands over what playbackEvents says, when the tempo says", () => {
    const project = sixteenths(createProject({ tempo: 84, bars: 1 }));
    const scheduler = new Scheduler();
    scheduler.start(project, "a", 10);
    const found = run(scheduler, () => project, 10, 16);
    const expected = playbackEvents(project, 0, 99_999, { pattern: "a" });
    found.forEach((due, i) => {
      expect(due.event).toEqual(expected[i]);
      expect(due.time).toBeCloseTo(10 + ticksToMs(expected[i]!.start, 84) / 1000, 9);
    });
    expect(found.length).toBeGreaterThan(30);
  });

  it("gives the same however seldom it is woken", () => {
    const project = sixteenths(createProject({ bars: 1 }));
    const times = [0.01, 0.025, 0.17].map((step) => {
      const scheduler = new Scheduler();
      scheduler.start(project, "a", 0);
      return run(scheduler, () => project, 0, 3, step)
        .map((due) => due.time)
        .slice(0, 20);
    });
    expect(times[1]).toEqual(times[0]);
    expect(times[2]).toEqual(times[0]);
  });

  it("changes tempo without a gap or a jump", () => {
    let project = sixteenths(createProject({ tempo: 120, bars: 1 }));
    const scheduler = new Scheduler();
    scheduler.start(project, "a", 0);
    const before = run(scheduler, () => project, 0, 1);
    project = edits.setTempo(project, 90);
    const after = run(scheduler, () => project, 1.025, 3);
    const all = [...before, ...after];
    all.forEach((due, i) => expect(due.tick).toBe(i * 240));
    const gaps = all.slice(1).map((due, i) => due.time - all[i]!.time);
    // 1/16 lasts 125 ms at 120 BPM and 166.7 ms at 90; the one gap that spans the change lies between.
    expect(gaps.every((gap) => gap > 0.1249 && gap < 0.1668)).toBe(true);
    expect(gaps.filter((gap) => gap > 0.1251 && gap < 0.1665).length).toBeLessThanOrEqual(1);
    expect(gaps.at(-1)).toBeCloseTo(0.16667, 4);
  });

  it("lets an edit be heard in the next window", () => {
    let project = createProject({ bars: 1 });
    const scheduler = new Scheduler();
    scheduler.start(project, "a", 0);
    expect(run(scheduler, () => project, 0, 0.5)).toEqual([]);
    project = sixteenths(project);
    const found = run(scheduler, () => project, 0.525, 1);
    expect(found[0]!.tick).toBeGreaterThanOrEqual(1200);
    expect(found[0]!.tick).toBeLessThan(1920);
  });

  it("switches pattern on the next bar line, from its beginning", () => {
    let project = sixteenths(createProject({ tempo: 120, bars: 1 }));
    project = edits.addPattern(project, "b", "a", "empty");
    project = edits.setNotes(project, { pattern: "b", track: "bass" }, [
      makeNote({ id: "only", start: 480 }),
    ]);
    const scheduler = new Scheduler();
    scheduler.start(project, "a", 0);
    run(scheduler, () => project, 0, 0.5);
    scheduler.switchPattern(project, "b");
    const found = run(scheduler, () => project, 0.525, 4.5);
    const inB = found.filter((due) => due.pattern === "b");
    expect(found.filter((due) => due.pattern === "a").at(-1)!.tick).toBe(3600);
    expect(inB.map((due) => due.tick)).toEqual([3840 + 480, 2 * 3840 + 480]);
    expect(scheduler.position(project, 2.5)).toMatchObject({ pattern: "b" });
    expect(scheduler.position(project, 2.5)!.tick).toBeCloseTo(960, 6);
  });

  it("goes on with the first pattern when the one that plays is removed", () => {
    let project = edits.addPattern(sixteenths(createProject({ bars: 1 })), "b", "a", "empty");
    const scheduler = new Scheduler();
    scheduler.start(project, "b", 0);
    project = edits.deletePattern(project, "b");
    expect(run(scheduler, () => project, 0, 1)[0]!.pattern).toBe("a");
    scheduler.stop();
    expect(scheduler.due(project, 99)).toEqual([]);
    expect(scheduler.position(project, 1)).toBeNull();
  });
});

describe("the record of sent notes", () => {
  const sent = (tick: number, late = false) => ({
    asked: 0,
    due: 0,
    tick,
    patternTick: 0,
    pattern: "a",
    track: "t",
    note: "n",
    pitch: 60,
    velocity: 1,
    ticks: 1,
    glide: null,
    late,
  });
  it("keeps the last ones, oldest first, and counts all", () => {
    const record = new SentNotes(3);
    for (let i = 0; i < 5; i++) record.add(sent(i, i === 1));
    expect(record.list().map((note) => note.tick)).toEqual([2, 3, 4]);
    expect([record.sent, record.late]).toEqual([5, 1]);
    record.clear();
    expect(record.list()).toEqual([]);
  });
});

describe("sounds", () => {
  it("are kits and more than twenty melodic sounds in nine categories, and any track gets one of its kind", () => {
    expect(SOUNDS.filter((sound) => sound.kind === "drums").length).toBeGreaterThanOrEqual(1);
    const melodic = SOUNDS.filter((s) => s.kind === "melody");
    expect(melodic.length).toBeGreaterThanOrEqual(20);
    expect(new Set(melodic.map((s) => s.category)).size).toBe(9);
    for (const field of ["id", "label", "about"] as const) {
      expect(new Set(SOUNDS.map((sound) => sound[field])).size).toBe(SOUNDS.length);
    }
    // Each has a program of its own, and is what that program is played with.
    const programs = melodic.map(({ id }) => programOf(id));
    expect(new Set(programs).size).toBe(melodic.length);
    expect(programs.map(soundOfProgram)).toEqual(melodic.map(({ id }) => id));
    const known = new Set(melodic.map(({ id }) => id));
    for (let program = 0; program < 128; program++) {
      expect(known.has(soundOfProgram(program)), `program ${program}`).toBe(true);
    }
    expect(soundOf({ kind: "melody", sound: "gone" }).kind).toBe("melody");
    expect(soundOf({ kind: "drums", sound: "reed-bass" }).kind).toBe("drums");
  });

  it("tune the plucked string to equal temperament at A4 = 440 Hz", () => {
    // Source: ISO 16 for the pitch. The period is found by autocorrelation over 0.3 s.
    const rate = 44100;
    for (const pitch of [45, 57, 64, 69, 76]) {
      const samples = pluckedString(rate, pitch);
      const period = rate / pitchHz(pitch);
      const similarity = (lag: number) => {
        let sum = 0;
        for (let i = 2000; i < 12_000; i++) {
          const at = i + lag;
          const low = Math.floor(at);
          sum += samples[i]! * (samples[low]! + (at - low) * (samples[low + 1]! - samples[low]!));
        }
        return sum;
      };
      // Over many periods small errors add up to something that can be measured.
      const many = Math.floor(2000 / period);
      let best = 0;
      let at = 0;
      for (let cents = -50; cents <= 50; cents += 1) {
        const lag = many * period * 2 ** (cents / 1200);
        const value = similarity(lag);
        if (value > best) [best, at] = [value, cents];
      }
      expect(Math.abs(at), `pitch ${pitch}`).toBeLessThanOrEqual(6);
    }
  });
});

describe("signal tools", () => {
  it("limit to below full scale and leave quiet signals alone", () => {
    expect(limit(0.5)).toBe(0.5);
    expect(limit(-0.7)).toBe(-0.7);
    for (const x of [0.8, 1, 2, 4, 100]) {
      expect(limit(x)).toBeLessThan(1);
      expect(limit(-x)).toBe(-limit(x));
    }
    // Never turning back, and without a step at the knee.
    for (let i = 1; i <= 4000; i++) {
      expect(limit(i / 1000)).toBeGreaterThanOrEqual(limit((i - 1) / 1000));
      expect(limit(i / 1000) - limit((i - 1) / 1000)).toBeLessThan(0.0011);
    }
  });

  it("filter at −3 dB at the cutoff", () => {
    // Source: R. Bristow-Johnson, Audio EQ Cookbook: at Q = 1/√2 both are 3 dB down at their frequency.
    const rate = 48000;
    for (const kind of ["lowpass", "highpass"] as const) {
      const filter = biquad(kind, rate, 1000, Math.SQRT1_2);
      let energy = 0;
      for (let i = 0; i < rate; i++) {
        const y = filter(Math.sin((2 * Math.PI * 1000 * i) / rate));
        if (i > rate / 2) energy += y * y;
      }
      const db = 10 * Math.log10((2 * energy) / (rate / 2));
      expect(db).toBeCloseTo(-3.01, 1);
    }
  });

  it("render to the peak asked for, with repeatable noise", () => {
    const samples = render(8000, 0.1, 0.5, () => 3);
    expect(Math.max(...samples)).toBeCloseTo(0.5, 6);
    expect([1, 2, 3].map(noise(5))).toEqual([1, 2, 3].map(noise(5)));
  });
});
