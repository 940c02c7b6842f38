import { nanoid } from "nanoid";
import {
  MAX_EARLY,
  degreeOf,
  degreePitch,
  driftOf,
  gridTicks,
  lineAt,
  makeNote,
  nearestLine,
  plural,
  rootId,
  scaleSemitones,
  snapPitch,
  steppedGrid,
  ticksToMs,
  trackOf,
  type Grid,
  type Note,
  type Project,
} from "@/core";
import { TAPS, type Row } from "../geometry/layout";
import { currentPart } from "../session/current";
import type { Touched } from "../session/selected";
import type { Session } from "../session/store";

/** Velocity of a ghost hit. */
export const GHOST = 32;

/** Length of a new note in a row: the last touched one's, else one step of the row. */
function newLength(state: Session, row: Pick<Row, "grid">): number {
  if (state.touched.length !== null) return state.touched.length;
  return gridTicks(steppedGrid(row.grid));
}

/** A note for a row at a start in ticks, with what it takes over from the last touched one. */
export function newNote(state: Session, row: Row, start: number): Note {
  const tap = row.pitch === TAPS;
  const drawn = tap ? tapPitch(state) : row.pitch;
  const note = makeNote({
    id: nanoid(8),
    start,
    length: newLength(state, row),
    pitch: state.inScale && !row.lane ? snapPitch(state.project.key, drawn) : drawn,
    velocity: state.touched.velocity,
  });
  return tap ? { ...note, unpitched: true } : note;
}

/** What a tapped note sounds at until it is given a pitch: the root nearest to the line there is. */
export function tapPitch(state: Session): number {
  const { key } = state.project;
  const rest = currentPart(state).notes.filter((note) => !note.unpitched);
  const middle = rest.length > 0 ? rest.reduce((sum, n) => sum + n.pitch, 0) / rest.length : 55;
  return degreePitch(key, Math.round((middle - key.root) / 12) * scaleSemitones(key.scale).length);
}

/** What the next new note takes over from one that was touched in a row of this grid. */
export function touchedBy(note: Note, grid: Grid): Touched {
  const length = note.length === gridTicks(grid) ? null : note.length;
  return { velocity: note.velocity, length };
}

/** Ids as the part itself has them, for notes as they are heard. */
export function ownIds(ids: Iterable<string>): Set<string> {
  return new Set([...ids].map(rootId));
}

/** The grid a note of the current part is measured against: its lane's, else the part's. */
export function gridOfNote(state: Session, note: Note): Grid {
  const track = trackOf(state.project, state.track);
  return track.lanes.find((l) => l.pitch === note.pitch)?.grid ?? currentPart(state).grid;
}

/** A note louder (or softer) by so much, within 1 to 127. */
export const louder = (note: Note, by: number): Note => ({
  ...note,
  velocity: Math.min(127, Math.max(1, note.velocity + by)),
});

/** Moves a note by lines of its grid, keeping what lies beside the line. */
export function movedByLines(note: Note, lines: number, grid: Grid): Note {
  const line = nearestLine(grid, note.start);
  const start = lineAt(grid, line + lines) + driftOf(grid, note.start);
  return { ...note, start: Math.max(-MAX_EARLY, Math.round(start)) };
}

/** Pitch moved by rows of the key (degrees); outside the key it keeps its distance to the degree. */
export function movedByDegrees(project: Project, pitch: number, degrees: number): number {
  const { degree, above } = degreeOf(project.key, pitch);
  return Math.min(127, Math.max(0, degreePitch(project.key, degree + degrees) + above));
}

/** A note that begins so many ticks later and ends where it did. */
export function frontMoved(note: Note, ticks: number): Note {
  const start = Math.max(-MAX_EARLY, Math.min(note.start + note.length - 1, note.start + ticks));
  return { ...note, start, length: note.start + note.length - start };
}

/** How far a note stands from its line: `12 ticks late, 6.3 ms`. */
export function driftText(ticks: number, tempo: number): string {
  if (ticks === 0) return "on the line";
  const size = Math.abs(ticks);
  const ms = ticksToMs(size, tempo).toFixed(1);
  return `${plural(size, "tick")} ${ticks < 0 ? "early" : "late"}, ${ms} ms`;
}
