import type { MidiPitch, Ticks, Velocity } from "../base";
import { chordPitches, detectChord, parseChord } from "../pitch";
import {
  type ChordMark,
  type Note,
  type PartAddress,
  type Pattern,
  type Project,
  changePart,
  changePattern,
  makeNote,
  partOf,
  patternOf,
  patternTicks,
  sortChords,
  sortNotes,
  chordSpans,
} from "../score";

function withChords(pattern: Pattern, chords: readonly ChordMark[]): Pattern {
  const { chords: _, ...rest } = pattern;
  return chords.length > 0 ? { ...rest, chords: sortChords(chords) } : rest;
}

/** Puts chords into a pattern's line, each in the place of one that begins on the same tick. */
export function putChords(
  project: Project,
  patternId: string,
  marks: readonly ChordMark[],
): Project {
  return changePattern(project, patternId, (pattern) => {
    const ids = new Set(marks.map((mark) => mark.id));
    const kept = (pattern.chords ?? []).filter((mark) => !ids.has(mark.id));
    return withChords(pattern, [...kept, ...marks]);
  });
}

/** A pattern's chord line, whole. */
export const setChords = (
  project: Project,
  patternId: string,
  chords: readonly ChordMark[],
): Project => changePattern(project, patternId, (pattern) => withChords(pattern, chords));

/** Takes a chord out of the line: the one before it holds on. */
export function deleteChord(project: Project, patternId: string, id: string): Project {
  return changePattern(project, patternId, (pattern) => {
    const kept = (pattern.chords ?? []).filter((mark) => mark.id !== id);
    return kept.length === pattern.chords?.length ? pattern : withChords(pattern, kept);
  });
}

/**
 * Names the chords that a part's notes make, one for each stretch of so many ticks (a bar): of what
 * sounds in it, the lowest as bass. Stretches that make none are left out, and so is a chord again.
 */
export function detectChords(
  project: Project,
  place: PartAddress,
  every: number,
  idOf: (start: Ticks) => string,
): ChordMark[] {
  const pattern = patternOf(project, place.pattern);
  const { notes, length } = partOf(project, place);
  const end = Math.min(length, patternTicks(project, pattern));
  const marks: ChordMark[] = [];
  for (let start = 0; start < end; start += every) {
    const sounding = notes.filter(
      // What only reaches in by less than a sixteenth belongs to the chord before.
      (note) => note.start < start + every - 60 && note.start + note.length > start + 240,
    );
    const name = detectChord(
      sounding.map((note) => note.pitch),
      project.key,
    );
    if (name === null || marks.at(-1)?.name === name) continue;
    marks.push({ id: idOf(start), start, name, inversion: 0, spread: "close" });
  }
  return marks;
}

/** How chords become held notes: from which pitch up, how loud, and what the notes are called. */
export interface HeldChords {
  /** The roots are the first at or above this MIDI pitch. */
  low: MidiPitch;
  velocity: Velocity;
  idOf: () => string;
}

/** The chord line as held notes. */
export function chordNotes(
  project: Project,
  pattern: Pattern,
  { low, velocity, idOf }: HeldChords,
): Note[] {
  return chordSpans(project, pattern).flatMap(({ mark, from, to }) => {
    const chord = parseChord(mark.name);
    if (!chord) return [];
    const { inversion, spread } = mark;
    return chordPitches(chord, { inversion, spread, low }).map((pitch) =>
      makeNote({ id: idOf(), start: from, length: to - from, pitch, velocity }),
    );
  });
}

/** Puts one chord of the line as held notes on a part, in the place of what begins while it holds. */
export function holdChord(
  project: Project,
  place: PartAddress,
  id: string,
  how: HeldChords,
): Project {
  const pattern = patternOf(project, place.pattern);
  const span = chordSpans(project, pattern).find(({ mark }) => mark.id === id);
  if (!span) return project;
  const notes = chordNotes(project, pattern, how).filter((note) => note.start === span.from);
  return changePart(project, place, (part) => ({
    ...part,
    length: Math.max(part.length, span.to),
    notes: sortNotes([
      ...part.notes.filter((note) => note.start < span.from || note.start >= span.to),
      ...notes,
    ]),
  }));
}

/** Puts held chords in the place of a part's notes; the part becomes as long as the pattern. */
export function holdChords(project: Project, place: PartAddress, how: HeldChords): Project {
  const pattern = patternOf(project, place.pattern);
  const notes = chordNotes(project, pattern, how);
  const length = patternTicks(project, pattern);
  return changePart(project, place, (part) => ({ ...part, notes, length, chain: [] }));
}
