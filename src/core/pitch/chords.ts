import { Chord as Tonal, Interval, Note, RomanNumeral } from "tonal";
import { keySpelling, scaleSemitones, type Key } from "./scales";
import { type MidiPitch, nth, must, modulo } from "../base";

/** A chord by name: pitch class of its root, tones in semitones above it, and a bass of its own. */
export interface Chord {
  name: string;
  /** Pitch class 0–11. */
  root: number;
  /** Ascending from 0, within two octaves. */
  tones: readonly number[];
  /** Pitch class of the bass where it is not the root's, else null. */
  bass: number | null;
}

const plain = (text: string) =>
  text.trim().replaceAll("♯", "#").replaceAll("♭", "b").replaceAll("°", "dim");

/** Longer names than this are no chord’s. */
const LONGEST_NAME = 24;

const known = new Map<string, Chord | null>();

/** Reads a chord's name (`Dm7`, `F/A`, `B♭maj7`), as `tonal` knows them; null for what is none. */
export function parseChord(text: string): Chord | null {
  if (text.length > LONGEST_NAME) return null;
  const name = plain(text);
  let chord = known.get(name);
  if (chord === undefined) {
    chord = read(name);
    if (known.size > 5000) known.clear();
    known.set(name, chord);
  }
  return chord;
}

function read(name: string): Chord | null {
  // `tonal` keeps its chords in a plain object, which knows names such as “constructor” too.
  const type = name.slice(1).replace(/^[#b]/, "");
  if (name.length > LONGEST_NAME || !/^[A-Ga-g]/.test(name) || type in {}) return null;
  const upper = name[0]!.toUpperCase() + name.slice(1);
  const [own, below, ...more] = upper.split("/");
  // “C6/9” is a chord of its own; else what follows the stroke is the bass.
  const bassName = below && /^[A-Ga-g][#b]?$/.test(below) ? below : null;
  if (more.length > 0) return null;
  const found = Tonal.get(bassName ? own! : upper);
  if (found.empty || !found.tonic) return null;
  const root = Note.chroma(found.tonic);
  const semitones = found.intervals.map((i) => Interval.semitones(i) ?? 0);
  const tones = [...new Set(semitones)].sort((a, b) => a - b);
  if (!Number.isInteger(root) || tones.length < 2 || tones[0] !== 0) return null;
  const bass = bassName ? Note.chroma(bassName[0]!.toUpperCase() + bassName.slice(1)) : root;
  return { name: upper, root, tones, bass: bass === root ? null : bass };
}

/** Chord types in the order they are guessed, the plainest first (`tonal`'s symbols). */
const USUAL = [
  ...["", "m", "7", "m7", "maj7", "dim", "m7b5", "sus4", "sus2", "6", "m6", "aug", "9", "m9"],
  ...["maj9", "add9", "madd9", "7sus4", "dim7", "mMaj7", "7b9", "7#9", "13", "11", "5"],
];

const tidy = (name: string) => name.replace(/^([A-G][#b]?)(?:M|maj)(?=$|\/)/, "$1");

/**
 * The name of the chord that pitches make, the lowest of them as bass: of the names that fit, the
 * plainest. Null where they make none, or hold fewer than two pitch classes. In a key, roots are
 * spelled as it spells them.
 */
export function detectChord(pitches: readonly number[], key?: Key): string | null {
  const sorted = [...pitches].sort((a, b) => a - b);
  const spelling = keySpelling(key ?? { root: 0, scale: "major" });
  const names = [...new Set(sorted.map((pitch) => modulo(pitch, 12)))].map((pc) =>
    nth(spelling, pc),
  );
  if (names.length < 2) return null;
  const rank = (name: string) => {
    const type = name.replace(/\/.*$/, "").replace(/^[A-G][#b]*/, "");
    const at = USUAL.indexOf(type);
    return (at < 0 ? 100 : at) + (name.includes("/") ? 6.5 : 0);
  };
  const found = Tonal.detect(names)
    .map(tidy)
    .filter((name) => parseChord(name) !== null);
  return found.sort((a, b) => rank(a) - rank(b))[0] ?? null;
}

const TRIADS: Readonly<Record<string, string>> = {
  "4 7": "",
  "3 7": "m",
  "3 6": "dim",
  "4 8": "aug",
};
const SEVENTHS: Readonly<Record<string, string>> = {
  "4 7 11": "maj7",
  "4 7 10": "7",
  "3 7 10": "m7",
  "3 6 10": "m7b5",
  "3 6 9": "dim7",
  "3 7 11": "mMaj7",
  "4 8 11": "maj7#5",
};

/**
 * The chord of thirds on a degree (from 1) of a key of seven notes, of three tones or four. Null where
 * the key has no such degree or its thirds make no chord that has a name.
 */
export function chordOnDegree(key: Key, degree: number, size: 3 | 4 = 3): string | null {
  const scale = scaleSemitones(key.scale);
  if (scale.length !== 7 || degree < 1 || degree > 7) return null;
  const tone = (steps: number) => {
    const at = degree - 1 + steps;
    return nth(scale, at % 7) + 12 * Math.floor(at / 7) - nth(scale, degree - 1);
  };
  const above = (size === 3 ? [2, 4] : [2, 4, 6]).map(tone).join(" ");
  const type = (size === 3 ? TRIADS : SEVENTHS)[above];
  if (type === undefined) return null;
  return `${keySpelling(key)[(key.root + nth(scale, degree - 1)) % 12]}${type}`;
}

/**
 * A chord as people type it: a name (`Dm7`), or a degree of the key as a number (`2`, `2 7` with the
 * seventh) or a Roman numeral (`ii7`, `V`, `bVII`), whose case and suffix say its kind. Null for what
 * is neither.
 */
export function readChord(text: string, key: Key): string | null {
  const typed = plain(text);
  const number = /^([1-7])(?:\s+7)?$/.exec(typed);
  if (number) return chordOnDegree(key, Number(number[1]), typed.length > 1 ? 4 : 3);
  const roman = RomanNumeral.get(typed);
  if (!roman.empty) {
    const scale = scaleSemitones(key.scale);
    const own = roman.alt === 0 && scale.length === 7 ? scale[roman.step] : undefined;
    const names = keySpelling(key);
    const root =
      own === undefined
        ? Note.simplify(Note.transpose(nth(names, key.root), roman.interval))
        : names[(key.root + own) % 12];
    const minor = !roman.major && !/^(m|dim|o)/.test(roman.chordType) ? "m" : "";
    return parseChord(`${root}${minor}${roman.chordType}`)?.name ?? null;
  }
  return parseChord(typed)?.name ?? null;
}

/** Pitch classes of a chord, the bass included. */
export function chordClasses(chord: Chord): Set<number> {
  const classes = new Set(chord.tones.map((tone) => (chord.root + tone) % 12));
  if (chord.bass !== null) classes.add(chord.bass);
  return classes;
}

/** How a chord’s tones are laid out as pitches. */
export interface Voicing {
  /** Tones moved up an octave, from the lowest. */
  inversion?: number;
  /** `close` as it stands; `open` every second tone an octave up; `wide` a fifth or more apart. */
  spread?: "close" | "open" | "wide";
  /** The root is the first at or above this MIDI pitch. */
  low?: MidiPitch;
}

/** MIDI pitches of a chord, ascending, all within 0–127; the bass of a stroke chord lies below. */
export function chordPitches(chord: Chord, voicing: Voicing = {}): number[] {
  const { inversion = 0, spread = "close", low = 48 } = voicing;
  const root = low + modulo(chord.root - low, 12);
  const tones = chord.tones.map((tone) => root + tone);
  for (let i = 0; i < inversion; i++) {
    const lowest = must(tones.shift());
    tones.push(lowest + 12);
    tones.sort((a, b) => a - b);
  }
  if (spread === "open") {
    for (let i = 1; i < tones.length; i += 2) tones[i]! += 12;
    tones.sort((a, b) => a - b);
  }
  if (spread === "wide") {
    for (let i = 1; i < tones.length; i++)
      while (nth(tones, i) - nth(tones, i - 1) < 7) tones[i]! += 12;
  }
  if (chord.bass !== null) {
    const below = nth(tones, 0) - ((((nth(tones, 0) - chord.bass) % 12) + 12) % 12);
    // What doubles the bass an octave higher adds nothing.
    tones.unshift(below === tones[0] ? below - 12 : below);
  }
  // What would leave the range stays in the nearest octave that holds it.
  const held = tones.map((pitch) =>
    pitch > 127 ? pitch - 12 * Math.ceil((pitch - 127) / 12) : pitch,
  );
  return [...new Set(held)].filter((pitch) => pitch >= 0).sort((a, b) => a - b);
}

/** The first inversion, second, …: how many a chord has besides its root position. */
export const inversionsOf = (chord: Chord): number => chord.tones.length - 1;

/** With real accidentals, for people: `B♭m7`. */
export function chordText(name: string): string {
  return name
    .replaceAll("#", "♯")
    .replace(/([A-G])b/g, "$1♭")
    .replace(/b(?=\d)/g, "♭");
}
