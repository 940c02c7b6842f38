import { Interval, Note, Scale } from "tonal";
import { type MidiPitch, modulo } from "../base";

/** Root as a pitch class 0–11 (0 is C) and the name of a scale that `tonal` knows. */
export interface Key {
  root: number;
  scale: string;
}

/** Scales offered, by tonal's names, grouped. One line adds one. */
export const SCALES: readonly { name: string; group: string }[] = [
  { name: "major", group: "Modes" },
  { name: "dorian", group: "Modes" },
  { name: "phrygian", group: "Modes" },
  { name: "lydian", group: "Modes" },
  { name: "mixolydian", group: "Modes" },
  { name: "minor", group: "Modes" },
  { name: "locrian", group: "Modes" },
  { name: "harmonic minor", group: "Minor" },
  { name: "melodic minor", group: "Minor" },
  { name: "harmonic major", group: "Minor" },
  { name: "dorian b2", group: "Minor" },
  { name: "lydian dominant", group: "Minor" },
  { name: "phrygian dominant", group: "Minor" },
  { name: "altered", group: "Minor" },
  { name: "hungarian minor", group: "Minor" },
  { name: "double harmonic major", group: "Minor" },
  { name: "major pentatonic", group: "Five notes" },
  { name: "minor pentatonic", group: "Five notes" },
  { name: "hirajoshi", group: "Five notes" },
  { name: "in-sen", group: "Five notes" },
  { name: "pelog", group: "Five notes" },
  { name: "minor blues", group: "Blues" },
  { name: "major blues", group: "Blues" },
  { name: "whole tone", group: "Even" },
  { name: "diminished", group: "Even" },
  { name: "chromatic", group: "Even" },
];

interface ScaleShape {
  semitones: number[];
  intervals: string[];
}

const shapes = new Map<string, ScaleShape | null>();

/** Longer names than this are no scale's. */
const LONGEST_NAME = 40;

function shapeOf(scale: string): ScaleShape | null {
  // `tonal` keeps its scales in a plain object, which knows names such as “constructor” too.
  if (scale.length > LONGEST_NAME || scale in {}) return null;
  let shape = shapes.get(scale);
  if (shape === undefined) {
    const found = Scale.get(`C ${scale}`);
    const semitones = found.intervals.map((name) => Interval.semitones(name) ?? 0);
    shape =
      found.empty || semitones.length < 2
        ? null
        : { semitones: [...semitones].sort((a, b) => a - b), intervals: found.intervals };
    if (shape) shapes.set(scale, shape);
  }
  return shape;
}

/** Whether `tonal` knows a scale of this name with at least two notes. */
export function isScale(scale: string): boolean {
  return shapeOf(scale) !== null;
}

/** Semitones above the root, ascending from 0. Throws a RangeError for an unknown scale. */
export function scaleSemitones(scale: string): readonly number[] {
  const shape = shapeOf(scale);
  if (!shape) throw new RangeError(`No scale is called “${scale}”`);
  return shape.semitones;
}

/** Whether a MIDI pitch belongs to the key, in any octave. */
export function inKey(key: Key, pitch: MidiPitch): boolean {
  return scaleSemitones(key.scale).includes(modulo(pitch - key.root, 12));
}

/** All MIDI pitches of the key in `[low, high]`, ascending; both ends are held to 0–127. */
export function scalePitches(key: Key, low = 0, high = 127): number[] {
  const pitches: number[] = [];
  for (let pitch = Math.max(0, Math.ceil(low)); pitch <= Math.min(127, high); pitch++) {
    if (inKey(key, pitch)) pitches.push(pitch);
  }
  return pitches;
}

/** A pitch as a degree counted through all octaves, and the semitones it lies above that degree. */
export interface Degree {
  degree: number;
  above: number;
}

/** The degree at or below a pitch. Degree 0 is the root in the octave of MIDI pitch `root`. */
export function degreeOf(key: Key, pitch: MidiPitch): Degree {
  const semitones = scaleSemitones(key.scale);
  const octave = Math.floor((pitch - key.root) / 12);
  const within = pitch - key.root - 12 * octave;
  let index = 0;
  while (index + 1 < semitones.length && (semitones[index + 1] ?? 12) <= within) index++;
  return { degree: octave * semitones.length + index, above: within - (semitones[index] ?? 0) };
}

/** The pitch of a degree counted through all octaves; may lie outside 0–127. */
export function degreePitch(key: Key, degree: number): number {
  const semitones = scaleSemitones(key.scale);
  const octave = Math.floor(degree / semitones.length);
  return key.root + 12 * octave + (semitones[degree - octave * semitones.length] ?? 0);
}

/** Nearest pitch of the key; ties go down. `up` and `down` look in one direction only. */
export function snapPitch(
  key: Key,
  pitch: MidiPitch,
  direction: "nearest" | "up" | "down" = "nearest",
): number {
  for (let distance = 0; distance < 12; distance++) {
    const below = pitch - distance;
    const above = pitch + distance;
    if (direction !== "up" && below >= 0 && inKey(key, below)) return below;
    if (direction !== "down" && above <= 127 && inKey(key, above)) return above;
  }
  // At the ends of the range one direction may hold nothing: stay inside rather than leave 0–127.
  return direction === "nearest" ? pitch : snapPitch(key, pitch);
}

/** Degree label relative to major: `1`, `♭3`, `♯4`. */
export function degreeLabel(key: Key, pitch: MidiPitch): string {
  const shape = shapeOf(key.scale);
  const within = modulo(pitch - key.root, 12);
  const interval = shape?.intervals.find((name) => (Interval.semitones(name) ?? 0) % 12 === within);
  if (!interval) return "";
  const { num, alt } = Interval.get(interval);
  return `${(alt ?? 0) < 0 ? "♭".repeat(-(alt ?? 0)) : "♯".repeat(alt ?? 0)}${num}`;
}

const SHARPS = ["C", "C#", "D", "D#", "E", "F", "F#", "G", "G#", "A", "A#", "B"];
const FLATS = ["C", "Db", "D", "Eb", "E", "F", "Gb", "G", "Ab", "A", "Bb", "B"];
const spellings = new Map<string, string[]>();

/** Names of the twelve pitch classes as this key spells them: scale notes first, fewest accidentals. */
export function keySpelling(key: Key): readonly string[] {
  const id = `${key.root} ${key.scale}`;
  let names = spellings.get(id);
  if (!names) {
    const candidates = [SHARPS, FLATS].map((table) => {
      const notes = Scale.get(`${table[key.root]} ${key.scale}`).notes;
      return { table, notes, accidentals: notes.join("").replace(/[A-G]/g, "").length };
    });
    const [sharp, flat] = candidates;
    const best = sharp && flat && flat.accidentals < sharp.accidentals ? flat : sharp;
    names = [...(best?.table ?? SHARPS)];
    for (const note of best?.notes ?? []) {
      const chroma = Note.chroma(note);
      if (Number.isInteger(chroma) && !/##|bb/.test(note)) names[chroma] = note;
    }
    spellings.set(id, names);
  }
  return names;
}

const pretty = (name: string) => name.replaceAll("#", "♯").replaceAll("b", "♭");

/** Pitch class name as the key spells it, with real accidentals: `F♯`, `B♭`. */
export function pitchClassName(key: Key, pitch: MidiPitch): string {
  return pretty(keySpelling(key)[modulo(pitch, 12)] ?? "");
}

/** Pitch name with octave; `middleC` is the octave number that MIDI pitch 60 is given (4 or 3). */
export function pitchName(pitch: MidiPitch, key?: Key, middleC: 3 | 4 = 4): string {
  const name = (key ? keySpelling(key) : SHARPS)[modulo(pitch, 12)] ?? "";
  const octave = Math.floor(pitch / 12) - 5 + middleC;
  return `${pretty(name)}${octave}`;
}

const LETTERS: Readonly<Record<string, number>> = { C: 0, D: 2, E: 4, F: 5, G: 7, A: 9, B: 11 };

/** Reads a pitch: a MIDI number or a name such as `F#3`, `Bb2`, `C♯4`. Null when it is none in 0–127. */
export function parsePitch(text: string, middleC: 3 | 4 = 4): number | null {
  const plain = text.trim().replaceAll("♯", "#").replaceAll("♭", "b");
  const name = /^([A-Ga-g])(#{0,2}|b{0,2})(-?\d+)$/.exec(plain);
  let pitch = /^\d+$/.test(plain) ? Number(plain) : NaN;
  if (name) {
    const [, letter, accidental, octave] = name as unknown as [string, string, string, string];
    const shift = accidental.startsWith("b") ? -accidental.length : accidental.length;
    pitch = LETTERS[letter.toUpperCase()]! + shift + 12 * (Number(octave) + 5 - middleC);
  }
  return Number.isInteger(pitch) && pitch >= 0 && pitch <= 127 ? pitch : null;
}

/** A key in words: `D dorian`, `F♯ minor pentatonic`. */
export function keyName(key: Key): string {
  return `${pitchClassName(key, key.root)} ${key.scale}`;
}

/** Frequency in Hz of a MIDI pitch (may be fractional), equal temperament, A4 = 440 Hz (ISO 16). */
export function pitchHz(pitch: MidiPitch): number {
  return 440 * 2 ** ((pitch - 69) / 12);
}
