import { lineAt, nearestLine } from "@/core/time";
import type { Note } from "@/core/score";
import { rowOf, type Row } from "./layout";

/**
 * The line of a row's own loop that a tick of the pattern belongs to: where a new note goes. What lies
 * right of the loop's last line belongs to that line; what lies before the first, to the first.
 */
export function cellOf(row: Row, tick: number): number {
  const inLoop = ((tick % row.period) + row.period) % row.period;
  const gridLine = Math.round(lineAt(row.grid, nearestLine(row.grid, inLoop)));
  if (gridLine < row.period) return gridLine;
  // Its end is the beginning of the next loop: an early hit before the very first line belongs there.
  return tick < 0 ? 0 : lastLine(row);
}

/** The note that stands in the cell of a tick, if any. */
export function noteInCell(notes: readonly Note[], row: Row, tick: number): Note | undefined {
  const cell = cellOf(row, tick);
  return notes.find((note) => rowOf(note) === row.pitch && cellOf(row, note.start) === cell);
}

/** The line of a row nearest to a tick of the pattern, inside the row's own loop. */
export function snapToRow(row: Row, tick: number): number {
  const loop = Math.max(0, Math.floor(tick / row.period));
  const inside = tick - loop * row.period;
  const gridLine = lineAt(row.grid, nearestLine(row.grid, inside));
  return loop * row.period + (gridLine >= row.period ? lastLine(row) : gridLine);
}

/** The last line of a row's loop. */
function lastLine({ grid, period }: Row): number {
  const gridLine = nearestLine(grid, period);
  const at = lineAt(grid, gridLine);
  return Math.round(at < period ? at : lineAt(grid, gridLine - 1));
}
