import {
  degreeOf,
  degreePitch,
  driftOf,
  gridTicks,
  lineAt,
  MAX_EARLY,
  nearestLine,
  partOf,
  rootId,
  scaleSemitones,
  snapPitch,
  ticksToMs,
  trackOf,
  type Grid,
  type Note,
  type Project,
} from "@/core";
import { nanoid } from "nanoid";
import { TAPS, type Row } from "../geometry/layout";
import { place, type Session, type SessionStore } from "../session/store";
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

/** Ids as the part itself has them, for notes as they are heard. */
export function ownIds(ids: Iterable<string>): Set<string> {
  return new Set([...ids].map(rootId));
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

/** How far a note stands from its line: `12 ticks late, 6.3 ms`. */
export function driftText(ticks: number, tempo: number): string {
  if (ticks === 0) return "on the line";
  const size = Math.abs(ticks);
  const ms = ticksToMs(size, tempo).toFixed(1);
  return `${size} tick${size === 1 ? "" : "s"} ${ticks < 0 ? "early" : "late"}, ${ms} ms`;
}

/** A note that begins so many ticks later and ends where it did. */
export function frontMoved(note: Note, ticks: number): Note {
  const start = Math.max(-MAX_EARLY, Math.min(note.start + note.length - 1, note.start + ticks));
  return { ...note, start, length: note.start + note.length - start };
}

/** Velocity of a ghost hit. */
export const GHOST = 32;
