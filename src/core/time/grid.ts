import { PPQ } from "./ticks";
import type { Ticks } from "../base";

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
export function gridTicks(g: Grid): number {
  return g.kind === "off" ? 1 : Math.round(((4 * PPQ) / g.value) * FACTOR[g.kind]);
}

/** Tick of line `i` (any integer), swing applied to odd lines. */
export function lineAt(g: Grid, i: number): number {
  const cell = gridTicks(g);
  if (g.kind === "off" || g.swing === 50 || i % 2 === 0) return i * cell;
  return (i - 1) * cell + Math.round((2 * cell * g.swing) / 100);
}

/** Index of the line nearest to a tick; half way goes to the later line. */
export function nearestLine(g: Grid, tick: Ticks): number {
  const cell = gridTicks(g);
  if (g.kind === "off" || g.swing === 50) return Math.floor(tick / cell + 0.5);
  const first = Math.floor(tick / (2 * cell)) * 2;
  let best = first;
  for (let i = first + 1; i <= first + 2; i++) {
    if (Math.abs(lineAt(g, i) - tick) <= Math.abs(lineAt(g, best) - tick)) best = i;
  }
  return best;
}

/** Index of the last line at or before a tick: the cell the tick lies in. */
export function cellAt(g: Grid, tick: Ticks): number {
  let i = nearestLine(g, tick);
  if (lineAt(g, i) > tick) i -= 1;
  return i;
}

/** Signed distance in ticks of a tick from its nearest line; late is positive. */
export function driftOf(g: Grid, tick: Ticks): number {
  return tick - lineAt(g, nearestLine(g, tick));
}

/** Ticks of all lines in `[from, to)`, ascending. */
export function gridLines(g: Grid, from: number, to: number): number[] {
  const lines: number[] = [];
  let i = cellAt(g, Math.ceil(from));
  for (let tick = lineAt(g, i); tick < to; tick = lineAt(g, ++i)) {
    if (tick >= from) lines.push(tick);
  }
  return lines;
}

/** Short name as the trade writes it: `1/16`, `1/16T`, `1/8.`, `off`; swing shown when not 50. */
export function gridName(g: Grid): string {
  if (g.kind === "off") return "off";
  const mark = g.kind === "triplet" ? "T" : g.kind === "dotted" ? "." : "";
  return `1/${g.value}${mark}${g.swing === 50 ? "" : ` ${g.swing}%`}`;
}

/** The next finer (`+1`) or coarser (`-1`) grid of the same kind; stays at the ends. */
export function stepGrid(g: Grid, direction: 1 | -1): Grid {
  const at = GRID_VALUES.indexOf(g.value as (typeof GRID_VALUES)[number]);
  const next = GRID_VALUES[Math.min(GRID_VALUES.length - 1, Math.max(0, at + direction))];
  return { ...g, value: next ?? g.value, kind: g.kind === "off" ? "straight" : g.kind };
}

/**
 * A grid to step along: itself, or, where it is off and has no lines, the straight one of its value.
 * The one answer for all that counts in steps: the caret, and every transform.
 */
export const steppedGrid = (g: Grid): Grid => (g.kind === "off" ? { ...g, kind: "straight" } : g);

/** Length of one step along a grid, in ticks: where it is off, of the grid that stands in for it. */
export const stepTicks = (g: Grid): Ticks => gridTicks(steppedGrid(g));
