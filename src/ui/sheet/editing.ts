import { nanoid } from "nanoid";
import {
  MAX_EARLY,
  barTicks,
  beatTicks,
  degreeOf,
  degreePitch,
  driftOf,
  edits,
  formatPosition,
  gridTicks,
  lineAt,
  msToTicks,
  nearestLine,
  partOf,
  patternOf,
  patternTicks,
  pitchName,
  rootId,
  scaleSemitones,
  snapPitch,
  ticksToMs,
  trackOf,
  type Grid,
  type Note,
  type Project,
} from "@/core";
import { place, type Session, type SessionStore } from "../session/store";
import { gridUsed } from "../saving/user";
import { TAPS, layOut, rowOf, type Row } from "../geometry/layout";

/** Length of a new note in a row: the last touched one's, else one step of the row. */
function newLength(state: Session, row: Pick<Row, "grid">): number {
  if (state.touched.length !== null) return state.touched.length;
  return row.grid.kind === "off" ? 240 : gridTicks(row.grid);
}

export function newNote(state: Session, row: Row, start: number): Note {
  const tap = row.pitch === TAPS;
  const drawn = tap ? tapPitch(state) : row.pitch;
  return {
    id: nanoid(8),
    start,
    length: newLength(state, row),
    pitch: state.inScale && !row.lane ? snapPitch(state.project.key, drawn) : drawn,
    velocity: state.touched.velocity,
    pan: 0,
    tune: 0,
    slide: false,
    ...(tap && { unpitched: true }),
  };
}

/** What a tapped note sounds at until it is given a pitch: the root nearest to the line there is. */
export function tapPitch(state: Session): number {
  const { notes } = partOf(state.project, place(state));
  const rest = notes.filter((note) => !note.unpitched);
  const middle = rest.length > 0 ? rest.reduce((sum, n) => sum + n.pitch, 0) / rest.length : 55;
  return degreePitch(
    state.project.key,
    Math.round((middle - state.project.key.root) / 12) * scaleSize(state),
  );
}

const scaleSize = (state: Session) => scaleSemitones(state.project.key.scale).length;

/** Remembers a note as the last touched, for the velocity and length of the next new one. */
export function touch(store: SessionStore, note: Note, row: Pick<Row, "grid">): void {
  const usual = gridTicks(row.grid);
  const length = note.length === usual ? null : note.length;
  store.setState({ touched: { velocity: note.velocity, length } });
}

/** The line of a row's own loop nearest to a tick of the pattern: where a new note goes. */
export function cellOf(row: Row, tick: number): number {
  const inLoop = ((tick % row.period) + row.period) % row.period;
  const line = Math.round(lineAt(row.grid, nearestLine(row.grid, inLoop)));
  // The line at the end of the loop is its first one again.
  return line >= row.period ? 0 : line;
}

/** The note that stands in the cell of a tick, if any. */
export function noteInCell(notes: readonly Note[], row: Row, tick: number): Note | undefined {
  const cell = cellOf(row, tick);
  return notes.find((note) => rowOf(note) === row.pitch && cellOf(row, note.start) === cell);
}

/** Ids as the part itself has them, for notes as they are heard. */
export function ownIds(ids: Iterable<string>): Set<string> {
  return new Set([...ids].map(rootId));
}

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

export function selectAll(store: SessionStore): void {
  const state = store.getState();
  const { notes } = partOf(state.project, place(state));
  const lane = trackOf(state.project, state.track).kind === "drums" ? state.caret.pitch : null;
  const inLane = notes.filter((note) => lane === null || note.pitch === lane);
  // A second time takes the whole part.
  const all = inLane.every((note) => state.selection.has(note.id)) ? notes : inLane;
  store.setState({ selection: new Set(all.map((note) => note.id)) });
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

/** Moves notes by lines of each one's own grid, keeping what lies beside the line. */
export function movedByLines(note: Note, lines: number, grid: Grid): Note {
  const line = nearestLine(grid, note.start);
  const start = lineAt(grid, line + lines) + driftOf(grid, note.start);
  return { ...note, start: Math.max(-480, Math.round(start)) };
}

/** Pitch moved by rows of the key (degrees); outside the key it keeps its distance to the degree. */
export function movedByDegrees(project: Project, pitch: number, degrees: number): number {
  const { degree, above } = degreeOf(project.key, pitch);
  return Math.min(127, Math.max(0, degreePitch(project.key, degree + degrees) + above));
}

export function gridOfNote(state: Session, note: Note): Grid {
  const track = trackOf(state.project, state.track);
  const lane = track.lanes.find((l) => l.pitch === note.pitch);
  return lane?.grid ?? partOf(state.project, place(state)).grid;
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

/** How far a note stands from its line: `12 ticks late, 6.3 ms`. */
export function driftText(ticks: number, tempo: number): string {
  if (ticks === 0) return "on the line";
  const size = Math.abs(ticks);
  const ms = ticksToMs(size, tempo).toFixed(1);
  return `${size} tick${size === 1 ? "" : "s"} ${ticks < 0 ? "early" : "late"}, ${ms} ms`;
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

/** A note that begins so many ticks later and ends where it did. */
export function frontMoved(note: Note, ticks: number): Note {
  const start = Math.max(-MAX_EARLY, Math.min(note.start + note.length - 1, note.start + ticks));
  return { ...note, start, length: note.start + note.length - start };
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

/** Walks to the next or previous note in the order of time; takes it, or adds it to the selection. */
export function walk(store: SessionStore, direction: 1 | -1, extend = false): void {
  const state = store.getState();
  const { notes } = partOf(state.project, place(state));
  const drums = trackOf(state.project, state.track).kind === "drums";
  const line = drums ? notes.filter((n) => n.pitch === state.caret.pitch) : notes;
  if (line.length === 0) return;
  const chosenOnes = line.flatMap((note, i) => (state.selection.has(note.id) ? [i] : []));
  const at = direction > 0 ? chosenOnes[chosenOnes.length - 1] : chosenOnes[0];
  const index = at === undefined ? (direction > 0 ? 0 : line.length - 1) : at + direction;
  // An extended selection ends at the ends; a walk goes round.
  if (extend && (index < 0 || index >= line.length)) return;
  take(store, line[(index + line.length) % line.length]!, extend);
}

/** Walks to the note above or below: of those in time near the one in hand, the nearest in pitch. */
export function walkAcross(store: SessionStore, direction: 1 | -1): void {
  const state = store.getState();
  const { notes } = partOf(state.project, place(state));
  const from = notes.find((note) => state.selection.has(note.id)) ?? notes[0];
  if (!from) return;
  const beyond = notes.filter((note) => (note.pitch - from.pitch) * direction > 0);
  const cost = (note: Note) =>
    Math.abs(note.start - from.start) / 240 + Math.abs(note.pitch - from.pitch) / 2;
  const best = beyond.reduce<Note | null>(
    (found, note) => (!found || cost(note) < cost(found) ? note : found),
    null,
  );
  if (best) take(store, best, false);
}

function take(store: SessionStore, note: Note, extend: boolean): void {
  const { selection } = store.getState();
  store.setState({
    selection: new Set(extend ? [...selection, note.id] : [note.id]),
    caret: { pitch: rowOf(note), tick: Math.max(0, note.start) },
  });
  store.setState({ said: describeCaret(store.getState()) });
}

/** Bars and beats as ticks for menus. */
export function loopChoices(project: Project, pattern: string): { label: string; ticks: number }[] {
  const bar = barTicks(project.metre);
  const { bars } = patternOf(project, pattern);
  const wholes = Array.from({ length: Math.min(bars, 16) }, (_, i) => i + 1).map((n) => ({
    label: n === 1 ? "1 bar" : `${n} bars`,
    ticks: n * bar,
  }));
  const beats = [1, 2, 3].filter((n) => n < project.metre.beats);
  return [
    ...beats.map((n) => ({
      label: n === 1 ? "1 beat" : `${n} beats`,
      ticks: n * beatTicks(project.metre),
    })),
    ...wholes,
  ];
}
