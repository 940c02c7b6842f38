import * as fc from "fast-check";
import { describe, expect, it } from "vitest";
import { anyNotes, n } from "../notes.test-helper";
import { TRANSFORMS } from "./registry";

const echo = TRANSFORMS.echo!;
const places = (notes: readonly { start: number; velocity: number }[]) =>
  notes.map((note) => [note.start, note.velocity]).sort((a, b) => a[0]! - b[0]!);

describe("echo", () => {
  it("repeats a note a dotted eighth apart, each softer by its share", () => {
    const { notes, effect } = echo.apply([n(0, { velocity: 100 })], { number: 3, decay: 40 });
    // 100, 60, 36, 21.6: a geometric series.
    expect(places(notes)).toEqual([
      [0, 100],
      [720, 60],
      [1440, 36],
      [2160, 22],
    ]);
    expect(effect.sentence).toBe("3 notes added, 375 ms apart, each 40 % softer");
  });

  it("takes its time in ms too, each repeat rounded from the exact place", () => {
    // At 110 BPM 100 ms are 176 ticks; a third of a second is 586.66 ticks.
    const context = { tempo: 110 };
    const { notes } = echo.apply(
      [n(0)],
      { unit: "ms", ms: 1000 / 3, number: 3, decay: 0 },
      context,
    );
    expect(notes.map((note) => note.start)).toEqual([0, 587, 1173, 1760]);
  });

  it("comes round at the end of the loop, of the lane's own where it has one, or falls away", () => {
    const params = { number: 2, value: "4", kind: "straight", decay: 0 };
    const one = [n(2880)];
    const starts = (ends: string, context = {}) =>
      echo
        .apply(one, { ...params, ends }, { length: 3840, ...context })
        .notes.map((note) => note.start)
        .sort((a, b) => a - b);
    expect(starts("come round")).toEqual([0, 960, 2880]);
    expect(starts("fall away")).toEqual([2880]);
    expect(starts("come round", { lanePeriods: { 60: 3000 } })).toEqual([840, 1800, 2880]);
  });

  it("ends where it would be silent, and never lies on a note of the same pitch", () => {
    const quiet = echo.apply([n(0, { velocity: 2 })], { number: 16, decay: 80 });
    expect(quiet.notes).toHaveLength(1);
    expect(quiet.effect.sentence).toContain("none added");
    const params = { number: 4, value: "4", kind: "straight", decay: 10 };
    fc.assert(
      fc.property(anyNotes, (notes) => {
        const before = new Set(notes.map((note) => `${note.start}:${note.pitch}`));
        const after = echo.apply(notes, params, { length: 3840 }).notes;
        const added = after.slice(notes.length).map((note) => `${note.start}:${note.pitch}`);
        expect(new Set(added).size).toBe(added.length);
        expect(added.filter((place) => before.has(place))).toEqual([]);
        expect(after.slice(0, notes.length)).toEqual(notes);
      }),
    );
  });
});
