import { driftOf } from "@/core/time";
import { type Note, trackOf } from "@/core/score";
import { rowOf } from "../../geometry/layout";
import { currentPart } from "../../state/current";
import type { Session, SessionStore } from "../../state/store";
import { describeCaret } from "./caret";
import { driftText, gridOfNote } from "./notes";
import { nth } from "@/core/base";

/** Walks to the next or previous note in the order of time; selects it, or adds it to the selection. */
export function walk(store: SessionStore, direction: 1 | -1, { extend = false } = {}): void {
  const state = store.getState();
  const { notes } = currentPart(state);
  const drums = trackOf(state.project, state.track).kind === "drums";
  const line = drums ? notes.filter((note) => note.pitch === state.caret.pitch) : notes;
  if (line.length === 0) return;
  const selected = line.flatMap((note, i) => (state.selection.has(note.id) ? [i] : []));
  const at = direction > 0 ? selected[selected.length - 1] : selected[0];
  const index = at === undefined ? (direction > 0 ? 0 : line.length - 1) : at + direction;
  // An extended selection ends at the ends; a walk goes round.
  if (extend && (index < 0 || index >= line.length)) return;
  goTo(store, nth(line, (index + line.length) % line.length), { extend });
}

/** Walks to the note above or below: of those in time near the selected one, the nearest in pitch. */
export function walkAcross(store: SessionStore, direction: 1 | -1): void {
  const state = store.getState();
  const { notes } = currentPart(state);
  const from = notes.find((note) => state.selection.has(note.id)) ?? notes[0];
  if (!from) return;
  const beyond = notes.filter((note) => (note.pitch - from.pitch) * direction > 0);
  const cost = (note: Note) =>
    Math.abs(note.start - from.start) / 240 + Math.abs(note.pitch - from.pitch) / 2;
  const best = beyond.reduce<Note | null>(
    (found, note) => (!found || cost(note) < cost(found) ? note : found),
    null,
  );
  if (best) goTo(store, best);
}

function goTo(store: SessionStore, note: Note, { extend = false } = {}): void {
  const { selection, select, announce } = store.getState();
  const ids = extend ? [...selection, note.id] : [note.id];
  select(ids, { caret: { pitch: rowOf(note), tick: Math.max(0, note.start) } });
  announce(describeCaret(store.getState()));
}

/** Hits of the current part that stand beside the lines of their own grids, in order. */
export function offGridHits(state: Session): { note: Note; drift: number }[] {
  if (!state.track) return [];
  return currentPart(state).notes.flatMap((note) => {
    const drift = driftOf(gridOfNote(state, note), note.start);
    return drift === 0 ? [] : [{ note, drift }];
  });
}

/** Selects a note, puts the caret on it and says its drift. */
export function selectNote(store: SessionStore, note: Note): void {
  const state = store.getState();
  state.select([note.id], { caret: { pitch: note.pitch, tick: Math.max(0, note.start) } });
  state.announce(driftText(driftOf(gridOfNote(state, note), note.start), state.project.tempo));
}

/** Walks to the next or previous hit that is off its grid. */
export function walkOffGrid(store: SessionStore, direction: 1 | -1): void {
  const state = store.getState();
  const list = offGridHits(state);
  if (list.length === 0) {
    state.announce("No hit is off its grid");
    return;
  }
  const at = list.findIndex(({ note }) => state.selection.has(note.id));
  const index = at < 0 ? (direction > 0 ? 0 : list.length - 1) : at + direction;
  selectNote(store, nth(list, (index + list.length) % list.length).note);
}
