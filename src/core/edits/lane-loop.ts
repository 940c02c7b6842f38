import type { Ticks } from "../base";
import {
  type BendPoint,
  LIMITS,
  type Note,
  type Part,
  type Project,
  type Track,
  changePattern,
  ownLoops,
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

/** Notes of a part by the loop they go round in: its own, and that of each lane which has one. */
export function byLoop(track: Track, notes: readonly Note[], length: Ticks): NotesOfLoop[] {
  const own = ownLoops(track);
  const lanes = [...own].map(([pad, period]) => ({
    notes: notes.filter(({ pitch }) => pitch === pad),
    period,
  }));
  return [{ notes: notes.filter(({ pitch }) => !own.has(pitch)), period: length }, ...lanes];
}

/** A loop's curve over so many ticks, with no more points than a part holds. */
export const bendOver = (curve: readonly BendPoint[], loop: Ticks, ticks: Ticks): BendPoint[] =>
  repeated(curve, loop, ticks).slice(0, LIMITS.bend);

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
  const bend = part.bend && { bend: bendOver(part.bend, part.length, length) };
  const notes = writtenOut(others, { period: part.length, ticks: length }, idOf);
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
