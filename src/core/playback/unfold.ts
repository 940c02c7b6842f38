import { lowerBound, plural } from "../base";
import { LIMITS, type Pattern, type Project, patternTicks, sectionsOf, totalTicks } from "../score";
import { loopGroups, type LoopGroup } from "./voices";

/** How often a group's notes begin in so many ticks, its loop gone round: by counting, not by unfolding. */
function onsetsIn({ starts, period }: LoopGroup, ticks: number): number {
  if (period <= 0) return 0;
  const each = lowerBound(starts, period);
  const rest = ticks % period;
  return Math.floor(ticks / period) * each + Math.min(each, lowerBound(starts, rest));
}

/** How many notes one round of a pattern plays, muted ones included. Costs no more than its notes. */
export function unfoldedNotes(project: Project, pattern: Pattern): number {
  const ticks = patternTicks(project, pattern);
  let count = 0;
  for (const track of project.tracks) {
    const part = pattern.parts.find((part) => part.track === track.id);
    if (!part) continue;
    for (const group of loopGroups(project, { pattern, track, part }, { all: true }))
      count += onsetsIn(group, ticks);
  }
  return count;
}

/** Why a pattern plays more than can be shown and played, as a sentence; null where it does not. */
export function patternTooLarge(project: Project, pattern: Pattern): string | null {
  const count = unfoldedNotes(project, pattern);
  if (count <= LIMITS.unfolded) return null;
  return `Pattern “${pattern.name}” would play ${plural(count, "note")} each time round, its loops unfolded; at most ${LIMITS.unfolded.toLocaleString("en-GB")} can be shown and played.`;
}

/**
 * Why what is played, so many times over, cannot be written as a line of events, as a sentence; null where
 * it can.
 */
export function lineTooLong(project: Project, patternId?: string, rounds = 1): string | null {
  const sections = sectionsOf(project, patternId);
  const ticks = rounds * totalTicks(sections);
  if (ticks > LIMITS.songTicks) {
    return `It would be ${plural(ticks, "tick")} long; at most ${LIMITS.songTicks.toLocaleString("en-GB")} can be written. Write a pattern, or fewer sections.`;
  }
  const counts = new Map<Pattern, number>();
  let notes = 0;
  for (const { pattern, length, skip, loopTicks } of sections) {
    let each = counts.get(pattern);
    if (each === undefined) counts.set(pattern, (each = unfoldedNotes(project, pattern)));
    notes += rounds * each * Math.ceil((skip + length) / loopTicks);
  }
  if (notes <= LIMITS.written) return null;
  return `It would hold ${plural(notes, "note")}, its loops unfolded; at most ${LIMITS.written.toLocaleString("en-GB")} can be written. Write a pattern, or fewer sections.`;
}
