import {
  driftOf,
  edits,
  gridTicks,
  lineAt,
  msToTicks,
  nearestLine,
  partOf,
  trackOf,
  type Note,
} from "@/core";
import { nanoid } from "nanoid";
import { noteInCell } from "../geometry/cells";
import { place, type Session, type SessionStore } from "../session/store";
import { rowInHand } from "./caret";
import {
  driftText,
  frontMoved,
  gridOfNote,
  movedByDegrees,
  movedByLines,
  ownIds,
  touch,
} from "./notes";
/** Ids to work on: the selection, else the note at the caret. */
export function chosen(state: Session): Set<string> {
  if (state.selection.size > 0) return ownIds(state.selection);
  const row = rowInHand(state);
  const note = row && noteInCell(partOf(state.project, place(state)).notes, row, state.caret.tick);
  return new Set(note ? [note.id] : []);
}

export function removeChosen(store: SessionStore): void {
  const state = store.getState();
  const ids = chosen(state);
  state.edit(ids.size === 1 ? "Take away" : `Take ${ids.size} away`, (p) =>
    edits.removeNotes(p, place(state), ids),
  );
  store.setState({ selection: new Set() });
}

export function changeVelocity(store: SessionStore, by: number): void {
  const state = store.getState();
  const ids = chosen(state);
  const change = (note: Note) => ({
    ...note,
    velocity: Math.min(127, Math.max(1, note.velocity + by)),
  });
  state.edit("Velocity", (p) => edits.changeNotes(p, place(state), ids, change), "key-velocity");
  const first = partOf(store.getState().project, place(state)).notes.find((n) => ids.has(n.id));
  const row = rowInHand(state);
  if (first && row) touch(store, first, row);
}

export function moveChosen(store: SessionStore, lines: number, degrees: number): void {
  const state = store.getState();
  const ids = chosen(state);
  const drums = trackOf(state.project, state.track).kind === "drums";
  const change = (note: Note) => {
    const moved = movedByLines(note, lines, gridOfNote(state, note));
    if (drums || degrees === 0) return moved;
    return { ...moved, pitch: movedByDegrees(state.project, note.pitch, degrees) };
  };
  state.edit("Move", (p) => edits.changeNotes(p, place(state), ids, change), "key-move");
}

/** Moves by small amounts, for feel, and says where the first one stands now. */
export function nudgeChosen(store: SessionStore, by: { ticks: number } | { ms: number }): void {
  const state = store.getState();
  const ids = chosen(state);
  const { tempo } = state.project;
  const ticks = "ticks" in by ? by.ticks : Math.round(msToTicks(by.ms, tempo)) || Math.sign(by.ms);
  const change = (note: Note) => ({ ...note, start: Math.max(-480, note.start + ticks) });
  state.edit("Nudge", (p) => edits.changeNotes(p, place(state), ids, change), "key-nudge");
  const first = partOf(store.getState().project, place(state)).notes.find((n) => ids.has(n.id));
  if (!first) return;
  store.setState({ said: driftText(driftOf(gridOfNote(state, first), first.start), tempo) });
}

/** Moves to the line before or after, whatever the drift was. */
export function moveToLine(store: SessionStore, lines: 1 | -1): void {
  const state = store.getState();
  const ids = chosen(state);
  const change = (note: Note) => {
    const grid = gridOfNote(state, note);
    const line = nearestLine(grid, note.start);
    const drift = note.start - lineAt(grid, line);
    // From beside a line, the first step goes to that line where it lies the right way.
    const to = drift !== 0 && Math.sign(drift) !== lines ? line : line + lines;
    return { ...note, start: Math.max(-480, lineAt(grid, to)) };
  };
  state.edit("Move to a line", (p) => edits.changeNotes(p, place(state), ids, change), "key-line");
}

export function lengthenChosen(store: SessionStore, steps: number): void {
  const state = store.getState();
  const ids = chosen(state);
  const change = (note: Note) => {
    const cell = gridTicks(gridOfNote(state, note));
    return { ...note, length: Math.max(1, note.length + steps * cell) };
  };
  state.edit("Length", (p) => edits.changeNotes(p, place(state), ids, change), "key-length");
}

/** Moves the front ends of chosen notes by grid steps; their ends stay. */
export function lengthenFront(store: SessionStore, steps: number): void {
  const state = store.getState();
  const change = (note: Note) => frontMoved(note, -steps * gridTicks(gridOfNote(state, note)));
  const ids = chosen(state);
  state.edit("Length", (p) => edits.changeNotes(p, place(state), ids, change), "key-front");
}

/** Makes chosen notes of one pitch each into one, from the first start to the last end. */
export function joinChosen(store: SessionStore): void {
  const state = store.getState();
  const ids = chosen(state);
  let kept: string[] = [];
  state.edit("Join notes", (p) => {
    const done = edits.joinNotes(p, place(state), ids);
    kept = done.ids;
    return done.project;
  });
  store.setState({ selection: new Set(kept), said: `${ids.size} became ${kept.length}` });
}

/** Cuts notes at a tick of their part; both pieces are chosen then. */
export function cutAt(store: SessionStore, ids: ReadonlySet<string>, tick: number): void {
  const state = store.getState();
  let fresh: string[] = [];
  state.edit("Cut notes", (p) => {
    const done = edits.cutNotes(p, place(state), ids, tick, () => nanoid(8));
    fresh = done.fresh;
    return done.project;
  });
  if (fresh.length === 0) {
    store.setState({ said: "No note crosses this place: none cut" });
    return;
  }
  const count = `${fresh.length} note${fresh.length === 1 ? "" : "s"}`;
  store.setState({ selection: new Set([...ids, ...fresh]), said: `${count} cut in two` });
}

/** Cuts at the caret: the chosen notes, else all that cross it. */
export function cutAtCaret(store: SessionStore): void {
  const state = store.getState();
  const { notes, length } = partOf(state.project, place(state));
  const tick = state.caret.tick % length;
  const own = ownIds(state.selection);
  const crossing = notes.filter((n) => n.start < tick && n.start + n.length > tick);
  const ids = own.size > 0 ? own : new Set(crossing.map((note) => note.id));
  cutAt(store, ids, tick);
}

/** Marks chosen notes to slide into the next, or takes the marks away when all have one. */
export function toggleSlide(store: SessionStore): void {
  const state = store.getState();
  const ids = chosen(state);
  const own = partOf(state.project, place(state)).notes.filter((note) => ids.has(note.id));
  const slide = !own.every((note) => note.slide);
  state.edit(slide ? "Slide" : "No slide", (p) =>
    edits.changeNotes(p, place(state), ids, (note) => ({ ...note, slide })),
  );
  store.setState({ said: `${own.length} ${slide ? "slide into the next" : "no longer slide"}` });
}

/** Velocities in a line from the first to the last selected hit, those between them included. */
export function rampBetween(store: SessionStore): void {
  const state = store.getState();
  const ids = chosen(state);
  const { notes } = partOf(state.project, place(state));
  const ends = notes.filter((note) => ids.has(note.id));
  const [first, last] = [ends[0], ends[ends.length - 1]];
  if (!first || !last || first.start === last.start) {
    store.setState({ said: "Select two hits or more: the ramp goes from the first to the last" });
    return;
  }
  const rows = new Set(ends.map((note) => note.pitch));
  const inside = notes.filter(
    (note) => rows.has(note.pitch) && note.start >= first.start && note.start <= last.start,
  );
  const all = new Set(inside.map((note) => note.id));
  const ramp = (note: Note) => {
    const share = (note.start - first.start) / (last.start - first.start);
    return {
      ...note,
      velocity: Math.round(first.velocity + share * (last.velocity - first.velocity)),
    };
  };
  state.edit("Velocity ramp", (p) => edits.changeNotes(p, place(state), all, ramp));
  store.setState({
    selection: all,
    said: `${inside.length} hits from ${first.velocity} to ${last.velocity}`,
  });
}
