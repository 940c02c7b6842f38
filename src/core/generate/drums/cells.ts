import type { Ticks } from "../../base";
import { gridTicks, lineAt, steppedGrid } from "../../time";
import type { Note } from "../../score";
import type { DrumIdeaOptions, DrumLane } from "./options";

/** Never more cells of a lane than this, however fine its grid. */
const MAX_CELLS = 8192;

/** Starts of a lane's cells in its own loop, or in the bars asked for. */
export function cellStarts(lane: DrumLane, whole: Ticks): Ticks[] {
  const grid = steppedGrid(lane.grid);
  const end = lane.period ?? whole;
  const starts: Ticks[] = [];
  for (let i = 0; lineAt(grid, i) < end && i < MAX_CELLS; i++) starts.push(lineAt(grid, i));
  return starts;
}

/** Cells by the bar they lie in. */
export function byBar<T extends { start: Ticks }>(
  cells: readonly T[],
  bar: Ticks,
): Map<number, T[]> {
  const bars = new Map<number, T[]>();
  for (const cell of cells) {
    const at = Math.floor(cell.start / bar);
    const own = bars.get(at);
    if (own) own.push(cell);
    else bars.set(at, [cell]);
  }
  return bars;
}

/** A hit of a lane, `loud` of the way from softest to loudest, 0–1. */
export const hitOf = (
  { pitch, grid }: DrumLane,
  { softest, loudest }: DrumIdeaOptions,
  { id, start, loud }: { id: string; start: Ticks; loud: number },
): Note => ({
  ...{ id, start, length: gridTicks(steppedGrid(grid)), pitch },
  velocity: Math.round(softest + loud * (loudest - softest)),
  ...{ pan: 0, tune: 0, slide: false },
});
