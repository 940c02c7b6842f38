import type { MidiPitch, Ticks } from "../base";
import { stepTicks } from "../time";
import {
  type Note,
  type Part,
  type Project,
  type Track,
  changePattern,
  patternTicks,
  repeated,
  sortNotes,
  trackOf,
  writtenOut,
} from "../score";

/** Notes that go round together, and their loop in ticks. */
export interface NotesOfLoop {
  notes: readonly Note[];
  period: Ticks;
}

/** Loop lengths in ticks of the lanes that have their own, by pad. */
export const ownLoops = ({ lanes }: Track): ReadonlyMap<MidiPitch, Ticks> =>
  new Map(
    lanes.flatMap(({ pitch, steps, grid }) => (steps ? [[pitch, steps * stepTicks(grid)]] : [])),
  );

/** Notes of a part by the loop they go round in: its own, and that of each lane which has one. */
export function byLoop(track: Track, notes: readonly Note[], length: Ticks): NotesOfLoop[] {
  const own = ownLoops(track);
  const lanes = [...own].map(([pad, period]) => ({
    notes: notes.filter(({ pitch }) => pitch === pad),
    period,
  }));
  return [{ notes: notes.filter(({ pitch }) => !own.has(pitch)), period: length }, ...lanes];
}

/** A part whose loop is written out until it is `length` ticks long; lanes with their own loops stay as they are. */
export function lengthened(
  track: Track,
  part: Part,
  length: Ticks,
  idOf: (note: Note) => string,
): Part {
  if (length <= part.length) return part;
  const own = ownLoops(track);
  const looped = part.notes.filter(({ pitch }) => own.has(pitch));
  const others = part.notes.filter(({ pitch }) => !own.has(pitch));
  const bend = part.bend && { bend: repeated(part.bend, part.length, length) };
  const notes = writtenOut(others, part.length, length, idOf);
  return { ...part, ...bend, length, notes: sortNotes([...looped, ...notes]) };
}

/** Writes the loops of a pattern's parts out until each is as long as the pattern; empty ones just are. */
export function loopsWrittenOut(
  project: Project,
  pattern: string,
  idOf: (note: Note) => string,
): Project {
  return changePattern(project, pattern, (whole) => {
    const total = patternTicks(project, whole);
    const parts = whole.parts.map((part) =>
      lengthened(trackOf(project, part.track), part, total, idOf),
    );
    return parts.every((part, i) => part === whole.parts[i]) ? whole : { ...whole, parts };
  });
}
