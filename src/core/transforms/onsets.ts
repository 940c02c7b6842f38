import type { Note } from "../score/model";

/** Starts this near belong to one onset: a 1/64 note, in ticks. */
export const TOGETHER = 60;

/**
 * Groups of notes that begin together, in order of time; within a group from the lowest pitch up.
 * A group holds what starts within a 1/64 of its first note.
 */
export function onsetGroups(notes: readonly Note[]): Note[][] {
  const groups: Note[][] = [];
  for (const note of [...notes].sort((a, b) => a.start - b.start)) {
    const group = groups[groups.length - 1];
    if (group && note.start - group[0]!.start < TOGETHER) group.push(note);
    else groups.push([note]);
  }
  return groups;
}

/** A group from the lowest pitch up; equal pitches in the order they came in. */
export function byPitch(group: readonly Note[]): Note[] {
  return [...group].sort((a, b) => a.pitch - b.pitch);
}
