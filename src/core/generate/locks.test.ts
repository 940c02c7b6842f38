import { describe, expect, it } from "vitest";
import { inKey } from "../pitch";
import { makeNote } from "../score";
import { topLine } from "./common/idea";
import { generateIdeas } from "./ideas";
import type { IdeaOptions } from "./options";
import { PHRASE_DEFAULTS, heightsOf } from "./phrase/options";

const KEY = { root: 2, scale: "minor" };
const BAR = 3840;
const base: Partial<IdeaOptions> = {
  key: KEY,
  bars: 4,
  low: 57,
  high: 81,
  count: 1,
  phrases: PHRASE_DEFAULTS,
};
const [source] = generateIdeas({ ...base, seed: 7 });
const seeds = Array.from({ length: 100 }, (_, i) => 17 * i + 1);
const plain = (notes: readonly { start: number; length: number; pitch: number }[]) =>
  notes.map(({ start, length, pitch }) => [start, length, pitch]);

describe("a line of phrases of which something is kept", () => {
  it("has the kept rhythm exactly, velocities too, and ends on the root or the third", () => {
    for (const seed of seeds) {
      const { notes } = generateIdeas({ ...base, seed, rhythm: source!.notes })[0]!;
      expect(notes.map((n) => [n.start, n.length, n.velocity])).toEqual(
        source!.notes.map((n) => [n.start, n.length, n.velocity]),
      );
      expect([0, 3]).toContain((notes.at(-1)!.pitch - KEY.root + 120) % 12);
    }
  });

  it("has the kept pitches in their order, in another rhythm", () => {
    const pitches = source!.notes.map(({ pitch }) => pitch);
    let others = 0;
    for (const seed of seeds) {
      const { notes } = generateIdeas({ ...base, seed, pitches })[0]!;
      expect(notes.map(({ pitch }) => pitch)).toEqual(pitches);
      if (notes.some(({ start }, i) => start !== source!.notes[i]!.start)) others++;
    }
    expect(others).toBeGreaterThan(90);
  });

  it("has the kept bars note for note, others new; the first bar as a motif comes again", () => {
    let returns = 0;
    const inBar = (notes: readonly { start: number; length: number; pitch: number }[], b: number) =>
      notes.filter(({ start }) => Math.floor(start / BAR) === b);
    for (const seed of seeds) {
      const { notes } = generateIdeas({
        ...base,
        seed,
        keepBars: [0, 3],
        kept: source!.notes,
        repetition: 100,
      })[0]!;
      for (const b of [0, 3])
        expect(plain(inBar(notes, b))).toEqual(plain(inBar(source!.notes, b)));
      const rhythm = (b: number) =>
        inBar(notes, b)
          .map(({ start }) => start - b * BAR)
          .join();
      if (rhythm(1) === rhythm(0) || rhythm(2) === rhythm(0)) returns++;
    }
    expect(returns).toBeGreaterThan(60);
  });

  it("has the contour of what was there, where that is kept: heights of both go together", () => {
    const correlation = (a: readonly number[], b: readonly number[]) => {
      const mean = (x: readonly number[]) => x.reduce((s, v) => s + v, 0) / x.length;
      const [ma, mb] = [mean(a), mean(b)];
      const sum = (f: (i: number) => number) => a.reduce((s, _, i) => s + f(i), 0);
      return (
        sum((i) => (a[i]! - ma) * (b[i]! - mb)) /
        Math.sqrt(sum((i) => (a[i]! - ma) ** 2) * sum((i) => (b[i]! - mb) ** 2))
      );
    };
    const [kept, free] = [true, false].map((keeps) => {
      const all = seeds.map((seed) => {
        const there = generateIdeas({ ...base, seed: seed + 1 })[0]!.notes;
        const drawn = heightsOf(there, 4 * BAR);
        const contour = keeps && ({ contour: "drawn", drawn, over: "line" } as const);
        const phrases = { ...PHRASE_DEFAULTS, form: "phrases", ...contour } as const;
        const [idea] = generateIdeas({ ...base, seed, repetition: 0, phrases });
        return correlation(drawn, heightsOf(idea!.notes, 4 * BAR));
      });
      return all.reduce((s, x) => s + x, 0) / all.length;
    });
    expect(kept).toBeGreaterThan(0.45);
    expect(kept).toBeGreaterThan(free! + 0.15);
  });
});

describe("only some notes of a line", () => {
  const ids = source!.notes.slice(3, 7).map(({ id }) => id);

  it("get other pitches in every idea: none is the line that is there", () => {
    const { notes: there } = source!;
    const one = there[4]!;
    const only = { notes: there, ids: [one.id] };
    for (const seed of seeds)
      for (const { notes } of generateIdeas({ ...base, count: 2, seed, only }))
        expect(notes.find(({ start }) => start === one.start)!.pitch).not.toBe(one.pitch);
  });

  it("get other pitches where they stand; all others are the very same notes", () => {
    let changed = 0;
    for (const seed of seeds) {
      for (const phrases of [PHRASE_DEFAULTS, null]) {
        const { notes } = generateIdeas({
          ...base,
          phrases,
          seed,
          only: { notes: source!.notes, ids },
        })[0]!;
        expect(notes).toHaveLength(source!.notes.length);
        source!.notes.forEach((note, i) => {
          if (!ids.includes(note.id)) expect(notes[i]).toBe(note);
          else {
            expect([notes[i]!.start, notes[i]!.length, notes[i]!.velocity]).toEqual([
              note.start,
              note.length,
              note.velocity,
            ]);
            expect(inKey(KEY, notes[i]!.pitch)).toBe(true);
            if (notes[i]!.pitch !== note.pitch) changed++;
          }
        });
      }
    }
    expect(changed / (seeds.length * 2 * ids.length)).toBeGreaterThan(0.6);
  });

  it("of chords move together; the whole of a line may be chosen, and one note", () => {
    const chord = [60, 64, 67].map((pitch, i) =>
      makeNote({ id: `c${i}`, start: 960, length: 900, pitch, velocity: 80 }),
    );
    const notes = [...source!.notes.filter(({ start }) => start !== 960), ...chord].sort(
      (a, b) => a.start - b.start || a.pitch - b.pitch,
    );
    for (const seed of seeds.slice(0, 30)) {
      const got = generateIdeas({
        ...base,
        seed,
        only: { notes, ids: chord.map(({ id }) => id) },
      })[0]!.notes;
      const own = got.filter(({ start }) => start === 960).map(({ pitch }) => pitch);
      expect(own).toHaveLength(3);
      expect(own.at(-1)! - own[0]!).toBeGreaterThanOrEqual(5);
      expect(topLine(got).filter(({ start }) => start !== 960)).toEqual(
        topLine(notes).filter(({ start }) => start !== 960),
      );
    }
    const all = source!.notes.map(({ id }) => id);
    expect(
      generateIdeas({ ...base, only: { notes: source!.notes, ids: all } })[0]!.notes,
    ).toHaveLength(all.length);
    expect(
      generateIdeas({ ...base, only: { notes: source!.notes, ids: [all[0]!] }, count: 12 }).length,
    ).toBeGreaterThan(2);
  });

  it("of a chord never come to lie on another of its notes, whichever are chosen", () => {
    const chord = [55, 60, 64, 65, 67].map((pitch, i) =>
      makeNote({ id: `c${i}`, start: 960, length: 900, pitch, velocity: 80 }),
    );
    const notes = [...source!.notes.filter(({ start }) => start !== 960), ...chord];
    for (const seed of seeds)
      for (const which of [[4], [2], [0], [1, 3], [0, 1, 2, 3, 4]]) {
        const only = { notes, ids: which.map((i) => `c${i}`) };
        for (const { notes: got } of generateIdeas({ ...base, seed, only, count: 3 })) {
          const own = got.filter(({ start }) => start === 960).map(({ pitch }) => pitch);
          expect(new Set(own).size, `${seed}: ${own.join(" ")}`).toBe(5);
          for (const note of chord)
            if (!only.ids.includes(note.id)) expect(own).toContain(note.pitch);
        }
      }
  });

  it("that are not there are an error that says so", () => {
    expect(() => generateIdeas({ ...base, only: { notes: source!.notes, ids: ["none"] } })).toThrow(
      /only.ids names none/,
    );
  });
});
