import * as fc from "fast-check";
import { describe, expect, it } from "vitest";
import { n } from "../notes.test-helper";
import { playbackEvents } from "../playback/events";
import { createProject } from "../score/create";
import * as edits from "../score/edits";
import { GRID_VALUES, grid } from "../time/grid";
import { applyChain } from "./chain";
import { foldPitch } from "./kit";
import { TRANSFORMS } from "./registry";
import { strumCurve } from "./strum";

const apply = (id: string, ...rest: Parameters<(typeof TRANSFORMS)[string]["apply"]>) =>
  TRANSFORMS[id]!.apply(...rest).notes;

/** Places and values worked out by hand, which a rule turned about would miss. */
describe("worked out by hand", () => {
  it("a strum that hurries at its end is late in its middle", () => {
    // √½ of the way at half the notes, for a bend of 50.
    expect(strumCurve(0.5, 50)).toBeCloseTo(Math.SQRT1_2, 10);
    expect(strumCurve(0.5, -50)).toBeCloseTo(0.25, 10);
    const chord = [60, 64, 67].map((pitch) => n(0, { pitch, length: 1920 }));
    // 100 ms at 120 BPM are 192 ticks.
    const starts = (curve: number) =>
      apply("strum", chord, { spread: 100, curve }, { tempo: 120 }).map((note) => note.start);
    expect(starts(0)).toEqual([0, 96, 192]);
    expect(starts(50)).toEqual([0, 136, 192]);
    expect(starts(-50)).toEqual([0, 48, 192]);
  });

  it("notes within a 1/64 begin together, those beyond it do not", () => {
    const starts = (apart: number) =>
      apply("strum", [n(0, { pitch: 60 }), n(apart, { pitch: 64 })], { spread: 100 }).map(
        (note) => note.start,
      );
    expect(starts(59)).toEqual([0, 192]);
    expect(starts(60)).toEqual([0, 60]);
  });

  it("humanize changes lengths by up to its share, and all of them over many notes", () => {
    const notes = Array.from({ length: 200 }, (_, i) => n(i * 240, { length: 200 }));
    const after = apply("humanize", notes, { velocity: 0, length: 50, seed: 3 });
    const lengths = after.map((note) => note.length);
    expect(Math.min(...lengths)).toBeGreaterThanOrEqual(100);
    expect(Math.max(...lengths)).toBeLessThanOrEqual(300);
    expect(Math.min(...lengths)).toBeLessThan(150);
    expect(Math.max(...lengths)).toBeGreaterThan(250);
    expect(new Set(lengths).size).toBeGreaterThan(50);
    expect(after.map((note) => note.velocity)).toEqual(notes.map((note) => note.velocity));
  });

  it("a loop of five cells turns as five cells", () => {
    const context = { kind: "drums" as const, grid: grid(16), lanePeriods: { 37: 1200 } };
    const rim = [0, 240, 960].map((start) => n(start, { pitch: 37 }));
    const turned = (steps: number) =>
      apply("rotate", rim, { steps }, context).map((note) => note.start);
    expect(turned(1)).toEqual([240, 480, 0]);
    expect(turned(-1)).toEqual([960, 0, 720]);
    expect(turned(2)).toEqual([480, 720, 240]);
    expect(turned(5)).toEqual([0, 240, 960]);
  });

  it("invert in the key takes notes outside it along", () => {
    const context = { key: { root: 0, scale: "major" } };
    // C to G: degrees 0 and 4. F♯ is one above F (3 → 1, D), so D♯.
    const line = [60, 66, 67].map((pitch, i) => n(i * 240, { pitch }));
    expect(apply("invert", line, {}, context).map((note) => note.pitch)).toEqual([67, 63, 60]);
  });

  it("a pitch beyond the ends comes back by one octave", () => {
    expect([127, 128, 129, 139, 140].map(foldPitch)).toEqual([127, 116, 117, 127, 116]);
    expect([0, -1, -12, -13].map(foldPitch)).toEqual([0, 11, 0, 11]);
    const high = apply("transpose", [n(0, { pitch: 120 })], { semitones: 10 });
    expect(high[0]!.pitch).toBe(118);
  });

  it("an early hit is heard before each repeat of a short part", () => {
    const BASS = { pattern: "a", track: "bass" };
    let project = createProject();
    project = edits.addNotes(project, BASS, [n(-20, { length: 10 })]);
    project = edits.setPartLength(project, BASS, 960);
    const starts = (from: number, to: number) =>
      playbackEvents(project, from, to).map((event) => event.start);
    // At once at the very beginning, then 20 ticks before each beat, the next bar's too.
    expect(starts(0, 3840)).toEqual([0, 940, 1900, 2860, 3820]);
    expect(starts(3840, 7680)).toEqual([4780, 5740, 6700, 7660]);
  });
});

describe("the end of the loop", () => {
  it("is its beginning: a hit pulled or pushed onto it becomes the downbeat", () => {
    const late = [n(3825, { pitch: 36 })];
    const context = { kind: "drums" as const, length: 3840, grid: grid(16) };
    expect(apply("quantize", late, {}, context)[0]!.start).toBe(0);
    expect(apply("quantize", late, {}, { ...context, length: null })[0]!.start).toBe(3840);
    const lane = { ...context, lanePeriods: { 36: 1200 } };
    expect(apply("quantize", [n(1190, { pitch: 36 })], {}, lane)[0]!.start).toBe(0);
    for (let seed = 1; seed < 40; seed++) {
      const [note] = apply("humanize", late, { timing: 60, bias: 100, seed }, context);
      expect(note!.start < 3840).toBe(true);
    }
    const chord = [60, 64, 67].map((pitch) => n(3700, { pitch, length: 100 }));
    const spread = apply("strum", chord, { spread: 200 }, { length: 3840, tempo: 120 });
    expect(spread.map((note) => note.start)).toEqual([3700, 52, 244]);
  });
});

describe("an accent with no beat chosen", () => {
  it("changes nothing", () => {
    const hits = [0, 240, 960].map((start) => n(start));
    expect(apply("velocity", hits, { way: "accent", beats: "" })).toEqual(hits);
  });
});

describe("a lane's own loop", () => {
  it("is as long when its grid is turned off as before", () => {
    const DRUMS = { pattern: "a", track: "drums" };
    const hat = (kind: "straight" | "off") => {
      const project = createProject({ bars: 1 });
      const lane = project.tracks[0]!.lanes.find((l) => l.pitch === 42)!;
      const change = { steps: 8, grid: { value: 16, kind, swing: 50 } as const };
      const changed = edits.changeLane(project, "drums", lane.id, change);
      return playbackEvents(edits.addNotes(changed, DRUMS, [n(0, { pitch: 42 })]), 0, 3840);
    };
    expect(hat("straight").map((event) => event.start)).toEqual([0, 1920]);
    expect(hat("off")).toEqual(hat("straight"));
  });
});

describe("a grid that is off", () => {
  const off = { value: 16, kind: "off", swing: 50 } as const;
  /** Transforms that count in steps of the note's own grid. */
  const STEPPED: Record<string, Record<string, number | string>> = {
    rotate: { steps: 3 },
    fill: { every: 3 },
    swing: { amount: 60 },
    quantize: {},
    split: {},
    reverse: {},
    length: { way: "set" },
  };

  for (const [id, params] of Object.entries(STEPPED)) {
    it(`${id} counts by the straight grid of its value, on tracks of both kinds`, () => {
      fc.assert(
        fc.property(
          fc.constantFrom(...GRID_VALUES.filter((value) => value <= 32)),
          fc.constantFrom("drums" as const, "melody" as const),
          fc.array(fc.integer({ min: 0, max: 3800 }), { minLength: 1, maxLength: 12 }),
          (value, kind, starts) => {
            const notes = [...new Set(starts)]
              .sort((a, b) => a - b)
              .map((start) => n(start, { pitch: 38, length: 300 }));
            const on = (g: typeof off) => ({ kind, length: 3840, grid: { ...g, value } as never });
            const straight = { ...off, kind: "straight" } as never;
            expect(TRANSFORMS[id]!.apply(notes, params, on(off))).toEqual(
              TRANSFORMS[id]!.apply(notes, params, on(straight)),
            );
          },
        ),
        { numRuns: 40 },
      );
    });
  }
});

describe("an id that every object answers to", () => {
  it("is no transform, in a chain, at once or in the registry", () => {
    for (const id of ["constructor", "toString", "__proto__", "hasOwnProperty", "sparkle"]) {
      expect(TRANSFORMS[id]).toBeUndefined();
      const step = { id: "s", transform: id, on: true, params: {}, scope: null };
      const error = `“${id}” is no known transform`;
      expect(() => applyChain([n(0)], [step])).toThrow(new RangeError(error));
      const whole = { selection: null, lane: null, range: null };
      const place = { pattern: "a", track: "bass" };
      const now = () => edits.transformPart(createProject(), place, id, {}, whole, () => "x");
      expect(now).toThrow(new RangeError(error));
    }
  });
});
