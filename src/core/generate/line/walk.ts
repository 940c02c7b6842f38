import { type MidiPitch, type Random, type Ticks, pickWeighted, nth } from "../../base";
import { PPQ } from "../../time";

/**
 * Where a line may walk: the pitches it may use, ascending, and how far one step may leap in
 * semitones.
 */
export interface WalkSpace {
  /** Pitches that may be used, ascending. */
  pitches: readonly number[];
  /** Largest leap in semitones. */
  leap: number;
  /** Pitch classes of the chord that holds at a tick. */
  classesAt(tick: Ticks): ReadonlySet<number>;
  /** Whether a note must be a tone of the chord that holds. */
  chordal: boolean;
}

/** Where a line may walk. */
export class Walk {
  readonly pitches: readonly number[];
  readonly leap: number;
  constructor(private readonly space: WalkSpace) {
    this.pitches = space.pitches;
    this.leap = space.leap;
  }
  classesAt(tick: Ticks): ReadonlySet<number> {
    return this.space.classesAt(tick);
  }
  /** Whether an index may sound at a tick. */
  allowed(index: number, tick: Ticks): boolean {
    return !this.space.chordal || this.isTone(index, this.classesAt(tick));
  }
  isTone(index: number, classes: ReadonlySet<number>): boolean {
    return classes.has(nth(this.pitches, index) % 12);
  }
}

/** A leap from this many semitones up is answered by a step back (a rule of the handbooks). */
const LARGE_LEAP = 5;

const indexes = (walk: Walk) => walk.pitches.map((_, i) => i);

type May = (index: number) => boolean;

/** Index of a pitch to begin on: of the wanted classes, most likely near the middle of the register. */
export function startIndex(
  walk: Walk,
  { tick, classes, may }: { tick: Ticks; classes: ReadonlySet<number> | null; may: May },
  random: Random,
): number {
  const all = indexes(walk).filter((i) => walk.allowed(i, tick) && may(i));
  const tones = all.filter((i) => !classes || walk.isTone(i, classes));
  const middle = (walk.pitches.length - 1) / 2;
  const near = (i: number) => 1 / (1 + Math.abs(i - middle));
  return pickWeighted(tones.length > 0 ? tones : all, near, random) ?? 0;
}

/**
 * Index of the next pitch. Steps are likelier than leaps, a large leap is answered by a step the
 * other way, strong beats lean to tones of the chord, and the edges of the register push back.
 */
export function nextIndex(
  walk: Walk,
  { at, before, tick }: { at: number; before: number | null; tick: Ticks },
  may: May,
  random: Random,
): number {
  const { pitches, leap } = walk;
  const last = before === null ? 0 : nth(pitches, at) - nth(pitches, before);
  if (Math.abs(last) >= LARGE_LEAP) {
    const answer = at - Math.sign(last);
    if (within(walk, at, answer) && walk.allowed(answer, tick) && may(answer)) return answer;
  }
  const middle = (pitches.length - 1) / 2;
  const near: number[] = [];
  for (let i = Math.max(0, at - 7); i <= Math.min(pitches.length - 1, at + 7); i++) {
    if (Math.abs(nth(pitches, i) - nth(pitches, at)) <= leap && walk.allowed(i, tick)) near.push(i);
  }
  const candidates = near.some(may) ? near.filter(may) : near;
  // Between chords with no tone in reach, the nearest tone is taken, leap or no leap.
  if (candidates.length === 0) return nearestAllowed(walk, at, tick);
  const strong = tick % PPQ === 0;
  const classes = walk.classesAt(tick);
  const weight = (i: number) => {
    const distance = Math.abs(i - at);
    const base = distance === 0 ? 0.9 : distance === 1 ? 4 : distance === 2 ? 1.6 : 0.8 / distance;
    const tone = strong && walk.isTone(i, classes) ? 2.5 : 1;
    const inward = Math.abs(i - middle) <= Math.abs(at - middle) ? 1.3 : 1;
    return base * tone * inward;
  };
  return pickWeighted(candidates, weight, random) ?? at;
}

function nearestAllowed(walk: Walk, at: number, tick: Ticks): number {
  return indexes(walk)
    .filter((i) => walk.allowed(i, tick))
    .reduce((best, i) => (best < 0 || Math.abs(i - at) < Math.abs(best - at) ? i : best), -1);
}

/** Index of the tone nearest to `at` within a leap of `from`; `at` where none is, or any will do. */
export function restingIndex(
  walk: Walk,
  at: number,
  {
    from,
    tick,
    classes,
  }: { from: number | null; tick: Ticks; classes: ReadonlySet<number> | null },
): number {
  if (!classes) return at;
  for (let distance = 0; distance < walk.pitches.length; distance++) {
    for (const i of [at - distance, at + distance]) {
      if (!isInside(walk, i) || !walk.isTone(i, classes) || !walk.allowed(i, tick)) continue;
      if (from === null || within(walk, from, i)) return i;
    }
  }
  return at;
}

/** How many notes before the end look ahead to it. */
const AHEAD = 16;

/**
 * For each of the last places, the indexes from which the end's tones can still be reached without a
 * larger leap than allowed; undefined where all can, or where nothing is asked of the end.
 */
export function reachBack(
  walk: Walk,
  places: readonly { start: Ticks; fixed?: unknown }[],
  ends: ReadonlySet<number> | null,
): (ReadonlySet<number> | undefined)[] {
  const reach: (ReadonlySet<number> | undefined)[] = places.map(() => undefined);
  if (!ends) return reach;
  const all = indexes(walk);
  let next = new Set(all.filter((i) => walk.isTone(i, ends)));
  for (let p = places.length - 1; p >= Math.max(0, places.length - AHEAD); p--) {
    if (next.size === 0 || next.size === all.length || nth(places, p).fixed) break;
    reach[p] = next;
    const now = next;
    next = new Set(all.filter((i) => [...now].some((j) => within(walk, i, j))));
  }
  return reach;
}

const isInside = (walk: Walk, i: number) => i >= 0 && i < walk.pitches.length;

/** Whether an index exists and lies no more than the largest leap away. */
export function within(walk: Walk, from: number, to: number): boolean {
  return (
    isInside(walk, to) && Math.abs(nth(walk.pitches, to) - nth(walk.pitches, from)) <= walk.leap
  );
}

/** The index of the pitch nearest to one; of two as near the lower. */
export function nearestIndex(pitches: readonly MidiPitch[], pitch: MidiPitch): number {
  return pitches.reduce(
    (best, p, i) => (Math.abs(p - pitch) < Math.abs(nth(pitches, best) - pitch) ? i : best),
    0,
  );
}
