import * as fc from "fast-check";
import { describe, expect, it } from "vitest";
import { anyNotes, n } from "../notes.test-helper";
import { GRID_VALUES, driftOf, grid, gridTicks, lineAt, nearestLine, ticksToMs } from "../time";
import { inKey } from "../pitch";
import type { Params } from "../params";
import { type Note, sortNotes } from "../score";
import { applyChain } from "./chain";
import type { TransformContext } from "./kit";
import { TRANSFORMS } from "./registry";
import { rollOffsets, rollRate } from "./roll";

const apply = (
  id: string,
  notes: readonly Note[],
  params: Params = {},
  context: Partial<TransformContext> = {},
) => TRANSFORMS[id]!.apply(notes, params, context);

const straightGrids = fc
  .tuple(fc.constantFrom(...GRID_VALUES), fc.constantFrom("straight", "triplet", "dotted"))
  .map(([value, kind]) => grid(value, kind as "straight"));

/** Every transform with parameters that do something. */
const SAMPLES: Record<string, Params[]> = {
  roll: [{ count: 3 }, { count: 8, ratio: 0.7, velocityTo: -200 + 80, tuneTo: 12 }],
  reverse: [{}],
  stretch: [{ factor: 0.5 }, { factor: -2 }, { factor: 3.3 }, { way: "to a length", beats: 3 }],
  humanize: [
    { velocity: 40, timing: 60, length: 100, seed: 5 },
    { timing: 30, bias: 100 },
  ],
  quantize: [{}, { value: "8", kind: "triplet", strength: 60, ends: "quantize ends" }],
  transpose: [{ semitones: 47 }, { degrees: -20, octaves: 8 }],
  inversion: [{ steps: 3 }, { steps: -8 }],
  "snap-to-scale": [{}, { direction: "up" }, { direction: "down" }],
  swing: [{ amount: 66.67 }, { amount: 71, value: "8" }],
  groove: [
    { groove: "1/16 0/110 40/60 -12/- -/90" },
    { groove: "1/8T 10/80/6 - -30/40", timing: 60, velocity: 30, loose: 100, seed: 4 },
  ],
  "drum-fill": [{}, { every: 1, span: "bar", feel: "triplet", heard: "last round of a section" }],
  rotate: [{ steps: 3 }, { steps: -7, value: "16", kind: "triplet" }],
  velocity: [
    { way: "set", value: 127 },
    { way: "add", add: -126 },
    { way: "scale", scale: 300 },
    { way: "ramp", from: 1, to: 127 },
    { way: "level", amount: 100 },
    { way: "accent", beats: "2 4", add: 60 },
  ],
  thin: [{ chance: 60 }, { chance: 100, keep: "nothing" }],
  strays: [{}, { softer: 90, shorter: 400, twice: 150 }],
  "alternate-pan": [{}, { width: 100, first: "right" }],
  fill: [
    { value: "16" },
    { way: "spread evenly", hits: 5, over: 13, rotation: 2, there: "replace them", value: "8" },
  ],
  split: [
    { value: "16" },
    { way: "into equal pieces", count: 7, ratio: 1.4, velocityTo: -90 },
    { way: "in a rhythm", rhythm: "3 1 2", value: "16" },
  ],
  invert: [{}, { inKey: false }, { axis: "a pitch", pitch: 3 }],
  legato: [{}, { gap: 40 }],
  length: [
    { way: "set", value: "8", kind: "triplet" },
    { way: "scale", scale: 333 },
    { way: "trim", trim: 900 },
  ],
  echo: [{}, { unit: "ms", ms: 333, number: 16, decay: 0, ends: "fall away" }],
  stutter: [
    {},
    { unit: "ms", firstMs: 300, lastMs: 20, curve: "late", velocityFrom: -60, velocityTo: 80 },
  ],
  strum: [
    { direction: "alternate", spread: 300, curve: 60, tilt: -40 },
    { unit: "note value", value: "8", direction: "down" },
  ],
  arpeggiate: [
    { steps: "120 r 60+2 t 40-3", value: "32" },
    { mode: "up-down", octaves: 3 },
    { mode: "random", unit: "ms", ms: 130, change: 20, seed: 9 },
    { mode: "chord", value: "4" },
  ],
  repeat: [{ times: 3 }, { until: "the pattern is full", unit: "whole beats" }],
};

describe("every transform", () => {
  it("has a sample here", () => {
    expect(Object.keys(SAMPLES).sort()).toEqual(Object.keys(TRANSFORMS).sort());
  });

  for (const [id, list] of Object.entries(SAMPLES)) {
    for (const params of list) {
      const name = `${id} ${JSON.stringify(params)}`;

      it(`${name}: keeps to the ranges of the model, leaves its input and is repeatable`, () => {
        fc.assert(
          fc.property(
            anyNotes,
            fc.constantFrom("drums" as const, "melody" as const),
            (notes, kind) => {
              const copy = structuredClone(notes);
              const first = apply(id, notes, params, { kind });
              expect(notes).toEqual(copy);
              expect(apply(id, notes, params, { kind })).toEqual(first);
              for (const note of first.notes) {
                expect(Number.isInteger(note.start) && note.start >= -480).toBe(true);
                expect(Number.isInteger(note.length) && note.length >= 1).toBe(true);
                expect(Number.isInteger(note.pitch) && note.pitch >= 0 && note.pitch <= 127).toBe(
                  true,
                );
                expect(
                  Number.isInteger(note.velocity) && note.velocity >= 1 && note.velocity <= 127,
                ).toBe(true);
                expect(Math.abs(note.tune)).toBeLessThanOrEqual(48);
              }
              expect(new Set(first.notes.map((note) => note.id)).size).toBe(first.notes.length);
              expect(first.effect.sentence.length).toBeGreaterThan(5);
            },
          ),
          { numRuns: 60 },
        );
      });

      it(`${name}: never changes notes outside the selection`, () => {
        fc.assert(
          fc.property(anyNotes, fc.func(fc.boolean()), (notes, choose) => {
            const chosen = notes.filter((note) => choose(note.id));
            const selection = new Set(chosen.map((note) => note.id));
            const { notes: after, effect } = apply(id, notes, params, { selection });
            for (const note of notes) {
              if (!selection.has(note.id)) expect(after).toContain(note);
            }
            expect(after.length).toBe(notes.length + effect.added - effect.removed);
            expect(new Set(after.map((note) => note.id)).size).toBe(after.length);
          }),
          { numRuns: 40 },
        );
      });
    }
  }

  it("names the parameter that is wrong, and unknown ones", () => {
    expect(() => apply("roll", [], { count: 0 })).toThrow(/count must be at least 1/);
    expect(() => apply("stretch", [], { factor: 0 })).toThrow(/factor must not be 0/);
    expect(() => apply("quantize", [], { kind: "wavy" })).toThrow(/kind must be one of/);
    expect(() => apply("reverse", [], { speed: 3 })).toThrow(/speed/);
    expect(() => apply("humanize", [], { seed: 1.5 })).toThrow(/seed/);
    expect(() => apply("transpose", [], { semitones: "up" })).toThrow(RangeError);
  });
});

describe("reverse", () => {
  const twice = (notes: readonly Note[], context: Partial<TransformContext>) =>
    apply("reverse", apply("reverse", notes, {}, context).notes, {}, context).notes;

  it("mirrors a melody in its span and comes back", () => {
    const line = [n(0, { length: 480 }), n(480, { length: 240 }), n(960, { length: 960 })];
    const after = apply("reverse", line).notes;
    expect(after.map((note) => [note.start, note.length])).toEqual([
      [1440, 480],
      [1200, 240],
      [0, 960],
    ]);
    fc.assert(
      fc.property(anyNotes, (notes) => {
        const inside = notes.map((note) => ({ ...note, start: Math.max(0, note.start) }));
        expect(twice(inside, { kind: "melody" })).toEqual(inside);
      }),
    );
  });

  it("sends drum cell i of n to n − 1 − i with the drift's sign turned", () => {
    const g = grid(16);
    const late = [n(0), n(240 + 10), n(3 * 240 - 6)];
    const after = apply("reverse", late, {}, { kind: "drums", grid: g }).notes;
    expect(after.map((note) => note.start)).toEqual([720, 480 - 10, 6]);
    const inBar = apply("reverse", late, {}, { kind: "drums", grid: g, range: [0, 3840] }).notes;
    expect(inBar.map((note) => note.start)).toEqual([15 * 240, 14 * 240 - 10, 12 * 240 + 6]);
  });

  it("comes back after twice on any straight or swung grid", () => {
    const swing = fc.integer({ min: 50, max: 75 });
    fc.assert(
      fc.property(anyNotes, straightGrids, swing, (notes, g, s) => {
        const on = { ...g, swing: s };
        const cell = gridTicks(on);
        // Far from the front, where an early start would be held.
        const inside = notes.map((note) => ({ ...note, start: note.start + 480 + 4 * cell }));
        expect(twice(inside, { kind: "drums", grid: on })).toEqual(inside);
      }),
    );
  });

  it("reverses each lane on its own grid", () => {
    const hits = [n(0, { pitch: 36 }), n(960, { pitch: 42 }), n(1120, { pitch: 42 })];
    const context = {
      kind: "drums" as const,
      grid: grid(16),
      laneGrids: { 42: grid(16, "triplet") },
    };
    const after = apply("reverse", hits, {}, context).notes;
    expect(after.map((note) => note.start)).toEqual([1200, 160, 0]);
    expect(twice(hits, context)).toEqual(hits);
  });
});

describe("roll", () => {
  it("tiles each hit exactly, seven in a beat too", () => {
    const counts = fc.integer({ min: 1, max: 32 });
    const ratios = fc.constantFrom(1, 0.5, 0.8, 1.25, 2);
    fc.assert(
      fc.property(counts, ratios, fc.integer({ min: 40, max: 4000 }), (count, ratio, length) => {
        const { notes } = apply("roll", [n(100, { length })], { count, ratio });
        let at = 100;
        for (const note of notes) {
          expect(note.start).toBe(at);
          at += note.length;
        }
        expect(at).toBe(100 + length);
      }),
    );
    expect(rollOffsets(7, 960, 1)).toEqual([0, 137, 274, 411, 549, 686, 823]);
  });

  it("makes the gaps a geometric series", () => {
    const offsets = rollOffsets(4, 1500, 0.5);
    expect(offsets).toEqual([0, 800, 1200, 1400]);
  });

  it("ramps velocity and tune from the first hit to the last", () => {
    const { notes } = apply("roll", [n(0, { length: 400, velocity: 60 })], {
      count: 5,
      velocityFrom: -40,
      velocityTo: 40,
      tuneTo: 12,
    });
    expect(notes.map((note) => note.velocity)).toEqual([20, 40, 60, 80, 100]);
    expect(notes.map((note) => note.tune)).toEqual([0, 3, 6, 9, 12]);
  });

  it("tells the rate in ms, and as a tone from 20 Hz up", () => {
    const { effect } = apply(
      "roll",
      [n(0, { length: 240 })],
      { count: 2 },
      { tempo: 160, kind: "drums" },
    );
    expect(effect.sentence).toBe("1 hit became 2, every 47 ms (21 Hz, near F0 at 22 Hz)");
    expect(rollRate(100)).toBe("100 ms");
    expect(rollRate(1000 / 440)).toContain("near A4");
  });
});

describe("stretch", () => {
  it("halves and comes back, within the rounding of a tick", () => {
    fc.assert(
      fc.property(anyNotes, (notes) => {
        const even = notes.map((note) => ({
          ...note,
          start: 2 * Math.abs(note.start),
          length: 2 * note.length,
        }));
        const half = apply("stretch", even, { factor: 0.5 }).notes;
        const back = apply("stretch", half, { factor: 2 }).notes;
        expect(back).toEqual(even);
      }),
    );
  });

  it("takes the loop along when asked, and says what lies past its end", () => {
    const line = [n(0), n(1920)];
    const longer = apply("stretch", line, { factor: 2, loop: true }, { length: 3840 });
    expect(longer.length).toBe(7680);
    const past = apply("stretch", line, { factor: 2 }, { length: 3840 });
    expect(past.length).toBeUndefined();
    expect(past.effect.sentence).toContain("1 now past the loop's end");
  });

  it("goes through zero into reverse", () => {
    const line = [n(0, { length: 240 }), n(720, { length: 240 })];
    const reversed = apply("reverse", line).notes;
    expect(apply("stretch", line, { factor: -1 }).notes).toEqual(reversed);
  });
});

describe("quantize", () => {
  it("puts every start on a line at full strength", () => {
    fc.assert(
      fc.property(anyNotes, straightGrids, (notes, g) => {
        const { notes: after } = apply("quantize", notes, {}, { grid: g });
        // Coarse grids have lines before the loop that a start cannot reach.
        for (const note of after) if (note.start > -480) expect(driftOf(g, note.start)).toBe(0);
      }),
    );
  });

  it("goes the share of the way that strength says", () => {
    const { notes } = apply("quantize", [n(250), n(460)], { strength: 50 }, { grid: grid(16) });
    expect(notes.map((note) => note.start)).toEqual([245, 470]);
  });

  it("sends half way to the later line, and follows swing", () => {
    const half = apply("quantize", [n(120)], {}, { grid: grid(16) });
    expect(half.notes[0]!.start).toBe(240);
    const swung = apply("quantize", [n(250)], { value: "16", swing: 66.67 }).notes[0]!;
    expect(swung.start).toBe(320);
  });

  it("limits itself to what is near, or far", () => {
    const hits = [n(10), n(240 + 100)];
    const near = apply("quantize", hits, { reach: "within", window: 50 }, { grid: grid(16) }).notes;
    expect(near.map((note) => note.start)).toEqual([0, 340]);
    const far = apply("quantize", hits, { reach: "beyond", window: 50 }, { grid: grid(16) }).notes;
    expect(far.map((note) => note.start)).toEqual([10, 240]);
  });

  it("keeps lengths, keeps ends, or quantizes ends", () => {
    const note = n(250, { length: 200 });
    const ends = (mode: string) =>
      apply("quantize", [note], { ends: mode }, { grid: grid(16) }).notes[0]!;
    expect(ends("keep length")).toMatchObject({ start: 240, length: 200 });
    expect(ends("keep end")).toMatchObject({ start: 240, length: 210 });
    expect(ends("quantize ends")).toMatchObject({ start: 240, length: 240 });
  });

  it("uses each lane's own grid", () => {
    const hits = [n(155, { pitch: 42 }), n(235, { pitch: 36 })];
    const { notes } = apply(
      "quantize",
      hits,
      {},
      { grid: grid(16), laneGrids: { 42: grid(16, "triplet") } },
    );
    expect(notes.map((note) => note.start)).toEqual([160, 240]);
  });
});

describe("humanize", () => {
  it("stays inside its limits over 10 000 seeds, and spreads as it says", () => {
    const deviations: number[] = [];
    const shifts: number[] = [];
    const limit = 20;
    const ticks = Math.floor((20 / 1000) * 2 * 960);
    for (let seed = 0; seed < 10_000; seed++) {
      const [note] = apply(
        "humanize",
        [n(9600, { velocity: 64 })],
        { velocity: limit, timing: 20, seed },
        { tempo: 120 },
      ).notes;
      deviations.push(note!.velocity - 64);
      shifts.push(note!.start - 9600);
    }
    expect(Math.max(...deviations.map(Math.abs))).toBeLessThanOrEqual(limit);
    expect(Math.max(...shifts.map(Math.abs))).toBeLessThanOrEqual(ticks);
    // The sum of three even numbers on −1…1 has standard deviation 1/3 (Irwin–Hall distribution).
    for (const [values, max] of [
      [deviations, limit],
      [shifts, ticks],
    ] as const) {
      const mean = values.reduce((a, b) => a + b, 0) / values.length;
      const sd = Math.sqrt(values.reduce((sum, v) => sum + (v - mean) ** 2, 0) / values.length);
      expect(Math.abs(mean)).toBeLessThan(max * 0.02);
      expect(sd / max).toBeGreaterThan(0.31);
      expect(sd / max).toBeLessThan(0.36);
    }
  });

  it("never changes the order within a lane, selected or not", () => {
    fc.assert(
      fc.property(
        anyNotes,
        fc.integer({ min: 0, max: 999 }),
        fc.func(fc.boolean()),
        (notes, seed, choose) => {
          const crowded = notes.map((note) => ({
            ...note,
            start: (Math.abs(note.start) % 500) - 100,
            pitch: 36 + (note.pitch % 2),
          }));
          const selection = new Set(
            crowded.filter((note) => choose(note.id)).map((note) => note.id),
          );
          const { notes: after } = apply(
            "humanize",
            crowded,
            { timing: 60, velocity: 0, seed },
            { selection },
          );
          const now = new Map(after.map((note) => [note.id, note.start]));
          for (const a of crowded) {
            for (const b of crowded) {
              if (a.pitch === b.pitch && a.start < b.start)
                expect(now.get(a.id)!).toBeLessThan(now.get(b.id)!);
            }
          }
        },
      ),
    );
  });

  it("leans late or early with bias, to the limit at the ends", () => {
    const line = Array.from({ length: 50 }, (_, i) => n(960 * (i + 1)));
    const shift = (bias: number) =>
      apply("humanize", line, { velocity: 0, timing: 10, bias }, { tempo: 120 }).notes.map(
        (note, i) => note.start - line[i]!.start,
      );
    const limit = Math.floor(10 / ticksToMs(1, 120));
    expect(new Set(shift(100))).toEqual(new Set([limit]));
    expect(new Set(shift(-100))).toEqual(new Set([-limit]));
    expect(Math.min(...shift(50))).toBeGreaterThanOrEqual(0);
  });
});

describe("transpose and snap", () => {
  const key = { root: 2, scale: "dorian" };

  it("moves by degrees of the key, keeping the distance of notes outside it", () => {
    // D dorian: D E F G A B C. A degree up: D→E, F→G; E♭ lies one above D, so it goes to F.
    const { notes } = apply(
      "transpose",
      [n(0, { pitch: 62 }), n(1, { pitch: 65 }), n(2, { pitch: 63 })],
      { degrees: 1 },
      { key },
    );
    expect(notes.map((note) => note.pitch)).toEqual([64, 67, 65]);
  });

  it("comes back by the opposite, where nothing left the range", () => {
    fc.assert(
      fc.property(anyNotes, fc.integer({ min: -7, max: 7 }), (notes, degrees) => {
        const middle = notes
          .map((note) => ({ ...note, pitch: 40 + (note.pitch % 40) }))
          .filter((note) => inKey(key, note.pitch));
        const there = apply("transpose", middle, { degrees }, { key }).notes;
        expect(apply("transpose", there, { degrees: -degrees }, { key }).notes).toEqual(middle);
      }),
    );
  });

  it("tunes drum hits and leaves their pads", () => {
    const { notes } = apply(
      "transpose",
      [n(0, { pitch: 42 })],
      { semitones: 3 },
      { kind: "drums" },
    );
    expect(notes[0]).toMatchObject({ pitch: 42, tune: 3 });
  });

  it("pulls everything into the scale and nothing that is in it", () => {
    fc.assert(
      fc.property(anyNotes, (notes) => {
        const { notes: after } = apply("snap-to-scale", notes, {}, { key });
        after.forEach((note, i) => {
          expect(inKey(key, note.pitch)).toBe(true);
          if (inKey(key, notes[i]!.pitch)) expect(note.pitch).toBe(notes[i]!.pitch);
        });
      }),
    );
  });
});

describe("a chain", () => {
  const step = (
    id: string,
    transform: string,
    params: Params,
    scope: string[] | null = null,
    on = true,
  ) => ({ id, transform, on, params, scope });

  it("applies its steps in order and reports each; a switched-off one does nothing", () => {
    const notes = [n(0, { length: 480 }), n(480, { length: 480 })];
    const result = applyChain(notes, [
      step("1", "roll", { count: 2 }),
      step("2", "reverse", {}, null, false),
      step("3", "stretch", { factor: 0.5 }),
    ]);
    expect(sortNotes(result.notes).map((note) => note.start)).toEqual([0, 120, 240, 360]);
    expect(result.effects.map((effect) => effect?.added ?? null)).toEqual([2, null, 0]);
  });

  it("lets a later step reach the pieces of the notes it is meant for, and no others", () => {
    const notes = [n(0, { length: 480 }), n(480, { length: 480 })];
    const result = applyChain(notes, [
      step("1", "roll", { count: 2 }),
      step("2", "transpose", { octaves: 1 }, [notes[0]!.id]),
    ]);
    expect(sortNotes(result.notes).map((note) => note.pitch)).toEqual([72, 72, 60, 60]);
  });

  it("refuses an unknown transform by name", () => {
    expect(() => applyChain([], [step("1", "sparkle", {})])).toThrow(/sparkle/);
  });

  it("keeps hits on the lines of a swung grid when it quantizes to it", () => {
    const g = grid(16, "straight", 60);
    const { notes } = applyChain([n(235), n(500)], [step("1", "quantize", {})], { grid: g });
    for (const note of notes) expect(note.start).toBe(lineAt(g, nearestLine(g, note.start)));
  });
});
