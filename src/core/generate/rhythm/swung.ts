import type { Ticks } from "../../base";
import { type Grid, gridTicks } from "../../time";
import type { Note } from "../../score";
import type { RhythmOptions } from "./options";
import { barAt } from "./places";

/**
 * Where a place of a straight rhythm lies on a swung grid: the second of each pair of cells is late, what lies between
 * goes along in proportion. Places of triplets stay, which swing only comes near to.
 */
export function swungTick(grid: Grid, tick: Ticks): Ticks {
  if (grid.kind === "off" || grid.swing === 50) return tick;
  const cell = gridTicks(grid);
  const pair = 2 * cell;
  const first = Math.floor(tick / pair) * pair;
  const at = tick - first;
  if (at === 0 || (at * 3) % pair === 0) return tick;
  const second = (pair * grid.swing) / 100;
  if (grid.kind !== "straight") return at === cell ? first + Math.round(second) : tick;
  const to = at < cell ? (at / cell) * second : second + ((at - cell) / cell) * (pair - second);
  return first + Math.round(to);
}

/**
 * The notes of a line as its grid swings. What was given keeps its place: a rhythm that is kept, followed or varied, and
 * bars that stay.
 */
export function swung(options: RhythmOptions, notes: Note[], bar: Ticks): Note[] {
  const grid = options.swing;
  if (!grid || options.rhythm || options.only || options.follow?.how === "follow") return notes;
  const given = new Set((options.like?.notes ?? []).map(({ start }) => start));
  return notes.map((note) => {
    if (given.has(note.start) || options.keepBars.includes(barAt(note.start, bar))) return note;
    const start = swungTick(grid, note.start);
    const end = swungTick(grid, note.start + note.length);
    return { ...note, start, length: Math.max(1, end - start) };
  });
}
