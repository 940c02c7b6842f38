import * as fc from "fast-check";
import { Scale } from "tonal";
import { describe, expect, it } from "vitest";
import { anyNotes, n } from "../notes.test-helper";
import { inKey } from "../pitch";
import type { Params } from "../params";
import type { Note } from "../score";
import type { TransformContext } from "./kit";
import { TRANSFORMS } from "./registry";
import { strumCurve } from "./strum";

const KEYS = ["major", "dorian", "harmonic minor", "minor pentatonic", "major blues"];
const apply = (
  id: string,
  notes: readonly Note[],
  params: Params = {},
  context: Partial<TransformContext> = {},
) => TRANSFORMS[id]!.apply(notes, params, { tempo: 125, ...context });
const pitches = (notes: readonly Note[]) => notes.map((note) => note.pitch);
const tonalCount = (scale: string) => Scale.get(`C ${scale}`).notes.length;
/** MIDI pitch of a degree (from 1) of a scale on C4, as tonal says. */
function tonalDegree(scale: string, degree: number): number {
  const name = Scale.degrees(`C4 ${scale}`)(degree);
  const [, letter, sharps, octave] = /^([A-G])([#b]*)(-?\d+)$/.exec(name)!;
  const base = { C: 0, D: 2, E: 4, F: 5, G: 7, A: 9, B: 11 }[letter!]!;
  const bend = [...sharps!].reduce((sum, mark) => sum + (mark === "#" ? 1 : -1), 0);
  return 12 * (Number(octave) + 1) + base + bend;
}
/** At 125 BPM a tick is exactly half a ms. */
const chord = (start: number, list: number[], length = 960) =>
  list.map((pitch) => n(start, { pitch, length }));

describe("invert", () => {
  it("mirrors between the highest and the lowest note, or about a pitch", () => {
    const line = [60, 64, 67, 65].map((pitch, i) => n(i * 240, { pitch }));
    expect(pitches(apply("invert", line, { inKey: false }).notes)).toEqual([67, 63, 60, 62]);
    const about = { inKey: false, axis: "a pitch", pitch: 60 };
    expect(pitches(apply("invert", line, about).notes)).toEqual([60, 56, 53, 55]);
    const c = { key: { root: 0, scale: "major" } };
    // C E G F on degrees 0 2 4 3 becomes 4 2 0 1: G E C D.
    expect(pitches(apply("invert", line, {}, c).notes)).toEqual([67, 64, 60, 62]);
  });

  it("comes back after twice, by semitones for any notes, in the key for the notes of it", () => {
    fc.assert(
      fc.property(anyNotes, (notes) => {
        const once = apply("invert", notes, { inKey: false }).notes;
        expect(apply("invert", once, { inKey: false }).notes).toEqual(notes);
      }),
    );
    const key = fc.record({
      root: fc.integer({ min: 0, max: 11 }),
      scale: fc.constantFrom(...KEYS),
    });
    fc.assert(
      fc.property(anyNotes, key, (notes, k) => {
        const inside = notes.filter((note) => inKey(k, note.pitch));
        const once = apply("invert", inside, {}, { key: k }).notes;
        for (const note of once) expect(inKey(k, note.pitch)).toBe(true);
        expect(apply("invert", once, {}, { key: k }).notes).toEqual(inside);
      }),
    );
  });

  it("gives back, in the key, the notes outside it too that stay in range", () => {
    const key = fc.record({
      root: fc.integer({ min: 0, max: 11 }),
      scale: fc.constantFrom(...KEYS),
    });
    const about = fc.constantFrom<Params>(
      {},
      { axis: "a pitch", pitch: 61 },
      { axis: "a pitch", pitch: 64 },
    );
    fc.assert(
      fc.property(anyNotes, key, about, (notes, k, params) => {
        // Near enough that nothing is mirrored out of range.
        const inside = notes.map((note) => ({ ...note, pitch: 50 + (note.pitch % 28) }));
        const once = apply("invert", inside, params, { key: k }).notes;
        once.forEach((note, i) => {
          expect(inKey(k, note.pitch)).toBe(inKey(k, inside[i]!.pitch));
        });
        expect(apply("invert", once, params, { key: k }).notes).toEqual(inside);
      }),
    );
    // C major about D: what lies between C and D goes between D and E.
    const c = { key: { root: 0, scale: "major" } };
    const line = [60, 61, 62, 63, 64].map((pitch, i) => n(i * 240, { pitch }));
    expect(pitches(apply("invert", line, {}, c).notes)).toEqual([64, 63, 62, 61, 60]);
    // Among F, F# and G it stays; about F# F and G change places.
    const fs = { axis: "a pitch", pitch: 66 };
    const trio = [65, 66, 67].map((pitch, i) => n(i * 240, { pitch }));
    expect(pitches(apply("invert", trio, fs, c).notes)).toEqual([67, 66, 65]);
  });

  it("agrees with tonal on the degrees of the modes", () => {
    for (const scale of KEYS) {
      // Degrees count from 1 upward there.
      const line = Array.from({ length: tonalCount(scale) + 1 }, (_, i) =>
        n(i * 240, { pitch: tonalDegree(scale, i + 1) }),
      );
      const after = apply("invert", line, {}, { key: { root: 0, scale } }).notes;
      expect(pitches(after)).toEqual(pitches(line).reverse());
    }
  });
});

describe("transpose by degrees", () => {
  it("agrees with tonal for all modes, up and down over octaves", () => {
    for (const scale of KEYS) {
      const line = Array.from({ length: 8 }, (_, i) =>
        n(i * 240, { pitch: tonalDegree(scale, i + 1) }),
      );
      for (let degrees = 0; degrees <= 9; degrees++) {
        const key = { root: 0, scale };
        const up = apply("transpose", line, { degrees }, { key }).notes;
        expect(pitches(up)).toEqual(line.map((_, i) => tonalDegree(scale, i + 1 + degrees)));
        const back = apply("transpose", up, { degrees: -degrees }, { key }).notes;
        expect(pitches(back)).toEqual(pitches(line));
      }
    }
  });
});

describe("legato", () => {
  it("leaves no gap and no overlap between onsets, and ends where the line ended", () => {
    fc.assert(
      fc.property(anyNotes, (notes) => {
        const apart = notes.map((note, i) => ({
          ...note,
          start: i * 100 + (Math.abs(note.start) % 30),
        }));
        const after = [...apply("legato", apart).notes].sort((a, b) => a.start - b.start);
        for (let i = 1; i < after.length; i++) {
          expect(after[i - 1]!.start + after[i - 1]!.length).toBe(after[i]!.start);
        }
        const last = after[after.length - 1];
        const end = Math.max(...apart.map((note) => note.start + note.length));
        if (last) expect(last.start + last.length).toBe(end);
      }),
    );
    const line = [...chord(0, [60, 64], 100), n(960, { length: 2000 }), n(1920, { length: 50 })];
    expect(apply("legato", line).notes.map((note) => note.length)).toEqual([960, 960, 960, 1040]);
    // 20 ms are 40 ticks here.
    expect(apply("legato", line, { gap: 20 }).notes.map((note) => note.length)).toEqual([
      920, 920, 920, 1040,
    ]);
  });
});

describe("length", () => {
  it("sets, scales and trims, never below a tick", () => {
    const line = [n(0, { length: 480 }), n(960, { length: 1 })];
    const lengths = (params: Params) => apply("length", line, params).notes.map((x) => x.length);
    expect(lengths({ way: "set", value: "8", kind: "triplet" })).toEqual([320, 320]);
    expect(lengths({ way: "scale", scale: 50 })).toEqual([240, 1]);
    expect(lengths({ way: "trim", trim: 100 })).toEqual([280, 1]);
    expect(lengths({ way: "trim", trim: -100 })).toEqual([680, 201]);
  });
});

describe("strum", () => {
  const held = chord(0, [67, 60, 64], 960);
  it("begins exactly at both ends of the spread, and leaves the ends of notes alone", () => {
    const up = apply("strum", held, { spread: 100 }).notes;
    // 100 ms are 200 ticks: low, middle, high.
    expect(up.map((note) => [note.pitch, note.start])).toEqual([
      [67, 200],
      [60, 0],
      [64, 100],
    ]);
    for (const note of up) expect(note.start + note.length).toBe(960);
    const down = apply("strum", held, { spread: 100, direction: "down" }).notes;
    expect(down.map((note) => note.start)).toEqual([0, 200, 100]);
    const value = apply("strum", held, { unit: "note value", value: "8", curve: 40 }).notes;
    expect([value[1]!.start, value[0]!.start]).toEqual([0, 480]);
    fc.assert(
      fc.property(fc.integer({ min: -100, max: 100 }), (bend) => {
        expect([strumCurve(0, bend), strumCurve(1, bend)]).toEqual([0, 1]);
      }),
    );
  });
  it("alternates, tilts velocities, and leaves single notes alone", () => {
    const two = [...held, n(1920, { pitch: 50 }), ...chord(3840, [60, 64])];
    const after = apply("strum", two, { direction: "alternate", spread: 50, tilt: 20 }).notes;
    expect(after.map((note) => note.start)).toEqual([100, 0, 50, 1920, 3940, 3840]);
    expect(after.map((note) => note.velocity)).toEqual([116, 96, 106, 96, 116, 96]);
    const line = [n(0), n(480)];
    expect(apply("strum", line).effect.sentence).toMatch(/nothing to strum/);
  });
});

describe("arpeggiate", () => {
  const held = [n(0, { pitch: 64 }), n(0, { pitch: 60 }), n(0, { pitch: 67 })].map((note) => ({
    ...note,
    length: 8 * 240,
  }));
  const order = (params: Params) =>
    [...apply("arpeggiate", held, params).notes]
      .sort((a, b) => a.start - b.start)
      .map((x) => x.pitch);
  // Worked out by hand for a chord entered E C G, eight sixteenths long.
  const EXAMPLES: [string, Params, number[]][] = [
    ["up", { mode: "up" }, [60, 64, 67, 60, 64, 67, 60, 64]],
    ["down", { mode: "down" }, [67, 64, 60, 67, 64, 60, 67, 64]],
    ["up and down, the ends once", { mode: "up-down" }, [60, 64, 67, 64, 60, 64, 67, 64]],
    ["as entered", { mode: "as entered" }, [64, 60, 67, 64, 60, 67, 64, 60]],
    ["up over two octaves", { mode: "up", octaves: 2 }, [60, 64, 67, 72, 76, 79, 60, 64]],
    ["down over two octaves", { mode: "down", octaves: 2 }, [79, 76, 72, 67, 64, 60, 79, 76]],
  ];
  for (const [name, params, expected] of EXAMPLES) {
    it(`goes ${name}`, () => expect(order(params)).toEqual(expected));
  }

  it("lets a chord go that only reaches over the next one's beginning", () => {
    const chord = (start: number, length: number, ...pitches: number[]) =>
      pitches.map((pitch) => n(start, { pitch, length }));
    const over = [...chord(0, 960 + 40, 60, 64), ...chord(960, 960, 65, 69)];
    const { notes } = apply("arpeggiate", over, { mode: "up" });
    const later = notes.filter((note) => note.start >= 960).map((note) => note.pitch);
    expect(new Set(later)).toEqual(new Set([65, 69]));
    // Held on for longer, it belongs to what follows.
    const on = [...chord(0, 1920, 60), ...chord(960, 960, 65)];
    const both = apply("arpeggiate", on, { mode: "up" }).notes;
    expect(new Set(both.filter((note) => note.start >= 960).map((x) => x.pitch))).toEqual(
      new Set([60, 65]),
    );
  });

  it("repeats the whole chord, and draws at random only its notes, the same for the same seed", () => {
    expect(order({ mode: "chord", value: "8" })).toHaveLength(4 * 3);
    const random = order({ mode: "random", seed: 4 });
    for (const pitch of random) expect([60, 64, 67]).toContain(pitch);
    expect(order({ mode: "random", seed: 4 })).toEqual(random);
    expect(order({ mode: "random", seed: 5 })).not.toEqual(random);
  });

  it("is as long as gate times rate, in note values, triplets or ms, and can slow down", () => {
    const of = (params: Params) =>
      [...apply("arpeggiate", held, params).notes].sort((a, b) => a.start - b.start);
    expect(of({ gate: 50 }).map((x) => [x.start, x.length])[1]).toEqual([240, 120]);
    expect(of({ kind: "triplet" }).map((x) => x.start)[1]).toBe(160);
    expect(of({ unit: "ms", ms: 50 }).map((x) => x.start)[1]).toBe(100);
    expect(of({ change: 50 }).map((x) => x.start)).toEqual([0, 240, 600, 1140]);
  });

  it("begins anew with each chord, and ends with it", () => {
    const two = [...chord(0, [60, 64], 960), ...chord(480, [65, 69], 480)];
    const after = [...apply("arpeggiate", two).notes].sort((a, b) => a.start - b.start);
    expect(after.map((x) => [x.start, x.pitch])).toEqual([
      [0, 60],
      [240, 64],
      // What is still held belongs to the new chord.
      [480, 60],
      [720, 64],
    ]);
    const apart = [...chord(0, [60, 64], 480), ...chord(480, [65, 69], 480)];
    const then = [...apply("arpeggiate", apart).notes].sort((a, b) => a.start - b.start);
    expect(then.map((x) => x.pitch)).toEqual([60, 64, 65, 69]);
  });

  it("goes on playing a note that is held while others come and go", () => {
    // C for four beats, E and G from the second beat to the third.
    const notes = [n(0, { pitch: 60, length: 4 * 960 }), ...chord(960, [64, 67], 960)];
    const after = [...apply("arpeggiate", notes, { value: "8" }).notes].sort(
      (a, b) => a.start - b.start,
    );
    expect(after.map((x) => [x.start, x.pitch])).toEqual([
      [0, 60],
      [480, 60],
      [960, 60],
      [1440, 64],
      [1920, 60],
      [2400, 60],
      [2880, 60],
      [3360, 60],
    ]);
    expect(new Set(after.map((x) => x.id)).size).toBe(after.length);
  });
});

describe("inversion", () => {
  const chord = (...pitches: number[]) => pitches.map((pitch) => n(0, { pitch, id: `c${pitch}` }));
  const turned = (notes: Note[], steps: number) =>
    TRANSFORMS.inversion!.apply(notes, { steps }, { kind: "melody" });
  const pitches = (notes: readonly Note[]) => notes.map(({ pitch }) => pitch);

  it("takes the lowest tone to the top, and back; of a doubled root the first free octave", () => {
    expect(pitches(turned(chord(60, 64, 67), 1).notes)).toEqual([72, 64, 67]);
    expect(pitches(turned(chord(60, 64, 67), 2).notes)).toEqual([72, 76, 67]);
    expect(pitches(turned(chord(60, 64, 67), -1).notes)).toEqual([60, 64, 55]);
    expect(pitches(turned(chord(48, 60, 64, 67), 1).notes)).toEqual([72, 60, 64, 67]);
    expect(pitches(turned(turned(chord(60, 64, 67), 5).notes as Note[], -5).notes)).toEqual([
      60, 64, 67,
    ]);
    expect(turned(chord(60, 64, 67), 1).effect.sentence).toBe("1 note of 1 chord moved");
  });

  it("leaves single notes, drums and what would leave the range", () => {
    const line = [n(0), n(240, { pitch: 62 })];
    expect(turned(line, 1).notes).toEqual(line);
    expect(pitches(turned(chord(118, 122, 125), 1).notes)).toEqual([118, 122, 125]);
    expect(turned(chord(118, 122, 125), 1).effect.sentence).toMatch(/1 held inside the range/);
    const kit = TRANSFORMS.inversion!.apply(chord(36, 38), { steps: 1 }, { kind: "drums" });
    expect(pitches(kit.notes)).toEqual([36, 38]);
  });
});
