import * as fc from "fast-check";
import { describe, expect, it } from "vitest";
import { n } from "../notes.test-helper";
import { seeded } from "../base";
import { grid } from "../time";
import { parseChord, scaleSemitones } from "../pitch";
import { type Note, sortNotes } from "../score";
import { partDistance, variationsOf, type VaryOptions } from "./vary";

const BAR = 3840;
const options = (notes: readonly Note[], change: Partial<VaryOptions> = {}): VaryOptions => ({
  notes,
  kind: "drums",
  metre: { beats: 4, unit: 4 },
  key: { root: 2, scale: "minor" },
  length: 2 * BAR,
  gridOf: () => grid(16),
  periodOf: () => 2 * BAR,
  chordAt: () => null,
  distance: 30,
  keepStrong: false,
  count: 12,
  seed: 1,
  ...change,
});

/** Two bars of a beat: kick, backbeat, hats. */
const beat: readonly Note[] = [
  ...[0, 2400, 3840, 6240].map((t) => n(t, { pitch: 36 })),
  ...[960, 2880, 4800, 6720].map((t) => n(t, { pitch: 38 })),
  ...Array.from({ length: 16 }, (_, i) => n(480 * i, { pitch: 42 })),
].map((note, i) => ({ ...note, id: `b${i}` }));
const line: readonly Note[] = [62, 65, 69, 67, 65, 64, 62, 60, 58, 62, 65, 67, 69, 65, 64, 62].map(
  (pitch, i) => ({
    ...n(480 * i, { pitch, length: 400 }),
    id: `l${i}`,
  }),
);

describe("the distance of two parts", () => {
  it("is the least number of notes to add, delete or change", () => {
    const a = [n(0), n(240), n(480)];
    expect(partDistance(a, a)).toBe(0);
    expect(partDistance(a, a.slice(1))).toBe(1);
    expect(partDistance(a, [...a, n(960)])).toBe(1);
    expect(partDistance(a, [n(0), n(260), n(480)])).toBe(1);
    expect(partDistance(a, [n(0, { pitch: 61 }), n(260), n(700), n(900)])).toBe(4);
    expect(partDistance(a, [])).toBe(3);
  });

  it("is a metric: as far back as there, none to itself, no way round is shorter", () => {
    const some = fc
      .array(fc.record({ start: fc.nat(4), pitch: fc.nat(2) }), { maxLength: 6 })
      .map((list) => list.map(({ start, pitch }) => n(start * 240, { pitch: 36 + pitch })));
    fc.assert(
      fc.property(some, some, some, (a, b, c) => {
        expect(partDistance(a, b)).toBe(partDistance(b, a));
        expect(partDistance(a, a)).toBe(0);
        expect(partDistance(a, c)).toBeLessThanOrEqual(partDistance(a, b) + partDistance(b, c));
      }),
    );
  });
});

describe("variations", () => {
  for (const [name, notes, kind] of [
    ["a beat", beat, "drums"],
    ["a line", line, "melody"],
  ] as const) {
    it(`of ${name} lie as far off as asked, and farther the more is asked`, () => {
      const means = [5, 15, 30, 50, 80].map((distance) => {
        const wanted = Math.max(1, Math.round((distance * notes.length) / 100));
        const got = Array.from({ length: 40 }, (_, k) =>
          variationsOf(options(notes, { kind, distance, count: 1, seed: 1000 * k })),
        )
          .flat()
          .map((idea) => partDistance(notes, idea.notes));
        for (const one of got) expect(one).toBeLessThanOrEqual(wanted);
        const exact = got.filter((one) => one === wanted).length / got.length;
        expect(exact, `exact at ${distance} %`).toBeGreaterThan(0.9);
        return got.reduce((sum, one) => sum + one, 0) / got.length;
      });
      for (let i = 1; i < means.length; i++) expect(means[i]).toBeGreaterThan(means[i - 1]!);
    });
  }

  it("keep what lies on the beats exactly, and put nothing else there, on wish", () => {
    const strong = (notes: readonly Note[]) =>
      notes
        .filter((note) => Math.round(note.start / 240) % 4 === 0)
        .map(({ start, pitch, velocity }) => `${start} ${pitch} ${velocity}`)
        .sort();
    const kept = variationsOf(options(beat, { distance: 60, keepStrong: true, count: 40 }));
    expect(kept.length).toBe(40);
    for (const idea of kept) expect(strong(idea.notes)).toEqual(strong(beat));
    const free = variationsOf(options(beat, { distance: 60, count: 40 }));
    expect(free.some((idea) => strong(idea.notes).join() !== strong(beat).join())).toBe(true);
  });

  it("are none alike, none the part itself, and the same for the same seed", () => {
    const found = variationsOf(options(beat, { count: 24 }));
    const texts = found.map((idea) => JSON.stringify(idea.notes));
    expect(new Set(texts).size).toBe(24);
    expect(variationsOf(options(beat, { count: 24 }))).toEqual(found);
    expect(variationsOf(options(beat, { count: 24, seed: 77 }))).not.toEqual(found);
  });

  it("of a line take their pitches from the chord that holds, else from the key", () => {
    const chord = parseChord("Dm")!;
    const over = variationsOf(
      options(line, { kind: "melody", distance: 60, chordAt: () => chord, count: 30 }),
    );
    const own = new Set(line.map((note) => `${note.pitch}`));
    for (const note of over.flatMap((idea) => idea.notes)) {
      if (own.has(`${note.pitch}`)) continue;
      expect([2, 5, 9]).toContain(note.pitch % 12);
    }
    const scale = new Set(scaleSemitones("minor").map((s) => (s + 2) % 12));
    for (const note of variationsOf(
      options(line, { kind: "melody", distance: 60, count: 30 }),
    ).flatMap((idea) => idea.notes))
      expect(scale).toContain(note.pitch % 12);
  });

  it("stay inside the loop and off each other, whatever is varied", () => {
    const random = seeded(5);
    for (let k = 0; k < 60; k++) {
      const notes = Array.from({ length: 1 + Math.floor(random() * 20) }, (_, i) => ({
        ...n(Math.floor(random() * 32) * 240, {
          pitch: 36 + Math.floor(random() * 3),
          length: 200,
        }),
        id: `r${i}`,
      })).filter(
        (a, i, all) => !all.slice(0, i).some((b) => b.start === a.start && b.pitch === a.pitch),
      );
      for (const { notes: made } of variationsOf(
        options(notes, { distance: 100, seed: k, count: 3 }),
      )) {
        const places = made.map(({ start, pitch }) => `${start} ${pitch}`);
        expect(new Set(places).size).toBe(places.length);
        for (const { start, length } of made) {
          expect(start).toBeGreaterThanOrEqual(0);
          expect(start).toBeLessThan(2 * BAR);
          expect(length).toBeGreaterThan(0);
        }
      }
    }
  });

  it("of a single note and of none end", () => {
    expect(variationsOf(options([]))).toEqual([]);
    expect(variationsOf(options([n(0)], { distance: 100 })).length).toBeGreaterThan(0);
  });
});

describe("variations of what is selected", () => {
  it("leave all other notes the very same, and put nothing outside the stretch or into kept bars", () => {
    const hats = new Set(
      beat.filter(({ pitch, start }) => pitch === 42 && start >= BAR).map(({ id }) => id),
    );
    const tones = new Set(["l4", "l5", "l6", "l7"]);
    for (const [notes, only, kind] of [
      [beat, hats, "drums"],
      [line, tones, "melody"],
    ] as const) {
      const others = notes.filter(({ id }) => !only.has(id));
      const starts = notes.filter(({ id }) => only.has(id)).map(({ start }) => start);
      const found = variationsOf(options(notes, { only, kind, distance: 60 }));
      expect(found.length).toBeGreaterThan(6);
      for (const { notes: made } of found) {
        expect(made).toEqual(expect.arrayContaining([...others]));
        for (const note of made.filter((note) => !others.includes(note))) {
          expect(note.start).toBeGreaterThanOrEqual(Math.min(...starts));
          expect(note.start).toBeLessThan(Math.max(...starts) + 240);
        }
      }
    }
    for (const { notes: made } of variationsOf(
      options(beat, { keeps: (tick) => tick < BAR, distance: 80 }),
    )) {
      const first = (list: readonly Note[]) => list.filter(({ start }) => start < BAR);
      expect(first(made)).toEqual(first(sortNotes(beat)));
    }
  });
});
