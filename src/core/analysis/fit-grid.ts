import type { Note } from "../score/model";
import { GRID_VALUES, driftOf, grid, gridName, gridTicks, type Grid } from "../time/grid";

/**
 * The grid that notes fit best: how well, from 0 (no better than chance) to 1 (exactly), and the
 * ids of those that fit none of its lines.
 */
export interface GridFit {
  grid: Grid;
  name: string;
  /** 1 when every hit stands on a line; 0 when they stand no nearer than by chance. */
  fit: number;
  /** Ids of hits farther from their line than a quarter of a cell. */
  misfits: string[];
}

/** What hits are tried against, coarsest first; of equal ones the plainer kind. */
const CANDIDATES: readonly Grid[] = (["straight", "triplet", "dotted"] as const)
  .flatMap((kind) => GRID_VALUES.map((value) => grid(value, kind)))
  .sort((a, b) => gridTicks(b) - gridTicks(a));

/** Fits closer than this are one and the same: a tick of rounding must not decide. */
const SAME = 0.02;

/** One hit in so many may stand anywhere without a say in what the others fit. */
const STRAYS = 8;

/**
 * The grid that notes fit best. For each candidate the root mean square of the drift is held
 * against what chance would give, a cell over √12 (the deviation of an even spread). A grid finer
 * than needed has cells as small as the drift itself and so scores worse; of equals the coarser
 * wins. Null without notes.
 */
export function fitGrid(notes: readonly Pick<Note, "id" | "start">[]): GridFit | null {
  if (notes.length === 0) return null;
  const strays = Math.floor(notes.length / STRAYS);
  let best: { grid: Grid; chance: number } | null = null;
  for (const candidate of CANDIDATES) {
    const squares = notes.map((note) => driftOf(candidate, note.start) ** 2).sort((a, b) => a - b);
    squares.length -= strays;
    const mean = squares.reduce((sum, square) => sum + square, 0) / squares.length;
    const chance = Math.sqrt(mean) / (gridTicks(candidate) / Math.sqrt(12));
    if (!best || chance < best.chance - SAME) best = { grid: candidate, chance };
  }
  const { grid: found, chance } = best!;
  const limit = gridTicks(found) / 4;
  return {
    grid: found,
    name: gridName(found),
    fit: Math.max(0, 1 - chance),
    misfits: notes.filter((n) => Math.abs(driftOf(found, n.start)) > limit).map((n) => n.id),
  };
}
