import type { Ticks } from "../base";
import { conditionOfCopy, withCondition } from "./condition";
import type { Note } from "./model";

/** The ids of copies: called for each note that is made of another, `copy` counting from 1. */
type CopyId = (note: Note, copy: number) => string;

/** A note as it is in one of so many copies of its loop, counted from 0; null where it is not in that one. */
type InCopy = (note: Note, copy: number, copies: number) => Note | null;

/** A loop of `period` ticks that is to fill so many. */
interface Stretch {
  period: Ticks;
  ticks: Ticks;
}

/**
 * A loop written out until `ticks` are filled: each note as often as it begins there. Conditions are those of the
 * copies, so that every hit sounds in the loops it did, where `inCopy` says nothing else; the first copy keeps its
 * ids. Notes past the loop's end stay past the new one, as far and as they were.
 */
export function writtenOut(
  notes: readonly Note[],
  { period, ticks }: Stretch,
  idOf: CopyId,
  inCopy: InCopy = conditioned,
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
      const own = start < ticks ? inCopy(note, copy, copies) : null;
      if (own) written.push(copy === 0 ? own : { ...own, id: idOf(note, copy), start });
    }
  }
  return written;
}

function conditioned(note: Note, copy: number, copies: number): Note | null {
  if (note.when === undefined) return note;
  const when = conditionOfCopy(note.when, copy, copies);
  if (when === false) return null;
  return when === note.when ? note : withCondition(note, when === true ? null : when);
}
