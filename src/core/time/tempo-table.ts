import { GRID_VALUES, grid, gridName, gridTicks, type GridKind } from "./grid";
import { ticksToMs } from "./ticks";
import type { Bpm, Hertz, Milliseconds, Ticks } from "../base";

/** One note value at a tempo. `hz` is how many of them fit in a second: 1000 / ms. */
export interface TempoRow {
  name: string;
  value: number;
  kind: Exclude<GridKind, "off">;
  ticks: Ticks;
  ms: Milliseconds;
  hz: Hertz;
}

/**
 * Note values 1/1 to 1/128, straight, triplet and dotted, in ms and Hz at a tempo.
 * Rule: a quarter lasts 60 000 / BPM ms. Throws a RangeError for a tempo that is not above 0.
 */
export function tempoTable(bpm: Bpm): TempoRow[] {
  if (!(bpm > 0) || !Number.isFinite(bpm)) {
    throw new RangeError(`Tempo must be a number above 0, not ${bpm}`);
  }
  const kinds = ["straight", "triplet", "dotted"] as const;
  return GRID_VALUES.flatMap((value) =>
    kinds.map((kind) => {
      const ticks = gridTicks(grid(value, kind));
      const ms = ticksToMs(ticks, bpm);
      return { name: gridName(grid(value, kind)), value, kind, ticks, ms, hz: 1000 / ms };
    }),
  );
}

/**
 * The note value nearest to a time in ms (0.1 ms to a minute), by ratio, and how far it is off: `error`
 * in percent of the value, positive where `ms` is longer. Null for what is no such time.
 */
export function nearestNoteValue(
  ms: Milliseconds,
  bpm: Bpm,
): { row: TempoRow; error: number } | null {
  if (!Number.isFinite(ms) || ms < 0.1 || ms > 60_000) return null;
  const apart = (row: TempoRow) => Math.abs(Math.log(row.ms / ms));
  const row = tempoTable(bpm).reduce((best, other) => (apart(other) < apart(best) ? other : best));
  return { row, error: (ms / row.ms - 1) * 100 };
}
