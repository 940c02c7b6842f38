import type { ChordMark, Pattern, Project } from "./model";
import { patternTicks } from "./sections";

/** Part of the chord line: a chord and the ticks `[from, to)` it holds. */
export interface ChordSpan {
  mark: ChordMark;
  from: number;
  to: number;
}

/** The chords of a pattern with the time each holds: to the next one, or to the pattern's end. */
export function chordSpans(project: Project, pattern: Pattern): ChordSpan[] {
  const end = patternTicks(project, pattern);
  const inside = (pattern.chords ?? []).filter((mark) => mark.start < end);
  return inside.map((mark, i) => ({
    mark,
    from: mark.start,
    to: inside[i + 1]?.start ?? end,
  }));
}
