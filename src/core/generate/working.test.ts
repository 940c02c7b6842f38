import { describe, expect, it } from "vitest";
import { grid } from "../time";
import { makeNote, shapeOf } from "../score";
import { childrenOf } from "./breed";
import { CHORD_MEASURES } from "./judge/chord-measures";
import { generateProgressions, type ChordIdea } from "./chords/progressions";
import { generateDrumIdeas } from "./drums/ideas";
import type { Idea } from "./common/idea";
import { generateIdeas } from "./ideas";
import { MEASURES, measuresOf } from "./judge/measures";
import type { IdeaOptions } from "./options";
import { PHRASE_DEFAULTS } from "./phrase/options";
import { NO_TASTE, chosenBy, learned, scorer, weightsOf } from "./judge/taste";

const METRE = { beats: 4, unit: 4 };
const BAR = 3840;
const lines = (count: number, seed: number, more: Partial<IdeaOptions> = {}) =>
  generateIdeas({
    key: { root: 0, scale: "minor" },
    bars: 4,
    low: 57,
    high: 81,
    phrases: PHRASE_DEFAULTS,
    count,
    seed,
    ...more,
  });
const LANES = [36, 38, 42, 46, 45, 50].map((pitch) => ({ pitch, grid: grid(16), period: null }));
const beats = (more: object) =>
  generateDrumIdeas({ lanes: LANES, bars: 4, style: "straight", ...more });
const measured = ({ notes }: Idea) => ({ notes, bars: 4, metre: METRE });

describe("taste", () => {
  const pool = lines(60, 1);
  const at = (id: string) => MEASURES.findIndex((measure) => measure.id === id);
  const by = (id: string) =>
    [...pool].sort((a, b) => measuresOf(measured(b))[at(id)]! - measuresOf(measured(a))[at(id)]!);

  it("is none while nothing was starred or dropped: ideas come as they came", () => {
    const shown = learned(NO_TASTE, "shown", pool.map(measured));
    expect(weightsOf(shown).every((weight) => weight === 0)).toBe(true);
    expect(chosenBy(shown, pool, 12, measured)).toEqual(pool.slice(0, 12));
  });

  it("learns each measure: what is starred for it has a higher weight, and sheets go that way", () => {
    for (const id of ["density", "compass", "syncopation", "leaps"]) {
      const sorted = by(id);
      let taste = learned(NO_TASTE, "shown", pool.map(measured));
      taste = learned(taste, "liked", sorted.slice(0, 4).map(measured));
      taste = learned(taste, "dropped", sorted.slice(-4).map(measured));
      const weights = weightsOf(taste);
      expect(weights[at(id)], id).toBeGreaterThan(0.6);
      for (const weight of weights) expect(Math.abs(weight)).toBeLessThanOrEqual(2);
      const fresh = lines(48, 5000);
      const mean = (list: readonly Idea[]) =>
        list.reduce((sum, one) => sum + measuresOf(measured(one))[at(id)]!, 0) / list.length;
      const sheet = chosenBy(taste, fresh, 12, measured);
      expect(sheet).toHaveLength(12);
      expect(mean(sheet), id).toBeGreaterThan(mean(fresh));
      // A third of it is as it came, so that there is something new.
      expect(sheet.slice(8)).toEqual(
        fresh.filter((idea) => !sheet.slice(0, 8).includes(idea)).slice(0, 4),
      );
      expect(scorer(taste)(measured(sorted[0]!))).toBeGreaterThan(
        scorer(taste)(measured(sorted.at(-1)!)),
      );
    }
  });

  it("says little after one example, more after some, and is forgotten with them", () => {
    const sorted = by("density");
    const after = (count: number) =>
      weightsOf(
        learned(
          learned(NO_TASTE, "shown", pool.map(measured)),
          "liked",
          sorted.slice(0, count).map(measured),
        ),
      )[at("density")]!;
    expect(after(1)).toBeLessThan(after(4) * 1.2);
    expect(after(4)).toBeGreaterThan(0.5);
  });

  it("is learned of lines of chords by measures of their own", () => {
    const key = { root: 9, scale: "minor" };
    const progressions = (seed: number, count = 48) =>
      generateProgressions({ key, bars: 4, sevenths: "on all", count, seed });
    const chordal = ({ notes, chords }: ChordIdea) => ({
      notes,
      bars: 4,
      metre: METRE,
      chords,
      key,
    });
    const pool = progressions(3);
    for (const id of ["minor", "home", "fifths", "steps"]) {
      const at = CHORD_MEASURES.findIndex((measure) => measure.id === id);
      const value = (idea: ChordIdea) => measuresOf(chordal(idea))[at]!;
      const sorted = [...pool].sort((a, b) => value(b) - value(a));
      let taste = learned(NO_TASTE, "shown", pool.map(chordal));
      taste = learned(taste, "liked", sorted.slice(0, 3).map(chordal));
      taste = learned(taste, "dropped", sorted.slice(-3).map(chordal));
      expect(weightsOf(taste)[at], id).toBeGreaterThan(0.6);
      const fresh = progressions(9000);
      const mean = (list: readonly ChordIdea[]) =>
        list.reduce((sum, one) => sum + value(one), 0) / list.length;
      expect(mean(chosenBy(taste, fresh, 12, chordal)), id).toBeGreaterThan(mean(fresh));
    }
    // Am, Dm, E7, Am in A minor: one change a bar, three minor, one of four tones, twice at home, by fifths all but one.
    const marks = ["Am", "Dm", "E7", "Am"].map((name, i) => ({
      ...{ id: `c${i}`, start: i * BAR, name, inversion: 0, spread: "close" as const },
    }));
    const of = (id: string) =>
      CHORD_MEASURES.find((one) => one.id === id)!.of({
        notes: [],
        bars: 4,
        metre: METRE,
        chords: marks,
        key,
      });
    expect(["changes", "minor", "sevenths", "home", "begins"].map(of)).toEqual([
      1, 0.75, 0.25, 0.5, 1,
    ]);
    expect(["fifths", "steps", "again"].map(of)).toEqual([2 / 3, 1 / 3, 0.25]);
    for (const value of measuresOf({ notes: [], bars: 4, metre: METRE, chords: [], key }))
      expect(Number.isFinite(value)).toBe(true);
  });

  it("measures an empty idea, one note and beats without a number that is none", () => {
    for (const notes of [
      [],
      [makeNote({ id: "a", start: 0, length: 1, pitch: 0 })],
      beats({ count: 1 })[0]!.notes,
    ])
      for (const value of measuresOf({ notes, bars: 1, metre: { beats: 7, unit: 8 } }))
        expect(Number.isFinite(value)).toBe(true);
  });
});

describe("children of two ideas", () => {
  const [a, b] = lines(2, 77) as [Idea, Idea];
  const pair = {
    first: a.notes,
    second: b.notes,
    kind: "melody",
    metre: METRE,
    bars: 4,
    count: 12,
    seed: 3,
  } as const;

  it("are none alike and none a parent, made of what the parents have, and say of whom", () => {
    const children = childrenOf(pair);
    expect(children).toHaveLength(12);
    expect(new Set([a, b, ...children].map(({ notes }) => shapeOf(notes))).size).toBe(14);
    const pitches = new Set([...a.notes, ...b.notes].map(({ pitch }) => pitch));
    const starts = new Set([...a.notes, ...b.notes].map(({ start }) => start));
    for (const { notes, description } of children) {
      expect(description).toMatch(
        /^(bars [\d, ]+ of the first, [\d, ]+ of the second|rhythm of the (first|second), pitches of the (first|second)(, moved)?)$/,
      );
      for (const note of notes)
        expect([pitches.has(note.pitch), starts.has(note.start)]).toEqual([true, true]);
      if (!description!.startsWith("bars")) continue;
      const mine = description!
        .match(/bars ([\d, ]+) of/)![1]!
        .split(", ")
        .map(Number);
      for (let bar = 0; bar < 4; bar++) {
        const parent = mine.includes(bar + 1) ? a : b;
        const own = (list: Idea["notes"]) =>
          list
            .filter(({ start }) => Math.floor(start / BAR) === bar)
            .map(({ start, pitch }) => [start, pitch]);
        expect(own(notes)).toEqual(own(parent.notes));
      }
    }
    expect(childrenOf(pair)).toEqual(children);
  });

  it("of beats have lanes or bars of either; of one bar, halves; of an idea and itself there are few", () => {
    const [x, y] = beats({ count: 2, bars: 1, density: 40 }) as [Idea, Idea];
    const children = childrenOf({
      ...pair,
      first: x.notes,
      second: y.notes,
      kind: "drums",
      bars: 1,
    });
    expect(children.length).toBeGreaterThan(6);
    for (const { description } of children) expect(description).toMatch(/^(halves|\d of 6 lanes)/);
    expect(childrenOf({ ...pair, second: a.notes }).length).toBeLessThan(12);
    expect(childrenOf({ ...pair, first: [], second: [] })).toEqual([]);
  });
});

describe("a beat with a fill at its end", () => {
  it("has it in the last beats and is as it was before them; the kick goes on", () => {
    const plain = beats({ count: 12, seed: 4, density: 30 });
    const ended = beats({ count: 12, seed: 4, density: 30, fill: 2 });
    const from = 4 * BAR - 2 * 960;
    for (const { notes, description, seed } of ended) {
      const before = plain.find((idea) => idea.seed === seed);
      if (!before) continue;
      expect(description).toMatch(/, a fill at the end$/);
      const head = (list: Idea["notes"]) =>
        list
          .filter(({ start, pitch }) => start < from || pitch === 36)
          .map(({ start, pitch }) => [start, pitch]);
      expect(head(notes)).toEqual(head(before.notes));
      const fill = notes.filter(({ start, pitch }) => start >= from && pitch !== 36);
      expect(fill.length).toBeGreaterThan(2);
      expect(fill[0]!.start).toBe(from);
      expect(fill.every(({ pitch }) => [38, 45, 50].includes(pitch))).toBe(true);
    }
    // A kit of a kick and a lane with its own loop has nothing to fill with.
    const bare = generateDrumIdeas({
      lanes: [
        { pitch: 36, grid: grid(16), period: null },
        { pitch: 38, grid: grid(16), period: 2880 },
      ],
      bars: 1,
      style: "straight",
      fill: 1,
      count: 1,
    })[0]!;
    expect(bare.description).not.toMatch(/fill/);
  });
});

describe("pick-ups", () => {
  it("lead into phrases where they are asked for, the last back to the beginning, after a breath", () => {
    let [led, close, all] = [0, 0, 0];
    for (const { notes, description } of lines(64, 9, {
      phrases: { ...PHRASE_DEFAULTS, pickup: true },
    })) {
      if (!description!.endsWith("with pick-ups")) continue;
      led++;
      const last = notes.filter(({ start }) => start >= 4 * BAR - 960);
      const pickups = last.filter(
        (note) => note.length === 480 && note.start + note.length > 4 * BAR - 961,
      );
      if (pickups.length === 0) continue;
      all++;
      const lead = pickups.at(-1)!;
      expect(lead.start + lead.length).toBe(4 * BAR);
      if (Math.abs(lead.pitch - notes[0]!.pitch) <= 4) close++;
      // The note before them is the one the line rests on.
      const rest = notes[notes.indexOf(pickups[0]!) - 1]!;
      expect(rest.start + rest.length).toBeLessThanOrEqual(pickups[0]!.start - 480);
      expect([0, 3]).toContain(rest.pitch % 12);
    }
    expect(led).toBeGreaterThan(55);
    expect(close / all).toBeGreaterThan(0.85);
    expect(lines(12, 9).some(({ description }) => description!.includes("pick-ups"))).toBe(false);
  });
});

describe("tones outside the chord", () => {
  it("go on by step nearly always at full strictness, much more than at none", () => {
    const chord = new Set([0, 3, 7]);
    const share = (strict: number) => {
      let [steps, all] = [0, 0];
      for (let seed = 0; seed < 150; seed++) {
        const [{ notes }] = lines(1, seed * 3, {
          repetition: 0,
          phrases: { ...PHRASE_DEFAULTS, strict, form: "phrases" },
        }) as [Idea];
        notes.slice(0, -1).forEach((note, i) => {
          if (chord.has(note.pitch % 12)) return;
          const by = Math.abs(notes[i + 1]!.pitch - note.pitch);
          if (by === 0) return;
          all++;
          if (by <= 2) steps++;
        });
      }
      return steps / all;
    };
    const [none, full] = [share(0), share(100)];
    expect(full).toBeGreaterThan(0.9);
    expect(full).toBeGreaterThan(none + 0.1);
  });
});
