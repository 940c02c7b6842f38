import * as fc from "fast-check";
import * as edits from "./index";
import { describe, expect, it } from "vitest";
import { anyNotes } from "../notes.test-helper";
import { inKey } from "../pitch";
import { createProject, partOf } from "../score";
import { rekeyChord, rekeyNotes, rekeyPitch } from "./key";
import { setNotes } from "./notes";

const C = { root: 0, scale: "major" };
const SCALES = ["major", "minor", "dorian", "harmonic minor", "minor pentatonic"];

describe("changing the key", () => {
  it("keeps degrees: a C major scale becomes A minor's, by the nearest way", () => {
    const scale = [60, 62, 64, 65, 67, 69, 71, 72];
    const minor = { root: 9, scale: "minor" };
    // Common knowledge: A natural minor is A B C D E F G A.
    expect(scale.map((p) => rekeyPitch(C, minor, p))).toEqual([57, 59, 60, 62, 64, 65, 67, 69]);
    expect(rekeyPitch(C, { root: 2, scale: "dorian" }, 64)).toBe(65);
    // C sharp, a semitone above the first degree, stays so above the new one.
    expect(rekeyPitch(C, minor, 61)).toBe(58);
    expect(rekeyPitch(C, { root: 0, scale: "minor pentatonic" }, 64)).toBe(63);
  });

  it("brings notes of the key into the new key, and back where the scales are equally large", () => {
    const key = fc.record({
      root: fc.integer({ min: 0, max: 11 }),
      scale: fc.constantFrom(...SCALES),
    });
    fc.assert(
      fc.property(key, key, fc.integer({ min: 24, max: 100 }), (from, to, pitch) => {
        if (!inKey(from, pitch)) return;
        const moved = rekeyPitch(from, to, pitch);
        expect(inKey(to, moved)).toBe(true);
        expect(Math.abs(moved - pitch)).toBeLessThanOrEqual(9);
        const pentatonic = (k: typeof to) => k.scale.includes("pentatonic");
        const tritone = (to.root - from.root + 12) % 12 === 6;
        if (pentatonic(from) === pentatonic(to) && !tritone) {
          expect(rekeyPitch(to, from, moved)).toBe(pitch);
        }
      }),
    );
  });

  it("carries a chord with its bass: a chord's own tone stays that tone of it", () => {
    const minor = { root: 0, scale: "minor" };
    const five = { root: 0, scale: "minor pentatonic" };
    const g = { root: 7, scale: "major" };
    const cases: [to: typeof C, chord: string, becomes: string][] = [
      [minor, "F/A", "Fm/Ab"],
      [five, "F/A", "F/A"],
      [g, "F/A", "C/E"],
      [g, "Dm7/C", "Am7/G"],
      // B is no tone of F: it moves by its degree.
      [g, "F/B", "C/F#"],
      [g, "C6/9", "G6/9"],
    ];
    for (const [to, chord, becomes] of cases) {
      expect(`${chord} → ${rekeyChord(C, to, chord)}`).toBe(`${chord} → ${becomes}`);
    }
  });

  it("leaves drums alone, keeps or snaps when asked, in every pattern", () => {
    fc.assert(
      fc.property(anyNotes, (notes) => {
        const to = { root: 3, scale: "minor" };
        let project = createProject({ key: C });
        for (const track of ["drums", "bass"]) {
          project = setNotes(project, { pattern: "a", track }, notes);
        }
        expect(rekeyNotes(project, C, to, "keep")).toBe(project);
        const snapped = rekeyNotes(project, C, to, "snap");
        const part = (p: typeof project, track: string) => partOf(p, { pattern: "a", track });
        expect(part(snapped, "drums")).toBe(part(project, "drums"));
        for (const note of part(snapped, "bass").notes) expect(inKey(to, note.pitch)).toBe(true);
        const moved = rekeyNotes(project, C, to, "degrees");
        expect(part(moved, "bass").notes).toHaveLength(notes.length);
      }),
      { numRuns: 40 },
    );
  });
});

describe("a project transposed as a whole", () => {
  const mark = (name: string, start = 0) => ({
    ...{ id: `c${start}`, start, name, inversion: 0, spread: "close" as const },
  });
  const base = edits.putChords(
    edits.setKey(createProject(), { root: 0, scale: "minor" }),
    "a",
    ["Cm", "Fm7", "G7/B", "Ab"].map((name, i) => mark(name, i * 960)),
  );
  const names = (project: typeof base) => project.patterns[0]!.chords!.map(({ name }) => name);

  it("takes its key and chord lines along, and whole octaves change neither", () => {
    const up = edits.transposeHarmony(base, { semitones: 2, degrees: 0 });
    expect(up.key).toEqual({ root: 2, scale: "minor" });
    expect(names(up)).toEqual(["Dm", "Gm7", "A7/C#", "Bb"]);
    expect(edits.transposeHarmony(up, { semitones: -2, degrees: 0 })).toEqual(base);
    expect(edits.transposeHarmony(base, { semitones: 12, degrees: 0 })).toBe(base);
  });

  it("by degrees moves the chords within the key", () => {
    const up = edits.transposeHarmony(base, { semitones: 0, degrees: 3 });
    expect(up.key).toBe(base.key);
    expect(names(up)[0]).toBe("Fm");
    expect(names(up)[3]).toBe("Ddim");
  });
});
