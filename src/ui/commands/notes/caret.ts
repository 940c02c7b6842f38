import { clamp } from "@/core/base";
import * as edits from "@/core/edits";
import { formatPosition, lineAt, nearestLine, steppedGrid } from "@/core/time";
import { pitchName } from "@/core/pitch";
import type { Note } from "@/core/score";
import { cellOf, noteInCell } from "../../geometry/cells";
import { madeNotes, touchMade } from "../tracks/made";
import { currentMetre, currentPlace, currentTicks } from "../../state/current";
import type { Caret } from "../../state/selected";
import type { Session, SessionStore } from "../../state/store";
import { currentRow, noteAtCaret, rowsOf } from "./current-row";
import { GHOST, newNote } from "./notes";
import { scrollRows } from "./rows";

/** The note made by a card that the caret stands on, if any: it is touched, and nothing written under it. */
function touchedAtCaret(store: SessionStore): boolean {
  const state = store.getState();
  const row = currentRow(state);
  const made = row && noteInCell(madeNotes(state), row, state.caret.tick);
  if (made) touchMade(store, made);
  return Boolean(made);
}

/** Sets the caret and says what it stands on. */
function putCaret(store: SessionStore, caret: Caret): void {
  const { setCaret, announce } = store.getState();
  setCaret(caret);
  announce(describeCaret(store.getState()));
}

/** Moves the caret by lines of its row's grid and by rows, inside the pattern. */
export function moveCaret(store: SessionStore, lines: number, rows: number): void {
  const state = store.getState();
  const row = currentRow(state);
  if (!row) return;
  let { rows: all } = rowsOf(state);
  const { total } = rowsOf(state);
  let at = all.findIndex((r) => r.pitch === row.pitch);
  // Past the rows that are seen, they are scrolled.
  if ((at + rows < 0 || at + rows >= all.length) && !row.lane && rows !== 0) {
    scrollRows(store, state.track, -rows);
    ({ rows: all } = rowsOf(store.getState()));
    at = all.findIndex((r) => r.pitch === row.pitch);
  }
  const next = all[clamp(at + rows, 0, all.length - 1)] ?? row;
  let { tick } = state.caret;
  if (lines !== 0) {
    const grid = steppedGrid(row.grid);
    tick = lineAt(grid, nearestLine(grid, tick) + lines);
  } else if (next.grid !== row.grid) {
    tick = lineAt(next.grid, nearestLine(next.grid, tick));
  }
  tick = Math.max(0, tick);
  // What was selected in one lane is not meant in another.
  if (next.lane && next.pitch !== row.pitch) state.select([]);
  putCaret(store, { pitch: next.pitch, tick: tick >= total ? state.caret.tick : tick });
}

/** Puts the caret on the first or last step of the pattern, in its own row. */
export function caretTo(store: SessionStore, where: "start" | "end"): void {
  const state = store.getState();
  const row = currentRow(state);
  if (!row) return;
  const total = currentTicks(state);
  const grid = steppedGrid(row.grid);
  const last = nearestLine(grid, total);
  const end = lineAt(grid, lineAt(grid, last) < total ? last : last - 1);
  putCaret(store, { pitch: row.pitch, tick: where === "start" ? 0 : end });
}

/** What the caret stands on, in words, for screen readers. */
export function describeCaret(state: Session): string {
  const row = currentRow(state);
  if (!row) return "No track";
  const { key } = state.project;
  const name = row.lane?.name ?? (row.name || pitchName(row.pitch, key));
  const note = noteAtCaret(state);
  const made = note || !row ? undefined : noteInCell(madeNotes(state), row, state.caret.tick);
  const at = formatPosition(state.caret.tick, currentMetre(state));
  return `${name}, ${at}, ${note ? `velocity ${note.velocity}` : made ? `made by a card, velocity ${made.velocity}` : "empty"}`;
}

/** Puts a note where the caret stands, or deletes the one that is there. Gives the new note. */
export function toggleAtCaret(store: SessionStore): Note | null {
  const state = store.getState();
  const row = currentRow(state);
  if (!row) return null;
  const at = currentPlace(state);
  const there = noteAtCaret(state);
  if (!there && touchedAtCaret(store)) return null;
  if (there) {
    state.edit(row.lane ? "Delete hit" : "Delete note", (project) =>
      edits.deleteNotes(project, at, new Set([there.id])),
    );
    state.announce(describeCaret(store.getState()));
    return null;
  }
  const note = newNote(state, row, cellOf(row, state.caret.tick));
  // The row may have been the nearest one to where the caret stood.
  const outcome = { selection: [note.id], touch: true, caret: { pitch: row.pitch } };
  state.edit(
    row.lane ? "Add hit" : "Add note",
    (project) => edits.addNotes(project, at, [note]),
    outcome,
  );
  state.announce(describeCaret(store.getState()));
  return note;
}

/** Puts a soft hit at the caret, or makes the one there soft. */
export function ghostAtCaret(store: SessionStore): void {
  const state = store.getState();
  const row = currentRow(state);
  if (!row) return;
  const at = currentPlace(state);
  const there = noteAtCaret(state);
  if (!there && touchedAtCaret(store)) return;
  if (there) {
    const ids = new Set([there.id]);
    const soft = (note: Note) => ({ ...note, velocity: GHOST });
    state.edit("Ghost hit", (project) => edits.changeNotes(project, at, ids, soft), {
      selection: ids,
      touch: true,
    });
  } else {
    const note = { ...newNote(state, row, cellOf(row, state.caret.tick)), velocity: GHOST };
    state.edit("Ghost hit", (project) => edits.addNotes(project, at, [note]), {
      selection: [note.id],
      touch: true,
    });
  }
  state.announce(describeCaret(store.getState()));
}
