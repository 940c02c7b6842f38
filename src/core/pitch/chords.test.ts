import * as fc from "fast-check";
import { describe, expect, it } from "vitest";
import {
  chordClasses,
  chordOnDegree,
  chordPitches,
  chordText,
  detectChord,
  inversionsOf,
  parseChord,
  readChord,
} from "./chords";
import { SCALES, inKey, isScale, scaleSemitones, type Key } from "./scales";

const C: Key = { root: 0, scale: "major" };
const A: Key = { root: 9, scale: "minor" };
const ROOTS = ["C", "Db", "D", "Eb", "E", "F", "F#", "G", "Ab", "A", "Bb", "B"];
/** Semitones over the root of the usual kinds (common practice). */
const KINDS: Record<string, number[]> = {
  "": [0, 4, 7],
  m: [0, 3, 7],
  "7": [0, 4, 7, 10],
  m7: [0, 3, 7, 10],
  maj7: [0, 4, 7, 11],
  dim: [0, 3, 6],
  m7b5: [0, 3, 6, 10],
  sus4: [0, 5, 7],
  "6": [0, 4, 7, 9],
  "9": [0, 4, 7, 10, 14],
  aug: [0, 4, 8],
};
const TYPES = Object.keys(KINDS);

describe("chords by name", () => {
  it("hold the tones the handbooks give them, for every root and the usual kinds", () => {
    ROOTS.forEach((root, pc) => {
      for (const [type, tones] of Object.entries(KINDS)) {
        const chord = parseChord(`${root}${type}`)!;
        expect(chord).toMatchObject({ root: pc, tones, bass: null });
        const classes = new Set(tones.map((t) => (t + pc) % 12));
        expect(chordClasses(chord)).toEqual(classes);
      }
    });
  });

  it("know a bass of their own, real accidentals and small letters", () => {
    expect(parseChord("F/A")).toEqual({ name: "F/A", root: 5, tones: [0, 4, 7], bass: 9 });
    expect(parseChord("B♭m7")).toMatchObject({ root: 10, tones: [0, 3, 7, 10] });
    expect(parseChord("dm7")?.name).toBe("Dm7");
    expect(parseChord("C/C")?.bass).toBeNull();
    expect(parseChord("C6/9")?.tones.length).toBe(5);
    expect(chordText("Bbm7b5/Ab")).toBe("B♭m7♭5/A♭");
  });

  it("are none for what is none", () => {
    for (const text of ["", "H7", "Dm7/", "F/A/C", "q", "C/Z", "12", "Cmajjj", "C".repeat(30)]) {
      expect(parseChord(text), text).toBeNull();
    }
  });
});

describe("chords on degrees", () => {
  it("are those the handbooks give for major and minor (Aldwell and Schachter, from memory)", () => {
    const triads = (key: Key, size: 3 | 4 = 3) =>
      [1, 2, 3, 4, 5, 6, 7].map((d) => chordOnDegree(key, d, size));
    expect(triads(C)).toEqual(["C", "Dm", "Em", "F", "G", "Am", "Bdim"]);
    expect(triads(A)).toEqual(["Am", "Bdim", "C", "Dm", "Em", "F", "G"]);
    expect(triads(C, 4)).toEqual(["Cmaj7", "Dm7", "Em7", "Fmaj7", "G7", "Am7", "Bm7b5"]);
    expect(chordOnDegree({ root: 0, scale: "minor pentatonic" }, 1)).toBeNull();
    expect(chordOnDegree(C, 8)).toBeNull();
  });

  it("lie in the key, for every scale of seven notes", () => {
    for (const { name } of SCALES.filter((s) => scaleSemitones(s.name).length === 7)) {
      for (let root = 0; root < 12; root++) {
        for (let degree = 1; degree <= 7; degree++) {
          const found = chordOnDegree({ root, scale: name }, degree, 4);
          for (const pc of found ? chordClasses(parseChord(found)!) : []) {
            expect(inKey({ root, scale: name }, pc)).toBe(true);
          }
        }
      }
    }
  });

  it("are read as numbers, as Roman numerals and as names", () => {
    const read = (text: string, key = C) => readChord(text, key);
    expect([read("2"), read("2 7"), read("ii7"), read("V7"), read("bVII"), read("vi")]).toEqual([
      "Dm",
      "Dm7",
      "Dm7",
      "G7",
      "Bb",
      "Am",
    ]);
    expect(read("i", A)).toBe("Am");
    expect(read("VI", A)).toBe("F");
    expect(read("Dm7")).toBe("Dm7");
    for (const text of ["8", "0", "xyz", "", "2 9"]) expect(read(text)).toBeNull();
  });
});

describe("chords from notes", () => {
  it("are found back from their close position, for every root and the usual kinds", () => {
    for (const root of ROOTS) {
      for (const type of ["", "m", "7", "m7", "maj7", "dim", "m7b5", "sus4"]) {
        const pitches = chordPitches(parseChord(`${root}${type}`)!);
        expect(detectChord(pitches), `${root}${type}`).not.toBeNull();
        const found = parseChord(detectChord(pitches)!)!;
        expect([found.root, [...found.tones]]).toEqual([
          parseChord(root)!.root,
          [...parseChord(`${root}${type}`)!.tones],
        ]);
      }
    }
  });

  it("name the bass, take the plainest name, and leave what is no chord", () => {
    expect(detectChord([57, 60, 65])).toBe("F/A");
    expect(detectChord([62, 65, 69, 72])).toBe("Dm7");
    expect(detectChord([60])).toBeNull();
    expect(detectChord([60, 61, 62])).toBeNull();
    expect(detectChord([58, 62, 65], { root: 5, scale: "major" })).toBe("Bb");
  });
});

describe("voicings", () => {
  it("invert, open and widen, and put a bass below (worked out by hand)", () => {
    const cm7 = parseChord("Cm7")!;
    expect(chordPitches(cm7, { low: 60 })).toEqual([60, 63, 67, 70]);
    expect(chordPitches(cm7, { low: 60, inversion: 1 })).toEqual([63, 67, 70, 72]);
    expect(chordPitches(cm7, { low: 60, inversion: 3 })).toEqual([70, 72, 75, 79]);
    expect(chordPitches(cm7, { low: 60, spread: "open" })).toEqual([60, 67, 75, 82]);
    expect(chordPitches(cm7, { low: 48, spread: "wide" })).toEqual([48, 63, 79, 94]);
    expect(chordPitches(parseChord("F/A")!, { low: 60 })).toEqual([57, 65, 69, 72]);
    expect(inversionsOf(cm7)).toBe(3);
  });

  it("always hold the chord's classes and stay in range", () => {
    const any = fc.record({
      name: fc.tuple(fc.constantFrom(...ROOTS), fc.constantFrom(...TYPES)).map((p) => p.join("")),
      inversion: fc.nat(6),
      spread: fc.constantFrom("close" as const, "open" as const, "wide" as const),
      low: fc.integer({ min: 24, max: 60 }),
    });
    fc.assert(
      fc.property(any, ({ name, ...voicing }) => {
        const chord = parseChord(name)!;
        const pitches = chordPitches(chord, voicing);
        expect(new Set(pitches.map((p) => p % 12))).toEqual(chordClasses(chord));
        expect(pitches).toEqual([...pitches].sort((a, b) => a - b));
        expect(Math.min(...pitches)).toBeGreaterThanOrEqual(voicing.low);
      }),
    );
  });
});

describe("known facts of keys", () => {
  it("white keys are C major and A minor, black keys F sharp major pentatonic (common knowledge)", () => {
    const white = [0, 2, 4, 5, 7, 9, 11];
    for (let pc = 0; pc < 12; pc++) {
      expect(inKey(C, pc)).toBe(white.includes(pc));
      expect(inKey(A, pc)).toBe(white.includes(pc));
      expect(inKey({ root: 6, scale: "major pentatonic" }, pc)).toBe(!white.includes(pc));
    }
  });

  it("offers at least twenty-five scales, each with a group and known to tonal", () => {
    expect(SCALES.length).toBeGreaterThanOrEqual(25);
    expect(new Set(SCALES.map((s) => s.name)).size).toBe(SCALES.length);
    for (const { name, group } of SCALES) expect(isScale(name) && group !== "").toBe(true);
  });
});
