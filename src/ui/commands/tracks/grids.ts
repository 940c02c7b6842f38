import * as edits from "@/core/edits";
import { type Grid, type GridKind, stepGrid } from "@/core/time";
import { changePart, partOf, trackOf } from "@/core/score";
import { gridUsed, keyedFrom, togglePin, userGrids, type KeyedGrid } from "../../saving/user";
import { settings } from "../../person/settings";
import type { Session, SessionStore } from "../../state/store";
import { currentRow } from "../notes/current-row";

/** Gives a lane of a kit, or a track's part in the current pattern, another grid; it is remembered as used. */
export function setGrid(
  store: SessionStore,
  { track, lane }: { track: string; lane?: string },
  change: (grid: Grid) => Grid,
): void {
  const { project, pattern, edit } = store.getState();
  const at = { pattern, track };
  const own = trackOf(project, track).lanes.find(({ id }) => id === lane);
  const before = own?.grid ?? partOf(project, at).grid;
  const grid = change(before);
  gridUsed(before, grid);
  if (edits.isSwungAnew(before, grid) && settings().hitsSwing) {
    edit("Swing of the grid", (project) => edits.swingWithHits(project, at, own?.id ?? null, grid));
    return;
  }
  edit("Grid", (project) =>
    own
      ? edits.changeLane(project, track, own.id, { grid })
      : changePart(project, at, (part) => ({ ...part, grid })),
  );
}

/** Gives the current lane (or melodic part) another grid. */
export function changeGrid(store: SessionStore, change: (grid: Grid) => Grid): void {
  const state = store.getState();
  const row = currentRow(state);
  if (!row) return;
  setGrid(store, { track: state.track, ...(row.lane && { lane: row.lane.id }) }, change);
}

/** Makes the grid one of a kind, or straight again where it is of that kind. */
export const toggleKind = (store: SessionStore, kind: GridKind): void =>
  changeGrid(store, (grid) => ({ ...grid, kind: grid.kind === kind ? "straight" : kind }));

/** A finer or a coarser grid. */
export const stepCurrentGrid = (store: SessionStore, by: 1 | -1): void =>
  changeGrid(store, (grid) => stepGrid(grid, by));

/** The grids one key away for the current row. */
export function keyedGrids(state: Session): KeyedGrid[] {
  const used = state.project.tracks.flatMap((track) => track.lanes.map((lane) => lane.grid));
  return keyedFrom(userGrids(), used);
}

/** Gives the current row one of the grids one key away; `index` counts from 0. */
export function applyKeyedGrid(store: SessionStore, index: number): void {
  const found = keyedGrids(store.getState())[index];
  if (found) changeGrid(store, () => found.grid);
}

/** Pins or unpins the grid of the current row. */
export function pinGrid(store: SessionStore): void {
  const row = currentRow(store.getState());
  if (row) togglePin(row.grid);
}
