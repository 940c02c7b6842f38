import { describe, expect, it } from "vitest";
import { n } from "../notes.test-helper";
import { TRANSFORMS } from "./registry";
import { stutterGaps } from "./stutter";

const apply = (id: string, notes: ReturnType<typeof n>[], params: object, context = {}) =>
  TRANSFORMS[id]!.apply(notes, params as never, context).notes;

describe("a stutter's ramp", () => {
  it("begins with the first gap, ends with the last, and is straight where it has no curve", () => {
    const gaps = stutterGaps(3840, 480, 240, "straight");
    const [first, last] = [gaps[0]!, gaps.at(-1)!];
    expect(first / last).toBeCloseTo(2, 1);
    // Of a straight ramp the middle gap is the mean of its neighbours, in ticks or in their ratios.
    for (let i = 1; i < gaps.length - 1; i++) {
      const [a, b, c] = [gaps[i - 1]!, gaps[i]!, gaps[i + 1]!];
      expect(Math.abs(b - (a + c) / 2)).toBeLessThan(0.05 * b);
    }
    expect(gaps.reduce((sum, gap) => sum + gap, 0)).toBeCloseTo(3840, 6);
  });
});

describe("a groove's looseness", () => {
  it("spreads starts by as much as its steps were spread, at full", () => {
    const hats = Array.from({ length: 4000 }, (_, i) => n(i * 240, { pitch: 42, id: `h${i}` }));
    const deviation = (loose: number) => {
      const made = apply("groove", hats, { groove: "1/16 0/-/20", loose }, { kind: "drums" });
      const offs = made.map((note, i) => note.start - hats[i]!.start).slice(1);
      const mean = offs.reduce((sum, off) => sum + off, 0) / offs.length;
      return Math.sqrt(offs.reduce((sum, off) => sum + (off - mean) ** 2, 0) / offs.length);
    };
    expect(deviation(100)).toBeGreaterThan(18);
    expect(deviation(100)).toBeLessThan(22);
    expect(deviation(50)).toBeGreaterThan(9);
    expect(deviation(50)).toBeLessThan(11);
    expect(deviation(0)).toBe(0);
  });
});

describe("a drum fill", () => {
  it("lets both kicks of General MIDI go on beneath it, 35 and 36, and nothing else", () => {
    const grids = Object.fromEntries(
      [35, 36, 38, 42, 45].map((pitch) => [pitch, { value: 16, kind: "straight", swing: 50 }]),
    );
    const beat = [35, 36, 38, 42].map((pitch) => n(3600, { pitch, id: `b${pitch}` }));
    const made = apply(
      "drum-fill",
      beat,
      { every: 1, span: "beat", crash: false },
      {
        kind: "drums",
        length: 3840,
        patternLength: 3840,
        laneGrids: grids,
      },
    );
    expect(made.filter(({ id }) => id.startsWith("b")).map(({ pitch }) => pitch)).toEqual([35, 36]);
  });
});
