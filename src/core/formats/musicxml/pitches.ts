import { type MidiPitch, nth } from "../../base";
import { type Key, keySpelling, scaleSemitones } from "../../pitch";
import { signatureOf } from "../common/key-signature";
import { MODES } from "./keys";

/** A pitch as a score spells it. */
export interface Spelled {
  step: string;
  alter: number;
  octave: number;
}

const STEPS: Readonly<Record<string, number>> = { C: 0, D: 2, E: 4, F: 5, G: 7, A: 9, B: 11 };

/** NaN for what is no step: such a note is told as lost. */
const semitonesOf = (step: string) => STEPS[step] ?? NaN;

/** The pitch of a spelling: middle C, 60, is C4. */
export const pitchOf = ({ step, alter, octave }: Spelled): number =>
  12 * (octave + 1) + semitonesOf(step) + alter;

/** A pitch as the key spells it. */
export function spelled(key: Key, pitch: MidiPitch): Spelled {
  const name = nth(keySpelling(key), pitch % 12);
  const step = name.slice(0, 1);
  const alter = [...name.slice(1)].reduce((sum, c) => sum + (c === "#" ? 1 : -1), 0);
  // B♯ and C♭ belong to the octave of their letter.
  return { step, alter, octave: (pitch - alter - semitonesOf(step)) / 12 - 1 };
}

/** The key signature, and its mode where it has a name there. */
export function signature(key: Key): { fifths: number; mode: string | null } {
  const above = MODES[key.scale];
  if (above === undefined) {
    const { fifths, minor } = signatureOf(key);
    const third = scaleSemitones(key.scale);
    return { fifths, mode: third.length === 7 ? (minor ? "minor" : "major") : null };
  }
  const fifths = (((key.root + 12 - above) % 12) * 7) % 12;
  const flat = keySpelling(key).some((name) => name.includes("b"));
  // Six sharps or six flats: as the key is spelled.
  const signed = fifths > 6 || (fifths === 6 && flat) ? fifths - 12 : fifths;
  return { fifths: signed, mode: key.scale };
}

const ORDER = ["F", "C", "G", "D", "A", "E", "B"];

/** What a key signature does to a letter: −1, 0 or 1. */
export function signatureAlter(fifths: number, step: string): number {
  const at = ORDER.indexOf(step);
  if (fifths > 0) return at < fifths ? 1 : 0;
  return 6 - at < -fifths ? -1 : 0;
}

/** A semitone's step up or down as its sign is called. */
export const ACCIDENTALS: Readonly<Record<string, string>> = {
  "-2": "flat-flat",
  "-1": "flat",
  "0": "natural",
  "1": "sharp",
  "2": "double-sharp",
};

/** A velocity of 90 is a MusicXML dynamics of 100 %. */
export const FORTE = 90;

/** Chord endings and what MusicXML calls them (4.0, “kind-value”). */
export const KINDS: readonly (readonly [suffix: string, kind: string])[] = [
  ["", "major"],
  ["M", "major"],
  ["m", "minor"],
  ["7", "dominant"],
  ["maj7", "major-seventh"],
  ["m7", "minor-seventh"],
  ["dim", "diminished"],
  ["dim7", "diminished-seventh"],
  ["m7b5", "half-diminished"],
  ["aug", "augmented"],
  ["7#5", "augmented-seventh"],
  ["mMaj7", "major-minor"],
  ["6", "major-sixth"],
  ["m6", "minor-sixth"],
  ["9", "dominant-ninth"],
  ["maj9", "major-ninth"],
  ["m9", "minor-ninth"],
  ["11", "dominant-11th"],
  ["m11", "minor-11th"],
  ["13", "dominant-13th"],
  ["maj13", "major-13th"],
  ["m13", "minor-13th"],
  ["sus2", "suspended-second"],
  ["sus4", "suspended-fourth"],
  ["5", "power"],
];
