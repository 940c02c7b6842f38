import type { Bpm, Ticks } from "../../base";
import { type Metre, barTicks, beatTicks } from "../../time";
import { type ChordMark, type Project, metreOf, sectionsOf } from "../../score";

/** A bar of the score. Times are ticks from the beginning of what is played. */
export interface Measure {
  at: Ticks;
  length: Ticks;
  beat: Ticks;
  metre: Metre;
  tempo: Bpm;
  /** Name of the section that begins here. */
  section: string | null;
  /** Chords by the tick in the bar at which they begin. */
  chords: { tick: Ticks; name: string }[];
}

/** The bars of a pattern, or of the song, in order. Throws a RangeError for a pattern that is not there. */
export function measuresOf(project: Project, patternId?: string): Measure[] {
  const measures: Measure[] = [];
  for (const { entry, pattern, at, length, skip, loopTicks } of sectionsOf(project, patternId)) {
    const metre = metreOf(project, pattern);
    const bar = barTicks(metre);
    const marks: readonly ChordMark[] = entry?.chords ?? pattern.chords ?? [];
    for (let tick = 0; tick < length; tick += bar) {
      const inPattern = (skip + tick) % loopTicks;
      measures.push({
        at: at + tick,
        length: bar,
        beat: beatTicks(metre),
        metre,
        tempo: entry?.tempo ?? project.tempo,
        section: tick === 0 && patternId === undefined ? (entry?.name ?? pattern.name) : null,
        chords: marks
          .filter(({ start }) => start >= inPattern && start < inPattern + bar)
          .map(({ start, name }) => ({ tick: start - inPattern, name })),
      });
    }
  }
  return measures;
}
