import type { Bpm, Ticks } from "../base";
import { MAX_EARLY, msToTicks, stepTicks } from "../time";
import {
  type Note,
  type Part,
  type Pattern,
  type Project,
  type Track,
  patternTicks,
  tickInLoop,
  tickInPattern,
} from "../score";
import { lanePeriod } from "../playback";
import type { PlayedNote } from "./played";

/** What becomes of a note held over the loop's end: it sounds on into the next loop, or is cut there. */
export const OVER_END = ["tie", "cut"] as const;
export type OverEnd = (typeof OVER_END)[number];

/** A note as it was played, in the time of a loop: all of a note but its id. */
export type Placed = Pick<Note, "start" | "length" | "pitch" | "velocity">;

/** Where a part is: all that placing a note in its loop needs. */
export interface LoopOf {
  project: Project;
  pattern: Pattern;
  track: Track;
  part: Part;
}

/** One step of the lane that a pad lies on, or of the part, in ticks. */
export const laneStepTicks = (
  { track, part }: Pick<LoopOf, "track" | "part">,
  pitch: number,
): Ticks => stepTicks(track.lanes.find((lane) => lane.pitch === pitch)?.grid ?? part.grid);

/** Where in the part's loop a tick since the pattern's turn began lies, to the nearest tick. */
export const tickInPart = (
  { project, pattern, part }: Omit<LoopOf, "track">,
  tick: number,
): Ticks => tickInLoop(project, pattern, Math.max(0, Math.round(tick)), part.length);

/**
 * The start in the loop of a note that was played at a tick since the pattern's turn began. What is
 * nearer to the loop's end than half a step belongs to step one, as an early hit (negative start); so
 * does what was played up to half a quarter before the very beginning. Null before that: in a count-in.
 */
export function startInLoop(loop: LoopOf, pitch: number, tick: number): number | null {
  const { project, pattern, track, part } = loop;
  const period = lanePeriod(track, pitch, part.length);
  const whole = Math.round(tick);
  if (whole < 0) return whole >= -MAX_EARLY ? whole : null;
  const inPattern = tickInPattern(project, pattern, whole);
  const start = inPattern % period;
  const left = Math.min(period - start, patternTicks(project, pattern) - inPattern);
  return left <= Math.min(MAX_EARLY, laneStepTicks(loop, pitch) / 2) && left < start
    ? -left
    : start;
}

/** The length of a note in its loop: no longer than the loop, and cut at its end on wish. */
export function lengthInLoop(
  { track, part }: LoopOf,
  { pitch, start, held }: { pitch: number; start: number; held: Ticks },
  over: OverEnd,
): number {
  const period = lanePeriod(track, pitch, part.length);
  const most = over === "cut" ? period - start : period;
  return Math.max(1, Math.min(Math.round(held), most));
}

/** A played note where it was played in the loop; null where it was not played to this loop. */
export function placeInLoop(loop: LoopOf, note: PlayedNote, over: OverEnd): Placed | null {
  if (!note.loop || note.loop.pattern !== loop.pattern.id) return null;
  const { pitch, velocity } = note;
  const start = startInLoop(loop, pitch, note.loop.tick);
  if (start === null) return null;
  const held = note.ticks ?? stepTicks(loop.part.grid);
  return { start, length: lengthInLoop(loop, { pitch, start, held }, over), pitch, velocity };
}

/** Which round of a part's loop a tick since the pattern's turn began lies in, from 0. */
export function loopCountOf(
  { project, pattern, part }: Omit<LoopOf, "track">,
  tick: number,
): number {
  const total = patternTicks(project, pattern);
  const whole = Math.max(0, Math.round(tick));
  const each = Math.max(1, Math.ceil(total / part.length));
  return Math.floor(whole / total) * each + Math.floor((whole % total) / part.length);
}

/**
 * Played notes one after another, as times from the first one's start: by the loop's ticks where all
 * were played to one run of it, else by the clock at a tempo.
 */
export function inLine(notes: readonly PlayedNote[], bpm: Bpm): Placed[] {
  const [first] = notes;
  if (!first) return [];
  const from = first.loop;
  const byLoop = notes.every(
    ({ loop }) => loop && loop.run === from?.run && loop.pattern === from.pattern,
  );
  return notes.map((note) => {
    const after =
      byLoop && note.loop && from ? note.loop.tick - from.tick : msToTicks(note.at - first.at, bpm);
    const held = byLoop ? note.ticks : null;
    return {
      start: Math.round(after),
      length: Math.max(1, Math.round(held ?? msToTicks(note.length ?? 200, bpm))),
      pitch: note.pitch,
      velocity: note.velocity,
    };
  });
}
