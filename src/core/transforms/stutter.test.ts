import * as fc from "fast-check";
import { describe, expect, it } from "vitest";
import { n } from "../notes.test-helper";
import { TRANSFORMS } from "./registry";
import { stutterCurve, stutterGaps } from "./stutter";

const stutter = TRANSFORMS.stutter!;

describe("a stutter", () => {
  it("slows down from 47 ms to 188 ms over two bars at 160 BPM, and says so", () => {
    // A 1/32 lasts 46.875 ms there, a 1/8 187.5 ms; gaps are fitted to the phrase by some per cent.
    const { notes, effect } = stutter.apply([n(0, { length: 7680 })], {}, { tempo: 160 });
    const [, first, last] = /^1 note became \d+, from (\d+) ms to (\d+) ms$/.exec(effect.sentence)!;
    expect(Math.abs(Number(first) / 46.875 - 1)).toBeLessThan(0.03);
    expect(Math.abs(Number(last) / 187.5 - 1)).toBeLessThan(0.03);
    const gaps = notes.slice(1).map((note, i) => note.start - notes[i]!.start);
    for (let i = 1; i < gaps.length; i++)
      expect(gaps[i]! - gaps[i - 1]!).toBeGreaterThanOrEqual(-1);
    expect(Math.abs(gaps[0]! / 120 - 1)).toBeLessThan(0.03);
    expect(Math.abs((7680 - notes.at(-1)!.start) / 480 - 1)).toBeLessThan(0.03);
  });

  it("tiles every note at full gate, whatever the rates and the curve", () => {
    const curve = fc.constantFrom("evenly", "early", "late", "slow at both ends");
    const ms = fc.integer({ min: 5, max: 600 });
    fc.assert(
      fc.property(
        ms,
        ms,
        curve,
        fc.integer({ min: 1, max: 9000 }),
        (firstMs, lastMs, how, length) => {
          const chord = [n(100, { length }), n(400, { length, pitch: 64 })];
          const params = { unit: "ms", firstMs, lastMs, curve: how, gate: 100 };
          const { notes } = stutter.apply(chord, params);
          for (const note of chord) {
            const pieces = notes.filter((x) => x.pitch === note.pitch);
            let at = note.start;
            for (const piece of pieces) {
              expect(piece.start).toBe(at);
              at += piece.length;
            }
            expect(at).toBe(note.start + note.length);
          }
        },
      ),
    );
  });

  it("changes early, late, or little at both ends", () => {
    for (const curve of ["evenly", "early", "late", "slow at both ends"]) {
      expect([stutterCurve(0, curve), stutterCurve(1, curve)]).toEqual([0, 1]);
    }
    // From slow to fast, changing early gives more repeats than changing late.
    const count = (curve: string) => stutterGaps(3840, 480, 60, curve).length;
    expect(count("early")).toBeGreaterThan(count("evenly"));
    expect(count("evenly")).toBeGreaterThan(count("late"));
  });

  it("gets louder or softer over the phrase", () => {
    const params = { first: "8", last: "8", velocityFrom: -40, velocityTo: 20 };
    const { notes } = stutter.apply([n(0, { length: 3840, velocity: 80 })], params);
    expect(notes[0]!.velocity).toBe(40);
    expect(notes).toHaveLength(8);
    expect(notes.at(-1)!.velocity).toBe(Math.round(40 + (60 * 7) / 8));
  });

  it("leaves no scrap at the end of a note that ends beside a cut", () => {
    const chord = [n(0, { length: 3840 }), n(0, { id: "short", pitch: 64, length: 1924 })];
    const { notes } = stutter.apply(chord, { first: "16", last: "16", gate: 100 });
    const ends = (pitch: number) =>
      notes.filter((note) => note.pitch === pitch).map((note) => note.length);
    expect(Math.min(...ends(64))).toBeGreaterThanOrEqual(30);
    expect(ends(64).reduce((a, b) => a + b, 0)).toBe(1924);
  });

  it("says of an empty stretch that it is", () => {
    const context = { range: [960, 960] as const };
    const { notes, effect } = stutter.apply([n(0, { length: 3840 })], {}, context);
    expect([notes.length, effect.sentence]).toEqual([
      1,
      "The stretch is empty: nothing to repeat in it",
    ]);
  });
});
