import { clamp, nth, lastOf } from "@/core/base";
import { type Key, degreeOf, degreePitch, inKey } from "@/core/pitch";
import type { Project, Track } from "@/core/score";
import { isBass } from "@/core/formats";

/**
 * Which rows of a melodic track are seen: from its highest pitch down, as many as fit a height in CSS
 * pixels. It moves only when it is scrolled, so that rows stay where they are while notes are drawn.
 */
export interface PitchWindow {
  top: number;
  height: number;
}

/** Heights of a row of the key, of any other, and what a window may be high, in CSS pixels. */
export const DEGREE = 17;
export const OUTSIDE = 13;
export const WINDOW_HEIGHTS = { min: 5 * DEGREE, max: 60 * DEGREE } as const;

const LOWEST = 0;
const HIGHEST = 127;

/** Whether a pitch has a row of its own: those of the key do, with `allRows` all. */
const hasRow = (key: Key, pitch: number, allRows: boolean) => allRows || inKey(key, pitch);

const heightOf = (key: Key, pitch: number) => (inKey(key, pitch) ? DEGREE : OUTSIDE);

/** Pitches of the rows of a window, from the highest down. Never empty. */
export function windowPitches({ top, height }: PitchWindow, key: Key, allRows: boolean): number[] {
  const pitches: number[] = [];
  let space = height;
  for (let pitch = Math.min(HIGHEST, top); pitch >= LOWEST; pitch--) {
    if (!hasRow(key, pitch, allRows)) continue;
    space -= heightOf(key, pitch);
    if (space < 0 && pitches.length > 0) break;
    pitches.push(pitch);
  }
  return pitches.length > 0 ? pitches : [LOWEST];
}

/** A window moved by rows, up where positive, no farther than the ends of the range of pitches. */
export function scrolledWindow(
  window: PitchWindow,
  rows: number,
  key: Key,
  allRows: boolean,
): PitchWindow {
  let { top } = window;
  const step = Math.sign(rows);
  const lowest = lowestTop(window.height, key, allRows);
  for (let left = Math.abs(rows); left > 0; left--) {
    let next = top + step;
    while (next > LOWEST && next < HIGHEST && !hasRow(key, next, allRows)) next += step;
    if (next > HIGHEST || (step < 0 && next < lowest)) break;
    top = next;
  }
  return top === window.top ? window : { ...window, top };
}

/** The top of a window that ends at the lowest pitch there is. */
function lowestTop(height: number, key: Key, allRows: boolean): number {
  let space = height;
  let top = LOWEST;
  for (let pitch = LOWEST; pitch <= HIGHEST; pitch++) {
    if (!hasRow(key, pitch, allRows)) continue;
    space -= heightOf(key, pitch);
    if (space < 0) break;
    top = pitch;
  }
  return top;
}

/** A window moved as little as is needed to show a pitch. */
export function windowShowing(
  window: PitchWindow,
  pitch: number,
  key: Key,
  allRows: boolean,
): PitchWindow {
  let shown = window;
  for (let i = 0; i < 128; i++) {
    const pitches = windowPitches(shown, key, allRows);
    const [high, low] = [nth(pitches, 0), lastOf(pitches)];
    if (pitch <= high && pitch >= low) break;
    const next = scrolledWindow(shown, pitch > high ? 1 : -1, key, allRows);
    if (next === shown) break;
    shown = next;
  }
  return shown;
}

/** Degrees that are seen at first: no fewer, no more. */
const FEWEST = 9;
const MAX = 16;

/**
 * Where the window of a track begins: over all its notes in all patterns, in whole octaves from the root
 * with a row more at either end; about their middle where they are too many.
 */
export function firstWindow(project: Project, track: Track): PitchWindow {
  const { key } = project;
  let [lowest, highest] = [HIGHEST, LOWEST];
  for (const { parts } of project.patterns) {
    for (const part of parts) {
      if (part.track !== track.id) continue;
      for (const note of part.notes) {
        if (note.unpitched) continue;
        lowest = Math.min(lowest, note.pitch);
        highest = Math.max(highest, note.pitch);
      }
    }
  }
  if (lowest > highest) lowest = highest = isBass(track) ? 42 : 64;
  const rootAt = (pitch: number) => pitch - ((((pitch - key.root) % 12) + 12) % 12);
  const degree = (pitch: number) => degreeOf(key, pitch).degree;
  let [from, to] = [degree(rootAt(lowest)) - 1, degree(rootAt(highest + 11)) + 1];
  to = Math.max(to, from + FEWEST - 1);
  if (to - from + 1 > MAX) {
    const middle = (degree(lowest) + degree(highest)) / 2;
    from = Math.round(middle - MAX / 2);
    to = from + MAX - 1;
  }
  const top = clamp(degreePitch(key, to), LOWEST, HIGHEST);
  return { top, height: (to - from + 1) * DEGREE };
}

/** A root of the key among the rows of a window, the one nearest to its middle. */
export function rootIn(window: PitchWindow, key: Key): number {
  const allRows = false;
  const pitches = windowPitches(window, key, allRows);
  const middle = nth(pitches, Math.floor(pitches.length / 2));
  const roots = pitches.filter((pitch) => (pitch - key.root) % 12 === 0);
  return roots.reduce(
    (best, root) => (Math.abs(root - middle) < Math.abs(best - middle) ? root : best),
    roots[0] ?? middle,
  );
}
