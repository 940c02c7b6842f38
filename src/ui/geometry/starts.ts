import type { Note } from "@/core/score";

const known = new WeakMap<readonly Note[], number[]>();

/** Starts of sorted notes, to search in; made once for each list. */
export function startsOf(notes: readonly Note[]): number[] {
  let starts = known.get(notes);
  if (!starts) known.set(notes, (starts = notes.map((note) => note.start)));
  return starts;
}
