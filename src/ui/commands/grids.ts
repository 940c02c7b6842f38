import type { Desk } from "../session/desk";
import { edits, stepGrid, type Grid, type GridKind } from "@/core";
import { gridUsed, lineUp, togglePin, userGrids, type LinedUp } from "../saving/user";
import { place, type Session, type SessionStore } from "../session/store";
import { rowInHand } from "./caret";
/** Gives the lane (or the melodic part) in hand another grid. */
export function changeGrid(store: SessionStore, change: (grid: Grid) => Grid): void {
  const state = store.getState();
  const row = rowInHand(state);
  if (!row) return;
  const { lane } = row;
  const at = place(state);
  gridUsed(row.grid, change(row.grid));
  state.edit("Grid", (p) =>
    lane
      ? edits.changeLane(p, state.track, lane.id, { grid: change(lane.grid) })
      : edits.changePart(p, at, (part) => ({ ...part, grid: change(part.grid) })),
  );
}

export const toggleKind = (kind: GridKind) => (desk: Desk) =>
  changeGrid(desk.store, (g) => ({ ...g, kind: g.kind === kind ? "straight" : kind }));

/** The grids one key away for the row in hand. */
export function linedUp(state: Session): LinedUp[] {
  const used = state.project.tracks.flatMap((track) => track.lanes.map((l) => l.grid));
  return lineUp(userGrids(), used);
}

export function takeLinedUp({ store }: Desk, index: number): void {
  const found = linedUp(store.getState())[index];
  if (found) changeGrid(store, () => found.grid);
}

export function pinGrid({ store }: Desk): void {
  const row = rowInHand(store.getState());
  if (row) togglePin(row.grid);
}

export function stepGridOf(desk: Desk, by: 1 | -1): void {
  changeGrid(desk.store, (g) => stepGrid(g, by));
}
