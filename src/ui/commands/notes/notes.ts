import { nanoid } from "nanoid";
import { plural, clamp } from "@/core/base";
import {
  type Grid,
  MAX_EARLY,
  driftOf,
  gridTicks,
  lineAt,
  nearestLine,
  stepTicks,
  ticksToMs,
} from "@/core/time";
import { degreeOf, degreePitch, scaleSemitones, snapPitch } from "@/core/pitch";
import { type Note, type Project, makeNote, rootId, trackOf } from "@/core/score";
import { lanePeriod } from "@/core/playback";
import { TAPS, type Row } from "../../geometry/layout";
import { currentPart } from "../../state/current";
import type { Touched } from "../../state/selected";
import type { Session } from "../../state/store";

/** What tells the current part. */
type InPart = Pick<Session, "project" | "pattern" | "track">;

/** Velocity of a ghost hit. */
export const GHOST = 32;

/** Length of a new note in a row: the last touched one's, else one step of the row. */
function newLength(state: Session, row: Pick<Row, "grid">): number {
  if (state.touched.length !== null) return state.touched.length;
  return stepTicks(row.grid);
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
  const middle =
    rest.length > 0 ? rest.reduce((sum, note) => sum + note.pitch, 0) / rest.length : 55;
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
export function gridOfNote(state: InPart, note: Note): Grid {
  const track = trackOf(state.project, state.track);
  return track.lanes.find((lane) => lane.pitch === note.pitch)?.grid ?? currentPart(state).grid;
}

/** A note louder (or softer) by so much, within 1 to 127. */
export const louder = (note: Note, by: number): Note => ({
  ...note,
  velocity: clamp(note.velocity + by, 1, 127),
});

/** A start moved by lines of its grid, keeping what lies beside the line; it may leave the loop. */
export function startByLines(note: Note, lines: number, grid: Grid): number {
  const gridLine = nearestLine(grid, note.start);
  return Math.round(lineAt(grid, gridLine + lines) + driftOf(grid, note.start));
}

/** Pitch moved by rows of the key (degrees), outside the key at its distance to the degree; it may leave 0–127. */
export function pitchByDegrees(project: Project, pitch: number, degrees: number): number {
  const { degree, above } = degreeOf(project.key, pitch);
  return degreePitch(project.key, degree + degrees) + above;
}

/**
 * As far toward `by` as a group can go as one: whole steps, each note allowed. So a group that is
 * pushed against an edge stops there and keeps its shape. `allowed(0)` counts as true.
 */
export function farthest(by: number, allowed: (by: number) => boolean): number {
  if (allowed(by)) return by;
  let [low, high] = [0, Math.abs(by)];
  const sign = Math.sign(by);
  while (high - low > 1) {
    const middle = Math.floor((low + high) / 2);
    if (allowed(sign * middle)) low = middle;
    else high = middle;
  }
  return sign * low + 0;
}

/**
 * Whether a note may begin at a start: not earlier than half a quarter before its loop, and not past
 * the loop's end, where it would not be heard. One that lies there already may come back.
 */
export function startAllowed(state: InPart): (note: Note, start: number) => boolean {
  const track = trackOf(state.project, state.track);
  const { length } = currentPart(state);
  return (note, start) =>
    start >= -MAX_EARLY && (start < lanePeriod(track, note.pitch, length) || start <= note.start);
}

/** Whether a pitch is one of MIDI. */
export const pitchAllowed = (pitch: number) => pitch >= 0 && pitch <= 127;

/** Whether a velocity is one of a note that sounds. */
export const velocityAllowed = (velocity: number) => velocity >= 1 && velocity <= 127;

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
