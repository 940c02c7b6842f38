import * as fc from "fast-check";
import { Note } from "tonal";
import { describe, expect, it } from "vitest";
import { PERCUSSION, padName } from "./percussion";
import {
  SCALES,
  degreeLabel,
  degreeOf,
  degreePitch,
  inKey,
  isScale,
  keyName,
  keySpelling,
  parsePitch,
  pitchHz,
  pitchName,
  scalePitches,
  scaleSemitones,
  snapPitch,
  type Key,
} from "./scales";

const anyKey: fc.Arbitrary<Key> = fc
  .tuple(fc.integer({ min: 0, max: 11 }), fc.constantFrom(...SCALES))
  .map(([root, { name }]) => ({ root, scale: name }));

describe("scales", () => {
  it("are all known to tonal, at least twenty-five of them", () => {
    expect(SCALES.length).toBeGreaterThanOrEqual(25);
    for (const { name } of SCALES) expect(isScale(name), name).toBe(true);
    expect(isScale("no such scale")).toBe(false);
    expect(() => scaleSemitones("no such scale")).toThrow(/no such scale/);
  });

  it("hold the semitones that the handbooks print, on every root", () => {
    // Common practice for the modes, the minors, pentatonics, blues and even scales (from memory); the
    // four of Japan and Java as western handbooks notate them (from memory).
    const printed: Record<string, number[]> = {
      major: [0, 2, 4, 5, 7, 9, 11],
      dorian: [0, 2, 3, 5, 7, 9, 10],
      phrygian: [0, 1, 3, 5, 7, 8, 10],
      lydian: [0, 2, 4, 6, 7, 9, 11],
      mixolydian: [0, 2, 4, 5, 7, 9, 10],
      minor: [0, 2, 3, 5, 7, 8, 10],
      locrian: [0, 1, 3, 5, 6, 8, 10],
      "harmonic minor": [0, 2, 3, 5, 7, 8, 11],
      "melodic minor": [0, 2, 3, 5, 7, 9, 11],
      "harmonic major": [0, 2, 4, 5, 7, 8, 11],
      "dorian b2": [0, 1, 3, 5, 7, 9, 10],
      "lydian dominant": [0, 2, 4, 6, 7, 9, 10],
      "phrygian dominant": [0, 1, 4, 5, 7, 8, 10],
      altered: [0, 1, 3, 4, 6, 8, 10],
      "hungarian minor": [0, 2, 3, 6, 7, 8, 11],
      "double harmonic major": [0, 1, 4, 5, 7, 8, 11],
      "major pentatonic": [0, 2, 4, 7, 9],
      "minor pentatonic": [0, 3, 5, 7, 10],
      hirajoshi: [0, 2, 3, 7, 8],
      "in-sen": [0, 1, 5, 7, 10],
      pelog: [0, 1, 3, 7, 8],
      "minor blues": [0, 3, 5, 6, 7, 10],
      "major blues": [0, 2, 3, 4, 7, 9],
      "whole tone": [0, 2, 4, 6, 8, 10],
      diminished: [0, 2, 3, 5, 6, 8, 9, 11],
      chromatic: [0, 1, 2, 3, 4, 5, 6, 7, 8, 9, 10, 11],
    };
    expect(SCALES.map(({ name }) => name).filter((name) => !printed[name])).toEqual([]);
    for (const { name } of SCALES) {
      for (let root = 0; root < 12; root++) {
        const ours = scalePitches({ root, scale: name }, 60, 71).map((p) => (p - root) % 12);
        expect(
          [...ours].sort((x, y) => x - y),
          name,
        ).toEqual(printed[name]);
      }
    }
  });

  it("know the keyboard: white keys are C major and A minor, black keys F♯ major pentatonic", () => {
    // Common practice.
    const white = [0, 2, 4, 5, 7, 9, 11];
    expect(scalePitches({ root: 0, scale: "major" }, 0, 11)).toEqual(white);
    expect(scalePitches({ root: 9, scale: "minor" }, 0, 11)).toEqual(white);
    expect(scalePitches({ root: 6, scale: "major pentatonic" }, 0, 11)).toEqual([1, 3, 6, 8, 10]);
  });

  it("stay inside the asked range", () => {
    expect(scalePitches({ root: 0, scale: "major" }, 60, 60)).toEqual([60]);
    expect(scalePitches({ root: 0, scale: "major" }, 61, 61)).toEqual([]);
    expect(scalePitches({ root: 0, scale: "chromatic" }, -20, 400)).toHaveLength(128);
  });
});

describe("degrees", () => {
  it("lead to the pitch and back, for any key and pitch", () => {
    fc.assert(
      fc.property(anyKey, fc.integer({ min: 0, max: 127 }), (key, pitch) => {
        const { degree, above } = degreeOf(key, pitch);
        expect(degreePitch(key, degree) + above).toBe(pitch);
        expect(above).toBeGreaterThanOrEqual(0);
        if (inKey(key, pitch)) expect(above).toBe(0);
      }),
    );
  });

  it("are labelled against major", () => {
    const key = { root: 2, scale: "dorian" };
    expect([62, 64, 65, 67, 69, 71, 72].map((p) => degreeLabel(key, p))).toEqual([
      "1",
      "2",
      "♭3",
      "4",
      "5",
      "6",
      "♭7",
    ]);
    expect(degreeLabel({ root: 5, scale: "lydian" }, 71)).toBe("♯4");
    expect(degreeLabel(key, 63)).toBe("");
  });

  it("snap to the nearest tone, ties downward", () => {
    const key = { root: 0, scale: "major" };
    expect(snapPitch(key, 61)).toBe(60);
    expect(snapPitch(key, 61, "up")).toBe(62);
    expect(snapPitch(key, 66, "down")).toBe(65);
    fc.assert(
      fc.property(anyKey, fc.integer({ min: 0, max: 127 }), (k, pitch) => {
        const snapped = snapPitch(k, pitch);
        expect(inKey(k, snapped)).toBe(true);
        const nearest = Math.min(...scalePitches(k).map((p) => Math.abs(p - pitch)));
        expect(Math.abs(snapped - pitch)).toBe(nearest);
        for (const direction of ["up", "down"] as const) {
          expect(inKey(k, snapPitch(k, pitch, direction))).toBe(true);
        }
      }),
    );
  });
});

describe("names", () => {
  it("follow the key's spelling", () => {
    expect(keyName({ root: 2, scale: "dorian" })).toBe("D dorian");
    expect(keySpelling({ root: 5, scale: "major" })[10]).toBe("Bb");
    expect(keySpelling({ root: 2, scale: "major" })[6]).toBe("F#");
    expect(pitchName(70, { root: 5, scale: "major" })).toBe("B♭4");
  });

  it("put middle C, MIDI 60, at C4, or C3 when asked", () => {
    expect(pitchName(60)).toBe("C4");
    expect(pitchName(60, undefined, 3)).toBe("C3");
    expect(pitchName(0)).toBe("C-1");
    for (let pitch = 0; pitch <= 127; pitch++) {
      expect(parsePitch(pitchName(pitch))).toBe(pitch);
      expect(parsePitch(pitchName(pitch, undefined, 3), 3)).toBe(pitch);
      // Second opinion: tonal's reading of the same name.
      expect(Note.midi(pitchName(pitch).replace("♯", "#"))).toBe(pitch);
    }
    for (const text of ["H2", "", "128", "C99", "-1", "1.5"]) expect(parsePitch(text)).toBeNull();
  });

  it("give the frequencies of equal temperament at A4 = 440 Hz", () => {
    // Source: ISO 16:1975 (A4 = 440 Hz); twelve equal semitones.
    expect(pitchHz(69)).toBe(440);
    expect(pitchHz(57)).toBeCloseTo(220, 10);
    expect(pitchHz(60)).toBeCloseTo(261.6256, 4);
    for (let pitch = 0; pitch < 127; pitch++) {
      expect(pitchHz(pitch + 1) / pitchHz(pitch)).toBeCloseTo(2 ** (1 / 12), 12);
      expect(pitchHz(pitch)).toBeCloseTo(Note.freq(Note.fromMidi(pitch))!, 6);
    }
  });
});

describe("percussion", () => {
  it("has the General MIDI 1 key map", () => {
    // Source: General MIDI System Level 1, Table 3 (percussion key map), keys 35 to 81.
    expect(Object.keys(PERCUSSION).map(Number)).toEqual(
      Array.from({ length: 47 }, (_, i) => 35 + i),
    );
    // Bass drum 1, side stick, acoustic snare, hand clap, closed, pedal and open hi-hat, crash 1,
    // ride 1, tambourine, cowbell, maracas, claves.
    const named = {
      36: "Kick",
      37: "Rim",
      38: "Snare",
      39: "Clap",
      42: "Closed hat",
      44: "Pedal hat",
      46: "Open hat",
      49: "Crash",
      51: "Ride",
      54: "Tambourine",
      56: "Cowbell",
      70: "Shaker",
      75: "Claves",
    };
    for (const [key, name] of Object.entries(named)) expect(padName(Number(key))).toBe(name);
    expect(padName(99)).toBe("Pad 99");
  });
});
