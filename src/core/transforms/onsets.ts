import type { Note } from "../score";

/** Starts this near belong to one onset: a 1/64 note, in ticks. */
export const TOGETHER = 60;

/**
 * Groups of notes that begin together, in order of time; within a group in the order of their starts.
 * A group holds what starts within a 1/64 of its first note.
 */
export function onsetGroups(notes: readonly Note[]): Note[][] {
  return onsetIndices(notes).map((group) => group.map((i) => notes[i]!));
}

/** The same as indices into the list, which many notes are looked up by more quickly. */
export function onsetIndices(notes: readonly Note[]): number[][] {
  const { order, from } = onsetRuns(notes);
  return from.map((start, group) => {
    const end = from[group + 1] ?? notes.length;
    const members = new Array<number>(end - start);
    for (let k = start; k < end; k++) members[k - start] = order ? order[k]! : k;
    return members;
  });
}

/**
 * The same without a list for each: indices in order of time, null where that is the order of the list, and where in
 * that order each group begins.
 */
export function onsetRuns(notes: readonly Note[]): { order: number[] | null; from: number[] } {
  const order = inTime(notes);
  const from: number[] = [];
  let until = -Infinity;
  for (let k = 0; k < notes.length; k++) {
    const { start } = notes[order ? order[k]! : k]!;
    if (start < until) continue;
    from.push(k);
    until = start + TOGETHER;
  }
  return { order, from };
}

/** Indices in order of starts, those that begin together as they came; null where they come so already. */
function inTime(notes: readonly Note[]): number[] | null {
  for (let i = 1; i < notes.length; i++) {
    if (notes[i]!.start < notes[i - 1]!.start) {
      return notes.map((_, k) => k).sort((a, b) => notes[a]!.start - notes[b]!.start);
    }
  }
  return null;
}

/** A group from the lowest pitch up; equal pitches in the order they came in. */
export function byPitch(group: readonly Note[]): Note[] {
  if (group.length === 1) return [...group];
  return [...group].sort((a, b) => a.pitch - b.pitch);
}
