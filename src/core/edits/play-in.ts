import type { Ticks } from "../base";
import { MAX_EARLY } from "../time";
import {
  type BendPoint,
  LIMITS,
  type Note,
  type PartAddress,
  type Project,
  changePart,
  overlaid,
  partOf,
  patternBar,
  patternOf,
  sortNotes,
  thinned,
  trackOf,
  bendCurve,
} from "../score";
import { lengthened } from "./lane-loop";
import { withBars } from "./past-loop";

/** A stretch of a part's loop that was played over, in ticks. */
export interface PlayedOver {
  from: Ticks;
  to: Ticks;
  /** Pads that were played: only these give way. Null for all pitches. */
  pitches: ReadonlySet<number> | null;
}

/** Deletes what begins in a stretch that was played over, but for the notes spared by id. */
export function clearPlayedOver(
  project: Project,
  place: PartAddress,
  { from, to, pitches }: PlayedOver,
  spared: (id: string) => boolean,
): Project {
  // Early hits belong to step one.
  const first = from <= 0 ? -MAX_EARLY : from;
  return changePart(project, place, (part) => {
    const notes = part.notes.filter(
      (note) =>
        note.start < first ||
        note.start >= to ||
        (pitches !== null && !pitches.has(note.pitch)) ||
        spared(note.id),
    );
    return notes.length === part.notes.length ? part : { ...part, notes };
  });
}

/**
 * Puts a take into a part: its notes at ticks from the part's beginning, farther than its loop reaches. The
 * part becomes as many whole bars as the take needs, with what it held going on round after round, and the
 * pattern at least as long; what would go past the last bar there can be is left out.
 */
export function putTake(
  project: Project,
  place: PartAddress,
  take: readonly Note[],
  idOf: () => string,
): Project {
  if (take.length === 0) return project;
  const bar = patternBar(project, patternOf(project, place.pattern));
  const last = take.reduce((most, note) => Math.max(most, note.start), 0);
  const { length } = partOf(project, place);
  const bars = Math.min(LIMITS.bars, Math.floor(last / bar) + 1);
  const whole = Math.max(length, bars * bar);
  return changePart(withBars(project, place.pattern, bars), place, (part) => {
    const long = lengthened(trackOf(project, place.track), part, whole, idOf);
    const fits = take.filter((note) => note.start < whole);
    return { ...long, notes: sortNotes([...long.notes, ...fits]) };
  });
}

/** Lays what a wheel said over a part's bend curve, where it said it; a curve that is level in the middle is none. */
export function recordBend(
  project: Project,
  place: PartAddress,
  said: readonly BendPoint[],
): Project {
  if (said.length === 0) return project;
  return changePart(project, place, (part) => {
    const { bend = [], ...rest } = part;
    const curve = overlaid(bend, thinned(bendCurve(said))).slice(0, LIMITS.bend);
    return curve.every(({ value }) => value === 0) ? rest : { ...rest, bend: curve };
  });
}

/** Deletes a part's bend curve. */
export function deleteBend(project: Project, place: PartAddress): Project {
  return changePart(project, place, (part) => {
    if (!part.bend) return part;
    const { bend: _, ...rest } = part;
    return rest;
  });
}
