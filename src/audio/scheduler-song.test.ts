import { describe, expect, it } from "vitest";
import { seeded } from "@/core/base";
import * as edits from "@/core/edits";
import { type Project, createProject, makeNote, timeMap } from "@/core/score";
import { Scheduler, type Due } from "./scheduler";

const BAR = 3840;

/** Patterns of one bar, each with a note of its own pitch on every beat; the last in 3/4. */
function project(): Project {
  let made = createProject({ tempo: 120, bars: 1 });
  const beats = (pitch: number, count: number) =>
    Array.from({ length: count }, (_, i) =>
      makeNote({ id: `n${pitch}-${i}`, start: i * 960, length: 200, pitch }),
    );
  made = edits.setNotes(made, { pattern: "a", track: "bass" }, beats(40, 4));
  for (const [id, pitch] of [
    ["b", 50],
    ["c", 60],
  ] as const) {
    made = edits.addPattern(made, id, "a", "empty");
    made = edits.setNotes(made, { pattern: id, track: "bass" }, beats(pitch, id === "c" ? 3 : 4));
  }
  made = edits.setPatternMetre(made, "c", { beats: 3, unit: 4 });
  return {
    ...made,
    song: [
      { id: "s1", pattern: "a", times: 1 },
      { id: "s2", pattern: "b", times: 1, tempo: 60 },
      { id: "s3", pattern: "c", times: 2, tempo: 240 },
    ],
  };
}

/** Wakes it as the engine does, from a time on; `during` may act at each wake. */
function run(
  scheduler: Scheduler,
  now: () => Project,
  from: number,
  to: number,
  during: (time: number) => void = () => undefined,
): Due[] {
  const found: Due[] = [];
  for (let time = from; time < to; time += 0.025) {
    during(time);
    found.push(...scheduler.due(now(), time + 0.22));
  }
  return found;
}
const pitches = (found: readonly Due[]) => found.map((due) => due.event.pitch);

describe("the song, as it is scheduled", () => {
  it("is in time through its sections' own tempos, round after round, however seldom it is asked", () => {
    const made = project();
    const { secondsAt } = timeMap(made);
    for (const step of [0.025, 0.4, 3]) {
      const scheduler = new Scheduler();
      scheduler.start(made, {}, 5);
      const found: Due[] = [];
      for (let time = 5; time < 30; time += step) found.push(...scheduler.due(made, time + 0.22));
      expect(found.length).toBeGreaterThan(40);
      for (const { event, time, tickSeconds } of found) {
        expect(time).toBeCloseTo(5 + secondsAt(event.start), 6);
        const bpm = event.pitch === 40 ? 120 : event.pitch === 50 ? 60 : 240;
        expect(tickSeconds).toBeCloseTo(60 / bpm / 960, 12);
      }
    }
  });

  it("hands over each note once, in whatever steps it is asked, earlier times among them", () => {
    const made = project();
    const all = (untils: readonly number[]) => {
      const scheduler = new Scheduler();
      scheduler.start(made, {}, 5);
      return untils.flatMap((until) =>
        scheduler.due(made, until).map(({ tick, time, event }) => [tick, time, event.pitch]),
      );
    };
    const known = all([20]);
    const random = seeded(3);
    for (let i = 0; i < 100; i++) {
      const untils = Array.from({ length: 40 }, () => 5 + 15 * random());
      // As they come: some ask for less than was handed over already.
      if (i % 2 === 0) untils.sort((a, b) => a - b);
      expect(all([...untils, 20])).toEqual(known);
    }
  });

  it("says where it is: the section, the tick of the song and of the pattern", () => {
    const made = project();
    const scheduler = new Scheduler();
    scheduler.start(made, {}, 0);
    run(scheduler, () => made, 0, 8);
    // Two seconds of A, then a quarter of B each second.
    expect(scheduler.position(made, 3)).toMatchObject({ pattern: "b", section: 1 });
    expect(scheduler.position(made, 3)!.tick).toBeCloseTo(960, 6);
    expect(scheduler.position(made, 3)!.song).toBeCloseTo(BAR + 960, 6);
    expect(scheduler.position(made, 6.5)).toMatchObject({ pattern: "c", section: 2 });
  });

  it("clicks the beats of each section's metre, and counts in those of the one that follows", () => {
    const made = project();
    const scheduler = new Scheduler();
    scheduler.start(made, {}, 0, 2 * BAR, 2880);
    run(scheduler, () => made, 0, 2.2);
    const beats = scheduler.beats(made, 2 * BAR - 2880, 2 * BAR + 5760);
    expect(beats.map((beat) => beat.kind).join(" ")).toBe(
      "bar beat beat bar beat beat bar beat beat",
    );
    expect(beats[1]!.time - beats[0]!.time).toBeCloseTo(0.25, 9);
  });

  it("loops a stretch from where it is, goes on from it when let go, and from its beginning when outside", () => {
    const made = project();
    const scheduler = new Scheduler();
    scheduler.start(made, {}, 0);
    const set = new Map<number, readonly [number, number] | null>([
      [0.5, [0, 1920]],
      [3.5, null],
    ]);
    const found = run(
      scheduler,
      () => made,
      0,
      9,
      (time) => {
        for (const [at, range] of set) {
          if (time < at) continue;
          scheduler.setRange(made, range);
          set.delete(at);
        }
      },
    );
    // Half a second a beat: at 0.7 s the second beat is handed over, so the loop of two goes on from there.
    expect(pitches(found).slice(0, 8)).toEqual(Array(8).fill(40));
    const starts = found.slice(0, 7).map((due) => due.event.start % 1920);
    expect(starts).toEqual([0, 960, 0, 960, 0, 960, 0]);
    expect(pitches(found)).toContain(50);
    const gaps = found.slice(1, 8).map((due, i) => due.time - found[i]!.time);
    for (const gap of gaps) expect(gap).toBeCloseTo(0.5, 6);
    const outside = new Scheduler();
    outside.start(made, {}, 0);
    run(outside, () => made, 0, 0.5);
    outside.setRange(made, [BAR, 2 * BAR]);
    expect(pitches(run(outside, () => made, 0.5, 4)).slice(0, 5)).toEqual([40, 40, 50, 50, 50]);
  });

  it("jumps with the next bar, or as soon as what was handed over has sounded", () => {
    const made = project();
    const jump = (when: "bar" | "now") => {
      const scheduler = new Scheduler();
      scheduler.start(made, {}, 0);
      let done = false;
      return run(
        scheduler,
        () => made,
        0,
        3,
        (time) => {
          if (time < 0.5 || done) return;
          done = true;
          scheduler.switchTo(made, {}, 2 * BAR, when);
        },
      );
    };
    expect(pitches(jump("bar")).slice(0, 5)).toEqual([40, 40, 40, 40, 60]);
    const now = jump("now");
    expect(pitches(now).slice(0, 3)).toEqual([40, 40, 60]);
    expect(now[2]!.time).toBeLessThan(0.8);
  });

  it("stays in its section when sections are put in, moved or deleted before it", () => {
    let made = project();
    const scheduler = new Scheduler();
    scheduler.start(made, {}, 0);
    let step = 0;
    const found = run(
      scheduler,
      () => made,
      0,
      12,
      (time) => {
        if (time > 2.6 && step === 0) {
          step++;
          made = edits.insertSections(made, 0, [{ id: "x", pattern: "c", times: 4 }]);
        }
        if (time > 3.6 && step === 1) {
          step++;
          made = edits.deleteSections(made, new Set(["x", "s1"]));
        }
      },
    );
    // B's four beats are heard once each, in time, whatever was done before them.
    const b = found.filter((due) => due.event.pitch === 50).slice(0, 4);
    expect(b.map((due) => due.event.note)).toEqual(["n50-0", "n50-1", "n50-2", "n50-3"]);
    b.forEach((due, i) => expect(due.time).toBeCloseTo(2 + i, 3));
    expect(pitches(found.filter((due) => due.time > 6)).slice(0, 3)).toEqual([60, 60, 60]);
  });

  it("tells through which patterns it goes, end to end, for what sounds behind them", () => {
    const made = project();
    const scheduler = new Scheduler();
    scheduler.start(made, {}, 5);
    const found = [];
    for (let time = 5; time < 20; time += 0.05) {
      const from = scheduler.handedOver;
      scheduler.due(made, time + 0.22);
      found.push(...scheduler.stretches(made, from, scheduler.handedOver));
    }
    let time = 5;
    for (const stretch of found) {
      // Each begins where the last one ended, and lies inside one round of its pattern.
      expect(stretch.time).toBeCloseTo(time, 6);
      time += stretch.ticks * stretch.tickSeconds;
      expect(stretch.patternTick).toBeGreaterThanOrEqual(0);
      const round = stretch.pattern === "c" ? 2880 : BAR;
      expect(stretch.patternTick + stretch.ticks).toBeLessThanOrEqual(round);
    }
    const begins = found.filter(({ patternTick }) => patternTick === 0);
    expect(begins.map(({ pattern }) => pattern).join("")).toMatch(/^abccabcc/);
    expect(begins[1]!.tickSeconds).toBeCloseTo(1 / 960, 9);
  });
});
