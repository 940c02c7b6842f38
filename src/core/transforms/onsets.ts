import type { Note } from "../score/model";

/** Starts this near belong to one onset: a 1/64 note, in ticks. */
export const TOGETHER = 60;

/**
 * Groups of notes that begin together, in order of time; within a group from the lowest pitch up.
 * A group holds what starts within a 1/64 of its first note.
 */
export function onsetGroups(notes: readonly Note[]): Note[][] {
  const groups: Note[][] = [];
  let group: Note[] = [];
  let until = -Infinity;
  for (const note of inTime(notes)) {
    if (note.start < until) group.push(note);
    else {
      groups.push((group = [note]));
      until = note.start + TOGETHER;
    }
  }
  return groups;
}

/** Notes in order of their starts, those that begin together as they came; most come so already. */
function inTime(notes: readonly Note[]): readonly Note[] {
  for (let i = 1; i < notes.length; i++) {
    if (notes[i]!.start < notes[i - 1]!.start) return [...notes].sort((a, b) => a.start - b.start);
  }
  return notes;
}

/** A group from the lowest pitch up; equal pitches in the order they came in. */
export function byPitch(group: readonly Note[]): Note[] {
  if (group.length === 1) return [...group];
  return [...group].sort((a, b) => a.pitch - b.pitch);
}
