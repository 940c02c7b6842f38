import * as fc from "fast-check";
import { describe, expect, it } from "vitest";
import { n } from "../notes.test-helper";
import { bell, seeded } from "../base";
import { barTicks, grid, gridTicks, lineAt, nearestLine } from "../time";
import type { Note } from "../score";
import { PRESETS, TRANSFORMS } from "../transforms";
import { fromSource, grooveOf, grooveText, parseGroove, sourceOfGroove } from "./groove";

const METRES = [
  { beats: 4, unit: 4 },
  { beats: 3, unit: 4 },
  { beats: 7, unit: 8 },
  { beats: 6, unit: 8 },
];
const apply = (notes: readonly Note[], params: object, context = {}) =>
  TRANSFORMS.groove!.apply(notes, params as never, context).notes;

/** Notes of a bar of a metre, each off its line by so much, and the same on their lines. */
const felt = fc
  .record({
    metre: fc.constantFrom(...METRES),
    value: fc.constantFrom(8, 16),
    kind: fc.constantFrom("straight" as const, "triplet" as const),
    off: fc.array(
      fc.record({ by: fc.integer({ min: -50, max: 50 }), v: fc.integer({ min: 1, max: 127 }) }),
      {
        minLength: 24,
        maxLength: 24,
      },
    ),
    drop: fc.array(fc.boolean(), { minLength: 24, maxLength: 24 }),
  })
  .map(({ metre, value, kind, off, drop }) => {
    const on = grid(value, kind);
    const cells = Math.round(barTicks(metre) / gridTicks(on));
    const steps = Array.from({ length: Math.min(24, cells) }, (_, i) => i).filter((i) => !drop[i]);
    const notes = steps.map((i) => ({
      ...n(lineAt(on, i) + off[i]!.by, { velocity: off[i]!.v }),
      id: `g${i}`,
    }));
    const quantized = notes.map((note) => ({
      ...note,
      start: lineAt(on, nearestLine(on, note.start)),
    }));
    return { metre, on, notes, quantized };
  });

describe("a groove", () => {
  it("taken from a part and laid over the same notes quantized gives the part back within a tick", () => {
    fc.assert(
      fc.property(felt, ({ metre, on, notes, quantized }) => {
        fc.pre(notes.length > 0);
        const taken = grooveOf(notes, metre, () => on)!;
        const text = grooveText(taken);
        expect(parseGroove(text)).toEqual(taken);
        const back = apply(quantized, { groove: text }, { metre, grid: on });
        back.forEach((note, i) => {
          expect(Math.abs(note.start - notes[i]!.start)).toBeLessThanOrEqual(1);
          expect(Math.abs(note.velocity - notes[i]!.velocity)).toBeLessThanOrEqual(1);
        });
      }),
    );
  });

  it("is the mean over bars, with how far they spread", () => {
    const random = seeded(3);
    const on = grid(16);
    // Four hundred bars: each sixteenth late by its place, give or take 10 ticks (standard deviation).
    const notes = Array.from({ length: 400 * 16 }, (_, i) => ({
      ...n(Math.round(240 * i + 2 * (i % 16) + 30 * bell(random))),
      id: `m${i}`,
    }));
    const { steps } = grooveOf(notes, { beats: 4, unit: 4 }, () => on)!;
    steps.forEach(({ offset, spread }, i) => {
      expect(Math.abs(offset! - 2 * i)).toBeLessThanOrEqual(2);
      expect(Math.abs(spread - 10)).toBeLessThanOrEqual(2);
    });
  });

  it("of a swung grid is its swing", () => {
    const on = grid(8, "straight", 66);
    const notes = Array.from({ length: 8 }, (_, i) => ({ ...n(lineAt(on, i)), id: `s${i}` }));
    const taken = grooveOf(notes, { beats: 4, unit: 4 }, () => on)!;
    // 66 % of a quarter of 960 ticks, less the straight eighth at 480.
    expect(taken.steps.map((step) => step.offset)).toEqual([0, 154, 0, 154, 0, 154, 0, 154]);
  });

  it("moves by amount, timing and velocity apart", () => {
    const notes = [n(0, { velocity: 100 }), n(240, { velocity: 100 })];
    const groove = "1/16 0/100 40/60";
    expect(apply(notes, { groove, timing: 50, velocity: 0 }).map((x) => x.start)).toEqual([0, 260]);
    expect(apply(notes, { groove, timing: 0, velocity: 50 }).map((x) => x.velocity)).toEqual([
      100, 80,
    ]);
    expect(apply(notes, { groove, timing: 0, velocity: 0 })).toEqual(notes);
    expect(apply(notes, { groove: "1/16 - -" })).toEqual(notes);
  });

  it("that ships says what it does: swing of so many per cent, late backbeats, early offbeats", () => {
    const straight = Array.from({ length: 16 }, (_, i) => ({ ...n(240 * i), id: `p${i}` }));
    for (const { name, params } of PRESETS.groove!) {
      expect(TRANSFORMS.groove!.problems(params)).toEqual([]);
      const swing = /^Swing (\d+) on (sixteenths|eighths)/.exec(name);
      if (!swing) continue;
      const cell = swing[2] === "eighths" ? 480 : 240;
      const notes = straight.filter((note) => note.start % cell === 0);
      const moved = apply(notes, params, { grid: grid(16) });
      expect(moved.map((note) => note.start % (2 * cell))).toEqual(
        notes.map((_, i) => (i % 2 === 0 ? 0 : Math.round((2 * cell * Number(swing[1])) / 100))),
      );
    }
    const of = (name: string) => PRESETS.groove!.find((p) => p.name.startsWith(name))!.params;
    expect(apply(straight, of("Late"))[4]!.start).toBe(980);
    expect(apply(straight, of("Pushed"))[2]!.start).toBe(464);
  });

  it("that is none is refused", () => {
    const wrong = [
      "",
      "16 0/1",
      "1/16",
      "1/12 0/1",
      "1/16 0/0",
      "1/16 9999/9",
      "1/16 x",
      `1/16 ${"- ".repeat(200)}`,
    ];
    for (const text of wrong) {
      expect(parseGroove(text)).toBeNull();
      expect(TRANSFORMS.groove!.problems({ groove: text }).length).toBeGreaterThan(0);
    }
  });
});

describe("a groove of a sparse lane", () => {
  /** Backbeats, the first 20 ticks late and the second 30 early. */
  const snare = [n(980, { pitch: 38 }), n(2850, { pitch: 38 })];
  const taken = grooveText(grooveOf(snare, { beats: 4, unit: 4 }, () => grid(4))!);
  const hats = Array.from({ length: 32 }, (_, i) => n(i * 120, { pitch: 42, id: `h${i}` }));
  const felt = apply(
    hats,
    { groove: taken, between: "go along" },
    { kind: "drums", grid: grid(32) },
  );

  it("moves what lies between its steps by as much as lies between, and stacks nothing", () => {
    const starts = felt.map(({ start }) => start);
    expect(starts[8]).toBe(980);
    expect(starts[24]).toBe(2850);
    // Half way from 20 late to 30 early it is 5 early.
    expect(starts[16]).toBe(1915);
    expect(new Set(starts).size).toBe(32);
    expect(starts).toEqual([...starts].sort((a, b) => a - b));
    for (const [i, start] of starts.entries())
      expect(Math.abs(start - i * 120)).toBeLessThanOrEqual(30);
  });

  it("in cards of before pulls to its nearest step, as it did", () => {
    const before = apply(hats, { groove: taken }, { kind: "drums", grid: grid(32) });
    expect(before.filter(({ start }) => start === 980).length).toBeGreaterThan(1);
  });

  it("keeps the order of notes, however far apart its steps lean", () => {
    const wild = fc.array(fc.option(fc.integer({ min: -400, max: 400 }), { nil: null }), {
      minLength: 16,
      maxLength: 16,
    });
    fc.assert(
      fc.property(wild, (offsets) => {
        const groove = `1/16 ${offsets.map((o) => (o === null ? "-" : `${o}/-`)).join(" ")}`;
        const made = apply(
          hats,
          { groove, between: "go along" },
          { kind: "drums", grid: grid(32) },
        );
        const starts = hats.map(({ id }) => made.find((note) => note.id === id)!.start);
        expect(starts).toEqual([...starts].sort((a, b) => a - b));
      }),
    );
  });

  it("says where it was taken from, and is read with that", () => {
    const text = fromSource(taken, "Harbour kit: Snare");
    expect(sourceOfGroove(text)).toBe("Harbour kit: Snare");
    expect(parseGroove(text)).toEqual(parseGroove(taken));
    expect(sourceOfGroove(taken)).toBe("");
  });
});
