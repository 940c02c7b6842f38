import type { Note } from "../../score";

/** One generated line. The same options and seed give the same notes everywhere. */
export interface Idea {
  seed: number;
  notes: Note[];
  /** What it is, in a sentence, where it was made of phrases. */
  description?: string;
}

/** Of notes that begin together only the highest: the line of a line in several voices. */
export function topLine(notes: readonly Note[]): Note[] {
  const top = new Map<number, Note>();
  for (const note of notes) {
    const other = top.get(note.start);
    if (!other || note.pitch > other.pitch) top.set(note.start, note);
  }
  return [...top.values()].sort((a, b) => a.start - b.start);
}
