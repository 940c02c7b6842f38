import { lineAt, nearestLine, type Note } from "@/core";
import { rowOf, type Row } from "./layout";
/** The line of a row's own loop nearest to a tick of the pattern: where a new note goes. */
export function cellOf(row: Row, tick: number): number {
  const inLoop = ((tick % row.period) + row.period) % row.period;
  const line = Math.round(lineAt(row.grid, nearestLine(row.grid, inLoop)));
  // The line at the end of the loop is its first one again.
  return line >= row.period ? 0 : line;
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
  return loop * row.period + Math.min(lineAt(row.grid, nearestLine(row.grid, inside)), row.period);
}
