import * as fc from "fast-check";
import { describe, expect, it } from "vitest";
import { anyNotes, n } from "../notes.test-helper";
import { grid } from "../time";
import { formatSteps, parseSteps, type Params } from "../params";
import type { Note } from "../score";
import type { TransformContext } from "./kit";
import { PRESETS } from "./presets";
import { TRANSFORMS } from "./registry";

const apply = (
  id: string,
  notes: readonly Note[],
  params: Params = {},
  context: Partial<TransformContext> = {},
) => TRANSFORMS[id]!.apply(notes, params, { tempo: 125, ...context });
/** C E G held for two beats. */
const HELD = [60, 64, 67].map((pitch) => n(0, { pitch, length: 1920, velocity: 100 }));
const told = (notes: readonly Note[]) => notes.map((x) => [x.start, x.pitch, x.length, x.velocity]);
const inOrder = (notes: readonly Note[]) => [...notes].sort((a, b) => a.start - b.start);

describe("arpeggio steps", () => {
  // Worked out by hand: eighths (480 ticks) over C E G, gate 100 %.
  const eighths = { value: "8", gate: 100 };
  it("rests without using up a note", () => {
    const { notes } = apply("arpeggiate", HELD, { ...eighths, steps: "100 r" });
    expect(told(inOrder(notes))).toEqual([
      [0, 60, 480, 100],
      [960, 64, 480, 100],
    ]);
  });

  it("ties a step to the one before, as far as the gate lets it", () => {
    const tied = { ...eighths, steps: "100 t 50" };
    expect(told(inOrder(apply("arpeggiate", HELD, tied).notes))).toEqual([
      [0, 60, 960, 100],
      [960, 64, 480, 50],
      [1440, 67, 480, 100],
    ]);
    const half = apply("arpeggiate", HELD, { ...tied, gate: 50 }).notes;
    expect(told(inOrder(half))[0]).toEqual([0, 60, 720, 100]);
  });

  it("raises and lowers steps by octaves, chords as a whole", () => {
    const up = apply("arpeggiate", HELD, { ...eighths, steps: "100 80+1 60-1" }).notes;
    expect(told(inOrder(up))).toEqual([
      [0, 60, 480, 100],
      [480, 76, 480, 80],
      [960, 55, 480, 60],
      [1440, 60, 480, 100],
    ]);
    const chords = apply("arpeggiate", HELD, { ...eighths, mode: "chord", steps: "r 100" }).notes;
    expect(inOrder(chords).map((x) => [x.start, x.pitch])).toEqual([
      [480, 60],
      [480, 64],
      [480, 67],
      [1440, 60],
      [1440, 64],
      [1440, 67],
    ]);
  });

  it("are read and written, and refused with the reason where they are none", () => {
    const text = "100 60+1 r t 5-3";
    expect(formatSteps(parseSteps(text))).toBe(text);
    expect(parseSteps("")).toEqual([]);
    for (const steps of ["x", "100  50", "100+4", "1000", Array(33).fill("100").join(" ")]) {
      expect(() => apply("arpeggiate", HELD, { steps })).toThrow(/Arpeggiate: steps must be steps/);
    }
  });
});

describe("split", () => {
  const long = [n(100, { length: 3840, velocity: 100 })];
  it("cuts in a rhythm of steps, over and over, and tiles the note", () => {
    const { notes } = apply("split", long, { way: "in a rhythm", rhythm: "3 3 2", value: "16" });
    // By hand: 3, 3 and 2 sixteenths of 240 ticks, twice in a bar.
    expect(notes.map((x) => x.length)).toEqual([720, 720, 480, 720, 720, 480]);
    expect(notes.map((x) => x.start)).toEqual([100, 820, 1540, 2020, 2740, 3460]);
  });

  it("speeds up and ramps", () => {
    const pieces = { way: "into equal pieces", count: 3, ratio: 0.5, velocityTo: -40 };
    const { notes } = apply("split", [n(0, { length: 700, velocity: 100 })], pieces);
    // A geometric series by hand: 4 : 2 : 1 of 700.
    expect(notes.map((x) => [x.length, x.velocity])).toEqual([
      [400, 100],
      [200, 80],
      [100, 60],
    ]);
  });

  it("tiles exactly whatever the way", () => {
    const ways: Params[] = [
      { way: "in a rhythm", rhythm: "1 5 2", value: "32" },
      { way: "into equal pieces", count: 9, ratio: 1.3 },
      { way: "at grid lines", value: "8", kind: "triplet" },
    ];
    fc.assert(
      fc.property(anyNotes, fc.constantFrom(...ways), (notes, params) => {
        const after = apply("split", notes, params).notes;
        for (const note of notes) {
          const pieces = after.filter((x) => x.id === note.id || x.id.startsWith(`${note.id}~`));
          let at = note.start;
          for (const piece of inOrder(pieces)) {
            expect(piece.start).toBe(at);
            at += piece.length;
          }
          expect(at).toBe(note.start + note.length);
        }
      }),
    );
  });

  it("refuses a rhythm that is none", () => {
    for (const rhythm of ["", "0 2", "a", "3,3,2", "100"]) {
      expect(() => apply("split", long, { way: "in a rhythm", rhythm })).toThrow(/rhythm/);
    }
  });
});

describe("stretch to a length", () => {
  it("makes the span so many beats long", () => {
    const { notes } = apply("stretch", [n(960, { length: 480 }), n(1440, { length: 960 })], {
      way: "to a length",
      beats: 3,
    });
    // 1440 ticks become 3 · 960, so everything doubles from 960 on.
    expect(notes.map((x) => [x.start, x.length])).toEqual([
      [960, 960],
      [1920, 1920],
    ]);
  });
});

/** A bar of a kit: what presets for kits do something to. */
const BEAT = Array.from({ length: 16 }, (_, i) => n(240 * i, { pitch: i % 4 === 0 ? 36 : 38 }));
const KIT = {
  kind: "drums" as const,
  length: 3840,
  laneGrids: { 36: grid(16), 38: grid(16), 49: grid(16) },
};

describe("presets that ship with the app", () => {
  it("are valid, have names of their own, and do something", () => {
    for (const [id, list] of Object.entries(PRESETS)) {
      expect(new Set(list.map((preset) => preset.name)).size).toBe(list.length);
      for (const { name, params } of list) {
        expect(TRANSFORMS[id]!.problems(params), name).toEqual([]);
        const on = id === "groove" || id === "drum-fill" ? BEAT : HELD;
        expect(apply(id, on, params, KIT).notes, name).not.toEqual(on);
      }
    }
  });
});
