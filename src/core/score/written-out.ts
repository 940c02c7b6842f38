import type { Ticks } from "../base";
import { conditionOfCopy, withCondition } from "./condition";
import type { Note } from "./model";

/** The ids of copies: called for each note that is made of another, `copy` counting from 1. */
type CopyId = (note: Note, copy: number) => string;

/**
 * A loop of `period` ticks written out until `ticks` are filled: each note as often as it begins there. Conditions
 * are those of the copies, so that every hit sounds in the loops it did; the first copy keeps its ids. Notes past
 * the loop's end stay past the new one, as far as they were.
 */
export function writtenOut(
  notes: readonly Note[],
  period: Ticks,
  ticks: Ticks,
  idOf: CopyId,
): Note[] {
  const copies = Math.max(1, Math.ceil(ticks / period));
  const written: Note[] = [];
  for (let copy = 0; copy < copies; copy++) {
    for (const note of notes) {
      if (note.start >= period) {
        if (copy === 0) written.push({ ...note, start: note.start + Math.max(0, ticks - period) });
        continue;
      }
      const start = copy * period + note.start;
      if (start >= ticks) continue;
      const when = note.when === undefined || conditionOfCopy(note.when, copy, copies);
      if (when === false) continue;
      const own = copy === 0 ? note : { ...note, id: idOf(note, copy), start };
      written.push(own.when === when || note.when === undefined ? own : conditioned(own, when));
    }
  }
  return written;
}

const conditioned = (note: Note, when: Exclude<Note["when"], undefined> | true): Note =>
  withCondition(note, when === true ? null : when);
