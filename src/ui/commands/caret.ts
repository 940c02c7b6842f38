import type { Desk } from "../session/desk";
import {
  edits,
  formatPosition,
  lineAt,
  nearestLine,
  partOf,
  patternOf,
  patternTicks,
  pitchName,
  type Grid,
  type Note,
} from "@/core";
import { cellOf, noteInCell } from "../geometry/cells";
import { layOut, type Row } from "../geometry/layout";
import { place, type Session, type SessionStore } from "../session/store";
import { GHOST, newNote } from "./notes";
export function rowInHand(state: Session): Row | null {
  const { project, pattern, open, track, caret } = state;
  if (!track) return null;
  const layout = layOut(project, pattern, new Set([...open, track]), state.allRows);
  const rows = layout.blocks.find((block) => block.track.id === track)?.rows ?? [];
  return rows.find((row) => row.pitch === caret.pitch) ?? nearestRow(rows, caret.pitch);
}

function nearestRow(rows: readonly Row[], pitch: number): Row | null {
  return rows.reduce<Row | null>(
    (best, row) =>
      !best || Math.abs(row.pitch - pitch) < Math.abs(best.pitch - pitch) ? row : best,
    null,
  );
}

/** Puts a note where the caret stands, or takes the one away that is there. */
export function toggleAtCaret(store: SessionStore): Note | null {
  const state = store.getState();
  const row = rowInHand(state);
  if (!row) return null;
  const { notes } = partOf(state.project, place(state));
  const there = noteInCell(notes, row, state.caret.tick);
  if (there) {
    state.edit("Take away", (p) => edits.removeNotes(p, place(state), new Set([there.id])));
    store.setState({ selection: new Set(), said: `${describeCaret(store.getState())}` });
    return null;
  }
  const note = newNote(state, row, cellOf(row, state.caret.tick));
  state.edit(row.lane ? "Put a hit" : "Draw a note", (p) =>
    edits.addNotes(p, place(state), [note]),
  );
  // The row may have been the nearest one to where the caret stood.
  store.setState({ selection: new Set([note.id]), caret: { ...state.caret, pitch: row.pitch } });
  store.setState({ said: describeCaret(store.getState()) });
  return note;
}

/** Moves the caret by lines of its row's grid and by rows, inside the pattern. */
export function moveCaret(store: SessionStore, lines: number, rows: number): void {
  const state = store.getState();
  const row = rowInHand(state);
  if (!row) return;
  const layout = layOut(
    state.project,
    state.pattern,
    new Set([...state.open, state.track]),
    state.allRows,
  );
  const all = layout.blocks.find((block) => block.track.id === state.track)?.rows ?? [];
  const at = all.findIndex((r) => r.pitch === row.pitch);
  const next = all[Math.min(all.length - 1, Math.max(0, at + rows))] ?? row;
  let tick = state.caret.tick;
  if (lines !== 0) {
    const g: Grid = row.grid.kind === "off" ? { ...row.grid, kind: "straight" } : row.grid;
    tick = lineAt(g, nearestLine(g, tick) + lines);
  } else if (next.grid !== row.grid) {
    tick = lineAt(next.grid, nearestLine(next.grid, tick));
  }
  const end = layout.total - 1;
  tick = Math.max(0, tick);
  if (tick > end) tick = state.caret.tick;
  store.setState({ caret: { pitch: next.pitch, tick } });
  store.setState({ said: describeCaret(store.getState()) });
}

/** Puts the caret on the first or last step of the pattern, in its own row. */
export function caretTo(store: SessionStore, where: "start" | "end"): void {
  const state = store.getState();
  const row = rowInHand(state);
  if (!row) return;
  const total = patternTicks(state.project, patternOf(state.project, state.pattern));
  const grid: Grid = row.grid.kind === "off" ? { ...row.grid, kind: "straight" } : row.grid;
  const last = nearestLine(grid, total);
  const end = lineAt(grid, lineAt(grid, last) < total ? last : last - 1);
  store.setState({ caret: { pitch: row.pitch, tick: where === "start" ? 0 : end } });
  store.setState({ said: describeCaret(store.getState()) });
}

/** What the caret stands on, in words, for screen readers. */
export function describeCaret(state: Session): string {
  const row = rowInHand(state);
  if (!row) return "No track";
  const name = row.lane?.name ?? (row.name || pitchName(row.pitch, state.project.key));
  const note = noteInCell(partOf(state.project, place(state)).notes, row, state.caret.tick);
  const at = formatPosition(state.caret.tick, state.project.metre);
  return `${name}, ${at}, ${note ? `velocity ${note.velocity}` : "empty"}`;
}

/** Puts a soft hit at the caret, or makes the one there soft. */
export function ghostAtCaret(store: SessionStore): void {
  const state = store.getState();
  const row = rowInHand(state);
  if (!row) return;
  const there = noteInCell(partOf(state.project, place(state)).notes, row, state.caret.tick);
  if (there) {
    const soft = (note: Note) => ({ ...note, velocity: GHOST });
    state.edit("Ghost", (p) => edits.changeNotes(p, place(state), new Set([there.id]), soft));
    store.setState({ selection: new Set([there.id]) });
  } else {
    const note = { ...newNote(state, row, cellOf(row, state.caret.tick)), velocity: GHOST };
    state.edit("Ghost hit", (p) => edits.addNotes(p, place(state), [note]));
    store.setState({ selection: new Set([note.id]) });
  }
  store.setState({ said: describeCaret(store.getState()) });
}

export function hearCaret({ store, engine }: Desk): void {
  const state = store.getState();
  const note = toggleAtCaret(store);
  if (note && !state.playing) void engine.audition(state.track, note.pitch, note.velocity);
}
