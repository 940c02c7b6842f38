import { type MidiPitch, must, nth, modulo } from "../base";
import {
  type Key,
  chordOnDegree,
  degreeOf,
  degreePitch,
  keySpelling,
  parseChord,
  scaleSemitones,
  snapPitch,
} from "../pitch";
import { type ChordMark, type Project, sortNotes } from "../score";
import { foldPitch } from "../transforms";

/** What becomes of the notes when the key changes. */
export type KeyChange = "keep" | "degrees" | "snap";

/**
 * A pitch of one key on the same degree of another, moved by the nearest way between the roots. Between
 * scales of unlike size the degree nearest in semitones is taken; a note outside its key keeps its
 * distance to the degree below.
 */
export function rekeyPitch(from: Key, to: Key, pitch: MidiPitch): number {
  const [was, is] = [scaleSemitones(from.scale), scaleSemitones(to.scale)];
  const { degree, above } = degreeOf(from, pitch);
  const octave = Math.floor(degree / was.length);
  const step = degree - octave * was.length;
  const nearest = (semitone: number) =>
    is.reduce((best, s) => (Math.abs(s - semitone) < Math.abs(best - semitone) ? s : best), 0);
  const semitone = was.length === is.length ? nth(is, step) : nearest(nth(was, step));
  // The roots lie at most a tritone apart: up as far as a fourth, down as far as a tritone.
  const move = modulo(to.root - from.root + 6, 12) - 6;
  return foldPitch(from.root + move + 12 * octave + semitone + above);
}

/**
 * A chord's name carried to another key: the chord of thirds on a degree becomes the one on the same
 * degree, any other the same kind of chord on the moved root. A bass that is one of the chord's tones
 * becomes the same tone of the new chord; any other moves by its degree.
 */
export function rekeyChord(from: Key, to: Key, name: string): string {
  const chord = parseChord(name);
  if (!chord) return name;
  const names = keySpelling(to);
  const movedClass = (pitchClass: number) => rekeyPitch(from, to, 60 + pitchClass) % 12;
  const [own, kind] = [
    chord.name.replace(/\/[A-G][#b]?$/, ""),
    must(chord.name.match(/^[A-G][#b]?(.*?)(?:\/[A-G][#b]?)?$/))[1]!,
  ];
  const moved = onSameDegree(from, to, own) ?? `${names[movedClass(chord.root)]}${kind}`;
  const found = parseChord(moved);
  if (!found) return name;
  if (chord.bass === null) return moved;
  const tone = chord.tones.findIndex((t) => (t + chord.root) % 12 === chord.bass);
  const over = found.tones[tone];
  const bass = over === undefined ? movedClass(chord.bass) : (found.root + over) % 12;
  const whole = `${moved}/${names[bass]}`;
  return parseChord(whole) ? whole : moved;
}

/** The chord of thirds on the degree on which a chord is that of its key; null where it is none. */
function onSameDegree(from: Key, to: Key, name: string): string | null {
  for (let degree = 1; degree <= 7; degree++) {
    for (const size of [3, 4] as const) {
      const was = chordOnDegree(from, degree, size);
      const is = was && parseChord(was)?.name === name && chordOnDegree(to, degree, size);
      if (is) return is;
    }
  }
  return null;
}

/**
 * Carries the notes of all melodic tracks from one key to another; drums are left alone. By degree the
 * chord line goes along.
 */
export function rekeyNotes(project: Project, from: Key, to: Key, how: KeyChange): Project {
  if (how === "keep") return project;
  const melodic = new Set(
    project.tracks.filter((track) => track.kind === "melody").map((track) => track.id),
  );
  const carry = (pitch: MidiPitch) =>
    how === "snap" ? snapPitch(to, pitch) : rekeyPitch(from, to, pitch);
  const carryChords = <T extends { chords?: readonly ChordMark[] }>(of: T): T =>
    how === "degrees" ? withChordNames(of, (name) => rekeyChord(from, to, name)) : of;
  return {
    ...project,
    song: project.song.map(carryChords),
    patterns: project.patterns.map((pattern) => ({
      ...carryChords(pattern),
      parts: pattern.parts.map((part) =>
        melodic.has(part.track) && part.notes.length > 0
          ? {
              ...part,
              notes: sortNotes(part.notes.map((note) => ({ ...note, pitch: carry(note.pitch) }))),
            }
          : part,
      ),
    })),
  };
}

const withChordNames = <T extends { chords?: readonly ChordMark[] }>(
  of: T,
  nameOf: (name: string) => string,
): T =>
  of.chords
    ? { ...of, chords: of.chords.map((mark) => ({ ...mark, name: nameOf(mark.name) })) }
    : of;

/**
 * Takes key and chord lines along where all notes were transposed: by semitones both, whole octaves changing neither;
 * by degrees of the key the chords alone, each to the chord so many degrees away.
 */
export function transposeHarmony(
  project: Project,
  { semitones, degrees }: { semitones: number; degrees: number },
): Project {
  const from = project.key;
  const to = { ...from, root: modulo(from.root + semitones, 12) };
  if (to.root === from.root && degrees % 7 === 0) return project;
  const moved = (name: string) => rekeyChord(from, to, chordByDegrees(from, name, degrees));
  return {
    ...project,
    key: to.root === from.root ? from : to,
    song: project.song.map((entry) => withChordNames(entry, moved)),
    patterns: project.patterns.map((pattern) => withChordNames(pattern, moved)),
  };
}

/** A chord moved by degrees of its key: one of the key's own to the key's own there, any other with its root. */
function chordByDegrees(key: Key, name: string, by: number): string {
  const chord = parseChord(name);
  if (!chord || by === 0) return name;
  for (let degree = 1; degree <= 7; degree++)
    for (const size of [3, 4] as const) {
      const own = chordOnDegree(key, degree, size);
      const to = modulo(degree - 1 + by, 7) + 1;
      if (own && parseChord(own)?.name === chord.name) return chordOnDegree(key, to, size) ?? name;
    }
  const { degree, above } = degreeOf(key, 60 + chord.root);
  const root = (degreePitch(key, degree + by) + above) % 12;
  const kind = /^[A-G][#b]?(.*?)(?:\/[A-G][#b]?)?$/.exec(chord.name)?.[1] ?? "";
  const moved = `${keySpelling(key)[root]}${kind}`;
  return parseChord(moved) ? moved : name;
}
