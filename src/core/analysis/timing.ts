import { type Bpm, type Milliseconds, type Ticks, mean } from "../base";
import { type Grid, driftOf, ticksToMs } from "../time";
import type { Note } from "../score";

/** How a note stands to its grid: late is positive. */
export interface Drift {
  id: string;
  start: Ticks;
  ticks: Ticks;
  ms: Milliseconds;
}

/**
 * How notes stand to a grid, in ms: each one’s drift, their mean (late is positive) and their
 * spread (standard deviation).
 */
export interface Timing {
  drifts: Drift[];
  /** Mean and standard deviation of the drift in ms; 0 when there are no notes. */
  mean: number;
  spread: number;
  /** How many do not stand exactly on a line. */
  off: number;
}

/** How far each note lies from the nearest line of its grid, and how even that is. */
export function timingOf(notes: readonly Note[], grid: Grid, bpm: Bpm): Timing {
  const drifts = notes.map(({ id, start }) => {
    const ticks = driftOf(grid, start);
    return { id, start, ticks, ms: ticksToMs(ticks, bpm) };
  });
  const middle = mean(drifts.map(({ ms }) => ms));
  const spread = Math.sqrt(mean(drifts.map(({ ms }) => (ms - middle) ** 2)));
  return { drifts, mean: middle, spread, off: drifts.filter((d) => d.ticks !== 0).length };
}
