import { pickWeighted, type Random } from "../random";
import { scaleSemitones, type Key } from "../pitch/scales";

/** Pitch classes of the key's own chord: root, third and fifth where the scale has them. */
export function chordTones(key: Key): Set<number> {
  const scale = scaleSemitones(key.scale);
  const third = [4, 3].filter((s) => scale.includes(s));
  const fifth = [7, 6, 8].find((s) => scale.includes(s));
  const minor = third.includes(3) && (!third.includes(4) || scale.length < 7);
  const tones = [0, minor ? 3 : third[0], fifth].filter((s) => s !== undefined);
  return new Set(tones.map((s) => (s + key.root) % 12));
}

export interface Walk {
  /** Pitches that may be used, ascending. */
  pitches: readonly number[];
  tones: ReadonlySet<number>;
  /** Largest leap in semitones. */
  leap: number;
}

/** A leap from this many semitones up is answered by a step back (a rule of the handbooks). */
const LARGE_LEAP = 5;

const isTone = (walk: Walk, index: number) => walk.tones.has(walk.pitches[index]! % 12);

/** Index of a pitch to begin on: a tone of the chord, most likely near the middle of the register. */
export function startIndex(walk: Walk, random: Random): number {
  const all = walk.pitches.map((_, i) => i);
  const tones = all.filter((i) => isTone(walk, i));
  const middle = (all.length - 1) / 2;
  const near = (i: number) => 1 / (1 + Math.abs(i - middle));
  return pickWeighted(tones.length > 0 ? tones : all, near, random) ?? 0;
}

/**
 * Index of the next pitch. Steps are likelier than leaps, a large leap is answered by a step the
 * other way, strong beats lean to tones of the chord, and the edges of the register push back.
 */
export function nextIndex(
  walk: Walk,
  at: number,
  before: number | null,
  strong: boolean,
  random: Random,
): number {
  const { pitches, leap } = walk;
  const last = before === null ? 0 : pitches[at]! - pitches[before]!;
  if (Math.abs(last) >= LARGE_LEAP) {
    const answer = at - Math.sign(last);
    if (within(walk, at, answer)) return answer;
  }
  const middle = (pitches.length - 1) / 2;
  const candidates: number[] = [];
  for (let i = Math.max(0, at - 7); i <= Math.min(pitches.length - 1, at + 7); i++) {
    if (Math.abs(pitches[i]! - pitches[at]!) <= leap) candidates.push(i);
  }
  const weight = (i: number) => {
    const distance = Math.abs(i - at);
    const base = distance === 0 ? 0.9 : distance === 1 ? 4 : distance === 2 ? 1.6 : 0.8 / distance;
    const tone = strong && isTone(walk, i) ? 2.5 : 1;
    const inward = Math.abs(i - middle) <= Math.abs(at - middle) ? 1.3 : 1;
    return base * tone * inward;
  };
  return pickWeighted(candidates, weight, random) ?? at;
}

/** Index of the tone of the chord nearest to `at` within a leap of `from`; `at` where none is. */
export function restingIndex(walk: Walk, at: number, from: number | null): number {
  for (let distance = 0; distance < walk.pitches.length; distance++) {
    for (const i of [at - distance, at + distance]) {
      if (!isInside(walk, i) || !isTone(walk, i)) continue;
      if (from === null || within(walk, from, i)) return i;
    }
  }
  return at;
}

const isInside = (walk: Walk, i: number) => i >= 0 && i < walk.pitches.length;

/** Whether an index exists and lies no more than the largest leap away. */
export function within(walk: Walk, from: number, to: number): boolean {
  return isInside(walk, to) && Math.abs(walk.pitches[to]! - walk.pitches[from]!) <= walk.leap;
}
