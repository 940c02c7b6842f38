import { PPQ } from "./ticks";
import { type Ticks, clamp } from "../base";

/** Note values a grid can have: 4 means 1/4. */
export const GRID_VALUES = [1, 2, 4, 8, 16, 32, 64, 128] as const;
/** `triplet` is ×2/3, `dotted` ×3/2, `off` means no lines: every tick is one. */
export const GRID_KINDS = ["straight", "triplet", "dotted", "off"] as const;
export type GridKind = (typeof GRID_KINDS)[number];

/** Swing in percent: where in each pair of cells the second cell starts. 50 is straight. */
export const SWING_RANGE = { min: 50, max: 75 } as const;

/** A step grid. With `kind: "off"` the value is kept so that switching back returns to it. */
export interface Grid {
  value: number;
  kind: GridKind;
  swing: number;
}

export const DEFAULT_GRID: Grid = { value: 16, kind: "straight", swing: 50 };

/** Makes a grid; `grid(16, "triplet")` is 1/16T without swing. */
export function grid(value: number, kind: GridKind = "straight", swing = 50): Grid {
  return { value, kind, swing };
}

const FACTOR: Record<GridKind, number> = { straight: 1, triplet: 2 / 3, dotted: 3 / 2, off: 0 };

/** Cell length in ticks before swing; 1 when the grid is off. 1/16 is 240, 1/16T 160. */
export function gridTicks(grid: Grid): number {
  return grid.kind === "off" ? 1 : Math.round(((4 * PPQ) / grid.value) * FACTOR[grid.kind]);
}

/** Tick of line `i` (any integer), swing applied to odd lines. */
export function lineAt(grid: Grid, i: number): number {
  const cell = gridTicks(grid);
  if (grid.kind === "off" || grid.swing === 50 || i % 2 === 0) return i * cell;
  return (i - 1) * cell + Math.round((2 * cell * grid.swing) / 100);
}

/** Index of the line nearest to a tick; half way goes to the later line. */
export function nearestLine(grid: Grid, tick: Ticks): number {
  const cell = gridTicks(grid);
  if (grid.kind === "off" || grid.swing === 50) return Math.floor(tick / cell + 0.5);
  const first = Math.floor(tick / (2 * cell)) * 2;
  let best = first;
  for (let i = first + 1; i <= first + 2; i++) {
    if (Math.abs(lineAt(grid, i) - tick) <= Math.abs(lineAt(grid, best) - tick)) best = i;
  }
  return best;
}

/** Index of the last line at or before a tick: the cell the tick lies in. */
export function cellAt(grid: Grid, tick: Ticks): number {
  let i = nearestLine(grid, tick);
  if (lineAt(grid, i) > tick) i -= 1;
  return i;
}

/** Signed distance in ticks of a tick from its nearest line; late is positive. */
export function driftOf(grid: Grid, tick: Ticks): number {
  return tick - lineAt(grid, nearestLine(grid, tick));
}

/** Ticks of all lines in `[from, to)`, ascending. */
export function gridLines(grid: Grid, from: number, to: number): number[] {
  const lines: number[] = [];
  let i = cellAt(grid, Math.ceil(from));
  for (let tick = lineAt(grid, i); tick < to; tick = lineAt(grid, ++i)) {
    if (tick >= from) lines.push(tick);
  }
  return lines;
}

/** Short name as the trade writes it: `1/16`, `1/16T`, `1/8.`, `off`; swing shown when not 50. */
export function gridName(grid: Grid): string {
  if (grid.kind === "off") return "off";
  const mark = grid.kind === "triplet" ? "T" : grid.kind === "dotted" ? "." : "";
  return `1/${grid.value}${mark}${grid.swing === 50 ? "" : ` ${grid.swing}%`}`;
}

/** The next finer (`+1`) or coarser (`-1`) grid of the same kind; stays at the ends. */
export function stepGrid(grid: Grid, direction: 1 | -1): Grid {
  const at = GRID_VALUES.indexOf(grid.value as (typeof GRID_VALUES)[number]);
  const next = GRID_VALUES[clamp(at + direction, 0, GRID_VALUES.length - 1)];
  return { ...grid, value: next ?? grid.value, kind: grid.kind === "off" ? "straight" : grid.kind };
}

/**
 * A grid to step along: itself, or, where it is off and has no lines, the straight one of its value.
 * The one answer for all that counts in steps: the caret, and every transform.
 */
export function steppedGrid(grid: Grid): Grid {
  if (grid.kind !== "off") return grid;
  let stepped = steppedGrids.get(grid);
  if (!stepped) steppedGrids.set(grid, (stepped = { ...grid, kind: "straight" }));
  return stepped;
}

/** One and the same for each, so that notes of one lane are told together by their grid. */
const steppedGrids = new WeakMap<Grid, Grid>();

/** Length of one step along a grid, in ticks: where it is off, of the grid that stands in for it. */
export const stepTicks = (grid: Grid): Ticks => gridTicks(steppedGrid(grid));
