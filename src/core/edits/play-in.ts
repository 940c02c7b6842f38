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
  bendAt,
  bendCurve,
  withBend,
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

/** Lays the positions that a wheel took over a part's bend curve, where it took them; level in the middle is none. */
export function recordBend(
  project: Project,
  place: PartAddress,
  positions: readonly BendPoint[],
): Project {
  if (positions.length === 0) return project;
  return changePart(project, place, (part) => {
    return withBend(part, overlaid(part.bend ?? [], thinned(bendCurve(positions))));
  });
}

/**
 * Lays a drawn curve over a part's bend, within its loop: what lies before and after it stays as it is. Ticks of the
 * part, in order; −8192…8191.
 */
export function drawBend(
  project: Project,
  place: PartAddress,
  drawn: readonly BendPoint[],
): Project {
  return changePart(project, place, (part) => {
    const bend = part.bend ?? [];
    const inside = drawn.filter(({ tick }) => tick >= 0 && tick < part.length);
    if (inside.length === 0) return part;
    const edge = (tick: Ticks) => ({ tick, value: Math.round(bendAt(bend, tick)) });
    // Told at both ends, so that nothing is held into a stretch where the wheel rested.
    const whole = [edge(0), ...bend.filter(({ tick }) => tick > 0 && tick < part.length - 1)];
    if (part.length > 1) whole.push(edge(part.length - 1));
    return withBend(part, overlaid(whole, inside));
  });
}

/** Deletes a part's bend curve. */
export function deleteBend(project: Project, place: PartAddress): Project {
  return changePart(project, place, (part) => withBend(part, []));
}
