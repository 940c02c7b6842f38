import * as edits from "@/core/edits";
import { type Grid, type GridKind, stepGrid } from "@/core/time";
import { changePart } from "@/core/score";
import { gridUsed, keyedFrom, togglePin, userGrids, type KeyedGrid } from "../../saving/user";
import { currentPlace } from "../../state/current";
import type { Session, SessionStore } from "../../state/store";
import { currentRow } from "../notes/caret";

/** Gives the current lane (or melodic part) another grid. */
export function changeGrid(store: SessionStore, change: (grid: Grid) => Grid): void {
  const state = store.getState();
  const row = currentRow(state);
  if (!row) return;
  const { lane } = row;
  const at = currentPlace(state);
  gridUsed(row.grid, change(row.grid));
  state.edit("Grid", (p) =>
    lane
      ? edits.changeLane(p, state.track, lane.id, { grid: change(lane.grid) })
      : changePart(p, at, (part) => ({ ...part, grid: change(part.grid) })),
  );
}

/** Makes the grid one of a kind, or straight again where it is of that kind. */
export const toggleKind = (store: SessionStore, kind: GridKind): void =>
  changeGrid(store, (g) => ({ ...g, kind: g.kind === kind ? "straight" : kind }));

/** A finer or a coarser grid. */
export const stepCurrentGrid = (store: SessionStore, by: 1 | -1): void =>
  changeGrid(store, (g) => stepGrid(g, by));

/** The grids one key away for the current row. */
export function keyedGrids(state: Session): KeyedGrid[] {
  const used = state.project.tracks.flatMap((track) => track.lanes.map((l) => l.grid));
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
