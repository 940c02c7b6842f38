import { Key as TonalKey } from "tonal";
import { describe, expect, it } from "vitest";
import { barTicks } from "../../time";
import { type Key, SCALES, chordPitches, parseChord } from "../../pitch";
import { degreeChords, harmonicKey, mayFollow, type DegreeChord } from "./functions";
import {
  CHORD_ENDS,
  CHORD_RATES,
  generateProgressions,
  type ProgressionOptions,
} from "./progressions";
import { movement, type voiced } from "./voicing";
const MAJOR: Key = { root: 7, scale: "major" };
const MINOR: Key = { root: 2, scale: "minor" };
const lines = (options: Partial<ProgressionOptions>, seeds = 400) =>
  Array.from(
    { length: seeds },
    (_, seed) => generateProgressions({ count: 1, ...options, seed: seed * 7 })[0]!,
  );
const byName = (key: Key, sevenths: ProgressionOptions["sevenths"] = "none") =>
  new Map(degreeChords(harmonicKey(key), sevenths).map((chord) => [chord.name, chord]));
const chordsOf = (idea: { chords: readonly { name: string }[] }, known: Map<string, DegreeChord>) =>
  idea.chords.map(({ name }) => known.get(name)!);

describe("chords of a key", () => {
  it("are those that another library names for it", () => {
    const tidy = (names: readonly string[]) =>
      names.map((name) => parseChord(name)!).map(({ root, tones }) => [root, tones]);
    for (const [tonic, root] of [
      ["C", 0],
      ["G", 7],
      ["Eb", 3],
      ["F#", 6],
    ] as const) {
      const { triads, chords } = TonalKey.majorKey(tonic);
      const own = (sevenths: ProgressionOptions["sevenths"]) =>
        tidy(degreeChords({ root, scale: "major" }, sevenths).map(({ name }) => name));
      expect(own("none")).toEqual(tidy(triads));
      expect(own("on all")).toEqual(tidy(chords));
      const minor = TonalKey.minorKey(tonic);
      const natural = tidy(minor.natural.triads);
      // The dominant is that of the harmonic minor.
      natural[4] = tidy(minor.harmonic.triads)[4]!;
      expect(tidy(degreeChords({ root, scale: "minor" }, "none").map(({ name }) => name))).toEqual(
        natural,
      );
    }
    const numerals = degreeChords(MAJOR, "on the dominant").map(({ numeral }) => numeral);
    expect(numerals).toEqual(["I", "ii", "iii", "IV", "V7", "vi", "vii°"]);
    expect(degreeChords(MINOR, "none").map(({ numeral }) => numeral)).toEqual([
      "i",
      "ii°",
      "III",
      "iv",
      "V",
      "VI",
      "VII",
    ]);
  });

  it("are those of the major or minor key where a scale makes none", () => {
    expect(harmonicKey({ root: 9, scale: "minor pentatonic" })).toEqual({
      root: 9,
      scale: "minor",
    });
    expect(harmonicKey({ root: 0, scale: "whole tone" })).toEqual({ root: 0, scale: "major" });
    expect(harmonicKey({ root: 0, scale: "dorian" }).scale).toBe("dorian");
    const [idea] = generateProgressions({ key: { root: 9, scale: "minor pentatonic" } });
    expect(idea!.description).toContain(
      "chords of A minor, since minor pentatonic has none of its own",
    );
  });
});

describe("a line of chords", () => {
  it("has its functions in order, no chord twice in a row, and the end that was asked for", () => {
    for (const key of [MAJOR, MINOR, { root: 4, scale: "dorian" }]) {
      const known = byName(key);
      for (const end of CHORD_ENDS) {
        for (const idea of lines({ key, end, bars: 8 })) {
          const line = chordsOf(idea, known);
          for (let k = 1; k < line.length; k++) {
            expect(mayFollow(line[k - 1]!.does, line[k]!.does), idea.description).toBe(true);
            expect(line[k]!.name).not.toBe(line[k - 1]!.name);
          }
          const degrees = line.map(({ degree }) => degree);
          const last = degrees.at(-1)!;
          if (end === "at home")
            expect([last, [5, 7].includes(degrees.at(-2)!)]).toEqual([1, true]);
          if (end === "plagal") expect(degrees.slice(-2)).toEqual([4, 1]);
          if (end === "open") expect(last).toBe(5);
          if (end === "deceptive") expect(degrees.slice(-2)).toEqual([5, 6]);
          if (end === "leads back") expect(line.at(-1)!.does).not.toBe("tonic");
        }
      }
    }
  });

  it("moves its voices on average by less than a third, and less than in root positions", () => {
    for (const sevenths of ["none", "on all"] as const)
      for (const key of [MAJOR, MINOR]) {
        const mean = (
          chosen: (idea: { chords: ReturnType<typeof voiced> }) => ReturnType<typeof voiced>,
        ) => {
          const moves = lines({ key, sevenths, bars: 8 }).flatMap((idea) => {
            const laid = chosen({ chords: [...idea.chords] }).map(({ name, inversion }) =>
              chordPitches(parseChord(name)!, { inversion, low: 55 }),
            );
            return laid.slice(1).map((pitches, k) => movement(laid[k]!, pitches));
          });
          return moves.reduce((sum, way) => sum + way, 0) / moves.length;
        };
        const led = mean(({ chords }) => chords);
        expect(led).toBeLessThan(3);
        expect(led).toBeLessThan(
          0.6 * mean(({ chords }) => chords.map((mark) => ({ ...mark, inversion: 0 }))),
        );
      }
  });

  it("changes as often as asked: by two bars, by bars, twice a bar on a beat", () => {
    for (const metre of [
      { beats: 4, unit: 4 },
      { beats: 3, unit: 4 },
      { beats: 7, unit: 8 },
      { beats: 6, unit: 8 },
    ]) {
      const bar = barTicks(metre);
      const counts = CHORD_RATES.map(
        (rate) => generateProgressions({ metre, rate, bars: 5, count: 1 })[0]!.chords,
      );
      expect(counts.map((chords) => chords.length)).toEqual([3, 5, 10]);
      expect(counts[1]!.map(({ start }) => start)).toEqual([0, 1, 2, 3, 4].map((b) => b * bar));
      const middle = counts[2]![1]!.start;
      expect(middle).toBeGreaterThanOrEqual(bar / 2);
      expect(middle % (metre.beats === 6 ? 1440 : metre.unit === 8 ? 480 : 960)).toBe(0);
    }
    // A bar of one beat has room for one.
    expect(
      generateProgressions({ metre: { beats: 3, unit: 8 }, rate: "two a bar", bars: 1 })[0]!.chords
        .length,
    ).toBeLessThanOrEqual(2);
  });

  it("holds its notes from chord to chord over all bars; none of a batch is alike, and a seed gives the same", () => {
    const batch = generateProgressions({ key: MAJOR, bars: 4, sevenths: "on all", seed: 11 });
    expect(batch).toHaveLength(12);
    expect(new Set(batch.map(({ chords }) => chords.map(({ name }) => name).join())).size).toBe(12);
    for (const { notes, chords } of batch) {
      expect(Math.max(...notes.map((note) => note.start + note.length))).toBe(4 * 3840);
      expect(new Set(notes.map((note) => note.start))).toEqual(
        new Set(chords.map(({ start }) => start)),
      );
    }
    expect(generateProgressions({ key: MAJOR, bars: 4, sevenths: "on all", seed: 11 })).toEqual(
      batch,
    );
    expect(
      generateProgressions({ bars: 1 }).map(({ chords }) => chords.map(({ name }) => name)),
    ).toEqual([["Cm"]]);
  });

  it("of eight bars comes back to its beginning in the middle more often than not", () => {
    const back = lines({ key: MAJOR, bars: 8 }).filter(
      ({ chords }) => chords[4]!.name === chords[0]!.name && chords[5]!.name === chords[1]!.name,
    );
    expect(back.length).toBeGreaterThan(200);
  });

  it("keeps the chords of bars that are locked, those of other keys too", () => {
    const kept = generateProgressions({ key: MAJOR, bars: 4 })[0]!.chords.map((mark, k) =>
      k === 2 ? { ...mark, name: "Ebmaj7" } : mark,
    );
    for (const idea of generateProgressions({
      key: MAJOR,
      bars: 4,
      seed: 99,
      keepBars: [0, 2],
      kept,
    })) {
      expect([idea.chords[0]!.name, idea.chords[2]!.name]).toEqual([kept[0]!.name, "Ebmaj7"]);
    }
  });

  it("is made in every scale, and refuses what makes no sense by name", () => {
    for (const { name } of SCALES) {
      for (const idea of generateProgressions({ key: { root: 5, scale: name }, bars: 4, count: 4 }))
        for (const mark of idea.chords)
          expect(parseChord(mark.name), `${name}: ${mark.name}`).not.toBeNull();
    }
    expect(() => generateProgressions({ bars: 0, count: 99, end: "never" as never })).toThrow(
      /bars .*end .*count /s,
    );
  });
});

describe("movement between chords", () => {
  it("is the mean way of the voices, least where there are more of them", () => {
    expect(movement([60, 64, 67], [60, 65, 69])).toBe(1);
    expect(movement([60, 64, 67], [60, 64, 67, 71])).toBe(1);
    expect(movement([60, 64, 67, 71], [60, 64, 67])).toBe(1);
    expect(movement([60], [60, 72])).toBe(6);
  });
});
