import { describe, expect, it } from "vitest";
import { barTicks, beatTicks } from "../../time";
import { chordClasses, parseChord, scalePitches } from "../../pitch";
import { KEY as key, askedOver, figuresOf, measuredOver, wandering } from "../figures.test-helper";
import { generateIdeas } from "../ideas";
import type { IdeaOptions } from "../options";
import { PHRASE_DEFAULTS, PHRASE_FORMS, type PhraseWish } from "./options";
import { heightAt } from "./phrases";

const SEEDS = 300;
const linesOf = (bars: number, wish: Partial<PhraseWish>, more: Partial<IdeaOptions> = {}) =>
  Array.from(
    { length: SEEDS },
    (_, seed) =>
      generateIdeas({
        ...askedOver(bars),
        phrases: { ...PHRASE_DEFAULTS, ...wish },
        ...more,
        seed,
      })[0]!.notes,
  );

describe("a line of phrases", () => {
  it.each(PHRASE_FORMS)("as a %s closes, breathes, and goes as melodies do", (form) => {
    const lines = linesOf(8, { form, climax: 50, strict: 100 });
    const figures = figuresOf(lines, measuredOver(8));
    // The last note on a tone of the chord that sounds there, a longer last note on a beat, and a breath after it.
    expect(figures.closed).toBeGreaterThanOrEqual(0.95);
    expect(figures.lastLonger).toBeGreaterThanOrEqual(0.95);
    expect(figures.lastOnBeat).toBeGreaterThanOrEqual(0.95);
    expect(figures.breath).toBeGreaterThanOrEqual(0.85);
    expect(figures.climax).toBeGreaterThanOrEqual(0.9);
    expect(figures.downbeats).toBeGreaterThanOrEqual(0.94);
    // Mostly steps, a fifth of repeated notes, a quarter of leaps, of which two in three turn back (P. von Hippel
    // and D. Huron, Music Perception 18(1), 2000; D. Huron, Sweet Anticipation, 2006: figures from memory).
    expect(figures.steps).toBeGreaterThan(0.48);
    expect(figures.repeats).toBeGreaterThan(0.14);
    expect(figures.repeats).toBeLessThan(0.27);
    expect(figures.leaps).toBeLessThan(0.32);
    expect(figures.reversals).toBeGreaterThan(0.62);
  });

  it("is nearer to what was asked than the first version and than chance", () => {
    const lines = linesOf(8, { climax: 50, strict: 100 });
    const old = linesOf(8, {}, { phrases: null });
    const chance = old.map((line, seed) => wandering(line, scalePitches(key, 57, 81), seed));
    const [now, first, walk] = [lines, old, chance].map((all) => figuresOf(all, measuredOver(8)));
    expect(now!.closed).toBeGreaterThan(walk!.closed + 0.2);
    for (const other of [first!, walk!]) {
      for (const figure of ["lastLonger", "lastOnBeat", "breath", "climax", "downbeats"] as const)
        expect(now![figure], figure).toBeGreaterThan(other[figure] + 0.2);
    }
  });

  it.each([
    [10, 0],
    [50, 1],
    [90, 2],
  ])("has its one highest note where it was asked for: at %i %", (climax, third) => {
    for (const bars of [2, 4, 8])
      for (const form of PHRASE_FORMS) {
        const figures = figuresOf(linesOf(bars, { form, climax }), measuredOver(bars, third));
        expect(figures.climax, `${form} ${bars}`).toBeGreaterThanOrEqual(0.95);
        expect(figures.closed, `${form} ${bars}`).toBeGreaterThanOrEqual(0.95);
      }
  });

  it("carries its motif in as many bars as asked", () => {
    for (const form of PHRASE_FORMS)
      // What a form brings again by itself is the least: two bars of seven in AABA, one in the others.
      for (const repetition of [form === "phrases" ? 0 : 30, 60, 100]) {
        const lines = linesOf(8, { form }, { repetition });
        const { motif } = figuresOf(lines, measuredOver(8));
        expect(Math.abs(motif - repetition / 100), `${form} ${repetition}`).toBeLessThan(0.05);
      }
  });

  it("has its motif in another rhythm now and then, and says so", () => {
    const scale = scalePitches(key, 0, 127);
    const options = { ...askedOver(8), repetition: 100 };
    const phrases = { ...PHRASE_DEFAULTS, form: "phrases" } as const;
    let [found, told] = [0, 0];
    for (let seed = 0; seed < SEEDS; seed++) {
      const { notes, description } = generateIdeas({ ...options, phrases, seed })[0]!;
      const bars = Array.from({ length: 8 }, (_, b) =>
        notes.filter(({ start }) => Math.floor(start / 3840) === b),
      );
      const steps = bars.map((bar) =>
        bar.map((n) => scale.indexOf(n.pitch) - scale.indexOf(bar[0]!.pitch)).join(" "),
      );
      const rhythms = bars.map((bar) => bar.map(({ start }) => start % 3840).join(" "));
      // The last bar of a phrase comes to rest in a rhythm of its own.
      const again = [2, 4, 6].some((b) => steps[b] === steps[0] && rhythms[b] !== rhythms[0]);
      // A few notes, or the same over and over, are no motif that could be told in another rhythm.
      if (!again || new Set(bars[0]!.map(({ pitch }) => pitch)).size < 4) continue;
      found++;
      if (description!.includes("in another rhythm")) told++;
    }
    expect(found).toBeGreaterThan(35);
    // But for a bar that was drawn by itself and happens to go as the motif does.
    expect(told / found).toBeGreaterThan(0.95);
  });

  const PROGRESSIONS = [
    ["Am", "F", "C", "G"],
    ["Am", "F", "Dm", "E"],
  ];

  it.each(PROGRESSIONS.flatMap((names) => PHRASE_FORMS.map((form) => ({ names, form }))))(
    "has as many tones of the chord on downbeats as is asked: over $names, as a $form",
    ({ names, form }) => {
      const chords = names.map((name, i) => ({
        from: i * 2 * 3840,
        to: (i + 1) * 2 * 3840,
        classes: [...chordClasses(parseChord(name)!)],
      }));
      for (const strict of [40, 60, 80, 100]) {
        const lines = linesOf(8, { form, strict }, { chords });
        const tones = lines.flatMap((line) =>
          line
            .filter(({ start }) => start % 3840 === 0)
            .map(({ start, pitch }) =>
              chordClasses(parseChord(names[Math.floor(start / 7680)]!)!).has(pitch % 12),
            ),
        );
        const share = tones.filter(Boolean).length / tones.length;
        // What comes again note for note is what it was; the highest note and where a phrase closes are tones anyway.
        const within = form === "AABA" ? 0.08 : strict < 60 ? 0.06 : 0.03;
        expect(Math.abs(share - strict / 100), `${strict}: ${share}`).toBeLessThanOrEqual(within);
      }
    },
  );

  it("answers a question with its own beginning and another end", () => {
    for (let seed = 0; seed < 100; seed++) {
      const options = { ...askedOver(4), chords: [], repetition: 0, seed };
      const [idea] = generateIdeas({ ...options, phrases: { ...PHRASE_DEFAULTS, climax: 45 } });
      const half = (from: number) =>
        idea!.notes
          .filter(({ start }) => start >= from && start < from + 1920)
          .map(({ start, pitch }) => `${start - from} ${pitch}`);
      expect(half(2 * 3840)).toEqual(half(0));
      const question = idea!.notes.filter(({ start }) => start < 2 * 3840).at(-1)!;
      // Open: on the fifth or second degree.
      expect([7, 2]).toContain((question.pitch - 9 + 120) % 12);
      expect(idea!.description).toMatch(/^question of 2 bars, arch to [A-G]♯?♭?\d, answer ends on/);
    }
  });

  it("rises and falls as its contour does, a drawn one too", () => {
    const mean = (wish: Partial<PhraseWish>, from: number, to: number) => {
      const lines = linesOf(
        4,
        { form: "phrases", bars: 4, ...wish },
        { chords: [], repetition: 0 },
      );
      const pitches = lines.flatMap((line) =>
        line.filter(({ start }) => start >= from * 3840 && start < to * 3840).map((n) => n.pitch),
      );
      return pitches.reduce((a, b) => a + b, 0) / pitches.length;
    };
    const rise = { contour: "rise", climax: 90 } as const;
    expect(mean(rise, 3, 4)).toBeGreaterThan(mean(rise, 0, 1) + 3);
    const fall = { contour: "fall", climax: 5 } as const;
    expect(mean(fall, 0, 1)).toBeGreaterThan(mean(fall, 3, 4) + 3);
    const arch = { contour: "arch", climax: 50 } as const;
    expect(mean(arch, 1, 3)).toBeGreaterThan(mean(arch, 0, 1) + 2);
    const drawn = { contour: "drawn", drawn: [1, 0, 0, 1], climax: 95 } as const;
    expect(mean(drawn, 0, 0.5)).toBeGreaterThan(mean(drawn, 1.5, 2.5) + 3);
  });

  it("stays in key and register in every metre, with one note, and in a narrow register", () => {
    for (const metre of [
      { beats: 4, unit: 4 },
      { beats: 7, unit: 8 },
      { beats: 6, unit: 8 },
      { beats: 3, unit: 4 },
    ])
      for (const bars of [1, 2, 3, 5, 8])
        for (const form of PHRASE_FORMS)
          for (const density of [0, 5, 100]) {
            const options = { key, metre, bars, low: 60, high: 69, density, count: 3, seed: bars };
            const ideas = generateIdeas({ ...options, phrases: { ...PHRASE_DEFAULTS, form } });
            const scale = new Set(scalePitches(key, 60, 69));
            for (const { notes } of ideas) {
              expect(notes.length).toBeGreaterThan(0);
              const end = bars * barTicks(metre);
              notes.forEach((note, i) => {
                expect(scale.has(note.pitch)).toBe(true);
                expect(note.length).toBeGreaterThan(0);
                expect(note.start + note.length).toBeLessThanOrEqual(notes[i + 1]?.start ?? end);
              });
              expect(notes.at(-1)!.start % beatTicks(metre)).toBe(0);
            }
          }
    const one = generateIdeas({
      key,
      low: 57,
      high: 57,
      bars: 2,
      count: 1,
      phrases: PHRASE_DEFAULTS,
    });
    expect(one[0]!.notes.every(({ pitch }) => pitch === 57)).toBe(true);
  });

  it("is the same from the same seed, keeps what is locked, and refuses what is no wish", () => {
    const options = { ...askedOver(4), phrases: PHRASE_DEFAULTS, count: 6, seed: 11 };
    expect(generateIdeas(options)).toEqual(generateIdeas(options));
    const kept = generateIdeas(options)[0]!.notes;
    const again = generateIdeas({ ...options, keepBars: [0], kept });
    const first = (notes: typeof kept) =>
      notes.filter(({ start }) => start < 3840).map(({ start, pitch }) => [start, pitch]);
    for (const { notes } of again) expect(first(notes)).toEqual(first(kept));
    const wrong = { ...PHRASE_DEFAULTS, climax: 101, bars: 2.5, drawn: [0.5] };
    expect(() => generateIdeas({ ...options, phrases: wrong })).toThrow(
      /phrases\.bars.*phrases\.drawn.*phrases\.climax|phrases\.climax/,
    );
  });

  it("has phrases of as many bars as given: each rests, the last on a tone of its chord", () => {
    for (const [bars, size] of [
      [6, 3],
      [10, 5],
      [7, 3],
      [12, 6],
    ] as const)
      for (let seed = 0; seed < 40; seed++) {
        const wish = { ...PHRASE_DEFAULTS, form: "phrases", bars: size } as const;
        const [idea] = generateIdeas({ ...askedOver(bars), phrases: wish, seed });
        const lasts = Array.from({ length: Math.ceil(bars / size) }, (_, k) => {
          const end = Math.min(bars, (k + 1) * size) * 3840;
          return idea!.notes.filter(({ start }) => start < end).at(-1)!;
        });
        for (const { start } of lasts) expect(start % 960).toBe(0);
        const { classes } = measuredOver(bars);
        const last = lasts.at(-1)!;
        expect(classes(Math.floor(last.start / 3840)).has(last.pitch % 12)).toBe(true);
        expect(idea!.description).toContain(`of ${size} bars`);
      }
  });

  it("ends on a tone of the chord that sounds there, root, third and fifth, whatever the chords are", () => {
    for (const names of [
      ["Am", "F", "C", "G"],
      ["Am", "F", "Dm", "E"],
      ["C", "Am", "F", "G7"],
    ]) {
      const classesOf = (name: string) => {
        const chord = parseChord(name)!;
        return [chord.root, ...[...chordClasses(chord)].filter((pc) => pc !== chord.root)];
      };
      const chords = Array.from({ length: 8 }, (_, b) => ({
        ...{ from: b * 3840, to: (b + 1) * 3840, classes: classesOf(names[b % 4]!) },
      }));
      for (const form of PHRASE_FORMS) {
        const lines = linesOf(8, { form }, { chords });
        const ends = lines.map((line) => {
          const { start, pitch } = line.at(-1)!;
          return chords[Math.floor(start / 3840)]!.classes.indexOf(pitch % 12);
        });
        const on = ends.filter((end) => end >= 0).length;
        expect(on / lines.length, `${names.join(" ")} ${form}`).toBeGreaterThanOrEqual(0.98);
        // More than one tone of it.
        expect(new Set(ends).size).toBeGreaterThan(1);
        const runs = lines.filter((line) =>
          line.some(
            (_, i) => i > 2 && [1, 2, 3].every((k) => line[i - k]!.pitch === line[i]!.pitch),
          ),
        );
        expect(runs.length / lines.length, `runs, ${names.join(" ")} ${form}`).toBeLessThan(0.06);
      }
    }
  });

  it("goes up where its contour goes up", () => {
    for (const contour of ["arch", "rise", "wave"] as const)
      expect(heightAt({ ...PHRASE_DEFAULTS, contour }, 0.25, 0.6)).toBeGreaterThan(
        heightAt({ ...PHRASE_DEFAULTS, contour }, 0, 0.6),
      );
  });
});
