import * as edits from "../edits";
import { seeded } from "../base";
import { grid } from "../time";
import { LIMITS, type Project, createProject, makeNote, partOf } from "../score";
import * as fc from "fast-check";
import { describe, expect, it } from "vitest";
import { tapOffset } from "./latency";
import { freeTempo } from "./free-tempo";
import { inLine, lengthInLoop, placeInLoop, loopCountOf, startInLoop, type LoopOf } from "./place";
import { PlayedLog, REMEMBERED_MS, type PlayedNote } from "./played";
import { loopsPlayed } from "./loops-played";

const loopOf = (project: Project, track = "bass"): LoopOf => ({
  project,
  pattern: project.patterns[0]!,
  track: project.tracks.find((t) => t.id === track)!,
  part: project.patterns[0]!.parts.find((p) => p.track === track)!,
});
const two = createProject({ bars: 2 });
const played = (change: Partial<PlayedNote> = {}): PlayedNote => ({
  id: "n",
  track: "bass",
  pitch: 48,
  velocity: 90,
  at: 0,
  length: 250,
  ticks: 480,
  loop: { pattern: "a", run: 1, tick: 0, bpm: 120 },
  ...change,
});
const at = (tick: number) => ({ pattern: "a", run: 1, tick, bpm: 120 });

describe("where in the loop something was played", () => {
  it("is its tick in the loop, to the nearest", () => {
    expect(startInLoop(loopOf(two), 48, 7680 * 3 + 1000.4)).toBe(1000);
  });

  it("just before the loop's end belongs to step one, as an early hit; the last step keeps its own", () => {
    const loop = loopOf(two);
    expect(startInLoop(loop, 48, 7680 - 100)).toBe(-100);
    expect(startInLoop(loop, 48, 7680 - 130)).toBe(7550);
    expect(startInLoop(loop, 48, 7680 - 240)).toBe(7440);
    expect(startInLoop(loop, 48, 7680)).toBe(0);
  });

  it("before bar one belongs to step one, by up to half a quarter; in the count-in before that to nothing", () => {
    const loop = loopOf(two);
    expect([-1, -480, -481, -3840].map((t) => startInLoop(loop, 48, t))).toEqual([
      -1,
      -480,
      null,
      null,
    ]);
  });

  it("in a shorter part goes round it, and a loop that does not fit begins anew with the pattern", () => {
    const short = loopOf(edits.setPartLength(two, { pattern: "a", track: "bass" }, 3000));
    expect(startInLoop(short, 48, 3500)).toBe(500);
    // 7,680 is two whole loops and a rest of 1,680: the next loop begins with the pattern.
    expect(startInLoop(short, 48, 7680 + 20)).toBe(20);
    expect(startInLoop(short, 48, 7680 - 50)).toBe(-50);
    expect([loopCountOf(short, 2999), loopCountOf(short, 6100), loopCountOf(short, 7680)]).toEqual([
      0, 2, 3,
    ]);
  });

  it("on a lane of its own steps and grid goes round those", () => {
    const lane = two.tracks[0]!.lanes[0]!;
    const five = edits.changeLane(two, "drums", lane.id, { steps: 5, grid: grid(16, "triplet") });
    const loop = loopOf(five, "drums");
    // Five steps of 160 ticks.
    expect(startInLoop(loop, lane.pitch, 850)).toBe(50);
    expect(startInLoop(loop, lane.pitch, 790)).toBe(-10);
    expect(startInLoop(loop, lane.pitch, 715)).toBe(715);
  });

  it("never lies outside what a note may have, whatever the tick, metre and lengths", () => {
    fc.assert(
      fc.property(
        fc.double({ min: -5000, max: 200_000, noNaN: true }),
        fc.integer({ min: 1, max: 7680 }),
        fc.double({ min: 0, max: 50_000, noNaN: true }),
        fc.constantFrom("tie" as const, "cut" as const),
        (tick, length, held, over) => {
          const loop = loopOf(edits.setPartLength(two, { pattern: "a", track: "bass" }, length));
          const placed = placeInLoop(loop, played({ loop: at(tick), ticks: held }), over);
          if (!placed) return tick < -480;
          expect(placed.start).toBeGreaterThanOrEqual(-480);
          expect(placed.start).toBeLessThan(length);
          expect(placed.length).toBeGreaterThanOrEqual(1);
          if (over === "cut" && placed.start >= 0)
            expect(placed.start + placed.length).toBeLessThanOrEqual(length);
          return true;
        },
      ),
    );
  });

  it("of a note held over the end is tied or cut, and never longer than the loop", () => {
    const loop = loopOf(two);
    expect(lengthInLoop(loop, { pitch: 48, start: 7200, held: 1200 }, "tie")).toBe(1200);
    expect(lengthInLoop(loop, { pitch: 48, start: 7200, held: 1200 }, "cut")).toBe(480);
    expect(lengthInLoop(loop, { pitch: 48, start: 7200, held: 50_000 }, "tie")).toBe(7680);
    expect(lengthInLoop(loop, { pitch: 48, start: 0, held: 0.2 }, "tie")).toBe(1);
    // A lane's own loop is what counts on it.
    const own = loopOf(
      edits.changeLane(two, "drums", "lane-36", { steps: 4, grid: grid(16) }),
      "drums",
    );
    expect(lengthInLoop(own, { pitch: 36, start: 720, held: 600 }, "tie")).toBe(600);
    expect(lengthInLoop(own, { pitch: 36, start: 720, held: 600 }, "cut")).toBe(240);
    expect(lengthInLoop(own, { pitch: 36, start: 720, held: 5000 }, "tie")).toBe(960);
  });

  it("is none for what was played to another pattern, or to no loop", () => {
    expect(placeInLoop(loopOf(two), played({ loop: null }), "tie")).toBeNull();
    expect(
      placeInLoop(loopOf(two), played({ loop: { ...at(0), pattern: "b" } }), "tie"),
    ).toBeNull();
  });

  it("one after another keeps the loop's ticks over a change of tempo, and the clock without a loop", () => {
    // The second half was played at half the tempo: the clock alone would have it twice as late.
    const notes = [
      played({ at: 0, loop: at(100) }),
      played({ at: 1000, loop: { ...at(1060), bpm: 60 } }),
    ];
    expect(inLine(notes, 120).map((n) => n.start)).toEqual([0, 960]);
    const free = notes.map((note) => ({ ...note, loop: null, ticks: null }));
    expect(inLine(free, 120).map(({ start, length }) => [start, length])).toEqual([
      [0, 480],
      [1920, 480],
    ]);
    expect(inLine([], 120)).toEqual([]);
  });
});

describe("what is remembered of playing", () => {
  const note = (id: string, time: number) => ({ ...played(), id, at: time, loop: null });

  it("lies in order of time and reaches thirty minutes back", () => {
    const log = new PlayedLog();
    for (const [id, time] of [
      ["a", 0],
      ["c", 5000],
      ["b", 4000],
    ] as const)
      log.begin(note(id, time));
    expect(log.notes.map(({ id }) => id)).toEqual(["a", "b", "c"]);
    log.begin(note("d", REMEMBERED_MS + 4500));
    expect(log.notes.map(({ id }) => id)).toEqual(["c", "d"]);
  });

  it("comes back from before a reload, each note once, and what is too old does not", () => {
    const log = new PlayedLog();
    log.begin(note("b", REMEMBERED_MS + 100));
    log.restore(
      [played({ id: "old", at: 0 }), played({ id: "a", at: 5000 }), played({ id: "b", at: 1 })],
      [],
      REMEMBERED_MS + 1000,
    );
    expect(log.notes.map(({ id }) => id)).toEqual(["a", "b"]);
  });

  it("is thrown away by name, with the bends of its time", () => {
    const log = new PlayedLog();
    log.begin(note("a", 0));
    log.end(log.begin(note("b", 1000)), 2000, null);
    for (const time of [500, 1500]) log.bend({ track: "bass", value: 5, at: time, loop: null });
    log.drop(new Set(["b"]));
    expect([log.notes.length, log.bends.map((b) => b.at)]).toEqual([1, [500]]);
  });

  it("falls into loops of the loop, an early hit with the round it leads into, and phrases without it", () => {
    const ms = (ticks: number) => ticks / 1.92;
    const on = (id: string, tick: number) =>
      played({ id, at: ms(tick), loop: at(tick), length: 50 });
    const rounds = loopsPlayed(two, [on("a", 0), on("b", 7000), on("c", 7650), on("d", 9000)]);
    expect(rounds.map(({ notes }) => notes.map((n) => n.id))).toEqual([
      ["a", "b"],
      ["c", "d"],
    ]);
    expect(rounds[1]!.began).toBeCloseTo(ms(7680), 6);
    const free = (id: string, time: number) => note(id, time);
    const phrases = loopsPlayed(two, [free("a", 0), free("b", 2000), free("c", 6000)]);
    expect(phrases.map(({ notes }) => notes.length)).toEqual([2, 1]);
    expect(phrases[0]!.began).toBeNull();
  });
});

describe("the tempo of free playing", () => {
  /** Onsets at a tempo: eighths, quarters, some sixteenths and rests, each off by a little. */
  function line(bpm: number, jitter: number, seed: number): number[] {
    const random = seeded(seed);
    const beat = 60_000 / bpm;
    const times: number[] = [];
    let at = 0;
    for (let i = 0; i < 24; i++) {
      times.push(at * beat + (i === 0 ? 0 : (random() + random() + random() - 1.5) * 2 * jitter));
      const r = random();
      at += r < 0.2 ? 0.25 : r < 0.65 ? 0.5 : r < 0.92 ? 1 : 1.5;
    }
    return times;
  }
  const ratioOf = (found: number, bpm: number) =>
    [0.5, 1, 2].find((r) => Math.abs(found / bpm / r - 1) < 0.02);

  it("is found within two per cent, doubled and halved aside, for nine in ten of lines 12 ms uneven", () => {
    let [right, exact, all] = [0, 0, 0];
    for (let seed = 1; seed <= 300; seed++) {
      const bpm = 70 + ((seed * 37) % 100);
      const found = freeTempo(line(bpm, 12, seed))!;
      all++;
      if (ratioOf(found.bpm, bpm)) right++;
      if (ratioOf(found.bpm, bpm) === 1) exact++;
    }
    expect(right / all).toBeGreaterThan(0.9);
    expect(exact / all).toBeGreaterThan(0.7);
  });

  it("is surer of an even line than of chance", () => {
    const sure = freeTempo(line(104, 4, 5))!;
    const random = seeded(9);
    let mean = 0;
    for (let k = 0; k < 40; k++) {
      const times = Array.from({ length: 24 }, () => random() * 9000).sort((a, b) => a - b);
      mean += freeTempo(times)!.certainty / 40;
    }
    expect(sure.certainty).toBeGreaterThan(mean + 0.2);
  });

  it("is none of fewer than four onsets, a chord being one", () => {
    expect(freeTempo([0, 500, 1000])).toBeNull();
    expect(freeTempo([0, 5, 10, 15, 500, 503, 1000])).toBeNull();
    expect(freeTempo([])).toBeNull();
  });
});

describe("latency by tapping along", () => {
  const clicks = Array.from({ length: 12 }, (_, i) => 1000 + i * 600);

  it("is the middle of how late the taps are, one slip and one missed tap aside", () => {
    const random = seeded(3);
    const taps = clicks.map((c) => c + 34 + (random() - 0.5) * 16);
    taps[4] = clicks[4]! + 230;
    taps.splice(7, 1);
    const found = tapOffset(clicks, taps)!;
    expect(Math.abs(found.ms - 34)).toBeLessThan(4);
    expect(found.spread).toBeLessThan(8);
  });

  it("may be early, and is none of too few taps or of taps between", () => {
    expect(
      tapOffset(
        clicks,
        clicks.map((c) => c - 20),
      )!.ms,
    ).toBe(-20);
    expect(tapOffset(clicks, clicks.slice(0, 3))).toBeNull();
    expect(
      tapOffset(
        clicks,
        clicks.map((c) => c + 300),
      ),
    ).toBeNull();
    expect(tapOffset([], [1, 2, 3, 4, 5])).toBeNull();
  });
});

describe("recording's edits", () => {
  const place = { pattern: "a", track: "bass" };
  const n = (id: string, start: number, pitch = 48) => makeNote({ id, start, pitch, length: 240 });
  const ids = (p: Project) => partOf(p, place).notes.map((note) => note.id);

  it("clears what begins in the stretch played over, early hits with step one, and spares what is its own", () => {
    const p = edits.setNotes(two, place, [
      n("e", -50),
      n("a", 0),
      n("b", 960),
      n("c", 1920),
      n("mine", 480),
    ]);
    const over = { from: 0, to: 1000, pitches: null };
    expect(ids(edits.clearPlayedOver(p, place, over, (id) => id === "mine"))).toEqual([
      "mine",
      "c",
    ]);
    const pads = edits.setNotes(two, place, [n("a", 0, 36), n("b", 0, 38)]);
    const kick = { from: 0, to: 10, pitches: new Set([36]) };
    expect(ids(edits.clearPlayedOver(pads, place, kick, () => false))).toEqual(["b"]);
    const nothing = edits.clearPlayedOver(
      p,
      place,
      { from: 5000, to: 6000, pitches: null },
      () => false,
    );
    expect(nothing).toBe(p);
  });

  it("puts a take in, lengthens to whole bars, and lets what was there go on", () => {
    let i = 0;
    const one = edits.setPartLength(edits.setNotes(two, place, [n("a", 0)]), place, 3840);
    const long = edits.putTake(one, place, [n("t", 3840 * 4 + 100)], () => `c${++i}`);
    const part = partOf(long, place);
    expect([part.length, long.patterns[0]!.bars]).toEqual([5 * 3840, 5]);
    expect(part.notes.map((note) => note.start)).toEqual([0, 3840, 7680, 11_520, 15_360, 15_460]);
    expect(new Set(part.notes.map((note) => note.id)).size).toBe(6);
    // The other part goes on repeating: its length stays.
    expect(edits.putTake(one, place, [], () => "x")).toBe(one);
  });

  it("keeps a take inside the most bars there can be", () => {
    const far = edits.putTake(two, place, [n("x", 0), n("t", LIMITS.bars * 3840 + 5)], () => "c");
    expect([ids(far), far.patterns[0]!.bars]).toEqual([["x"], LIMITS.bars]);
  });
});
