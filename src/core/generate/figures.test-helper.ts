import { seeded } from "../base";
import { scalePitches } from "../pitch";
import type { Note } from "../score";

type Line = readonly Pick<Note, "start" | "length" | "pitch">[];

/** What lines are measured over: four chords of A minor, a bar each, over and over, and the key they are in. */
export const KEY = { root: 9, scale: "minor" };
const PROGRESSION = [
  [9, 0, 4],
  [5, 9, 0],
  [2, 5, 9],
  [4, 8, 11],
];
/** Lines over so many bars of them, as they are asked for. */
export const askedOver = (bars: number) => ({
  ...{ key: KEY, bars, low: 57, high: 81, count: 1 },
  chords: Array.from({ length: bars }, (_, b) => ({
    ...{ from: b * 3840, to: (b + 1) * 3840, classes: PROGRESSION[b % 4]! },
  })),
});
/** The same as it is measured, the climax wanted in one third. */
export const measuredOver = (bars: number, third = 1): Asked => ({
  ...{ bars, bar: 3840, beat: 960, root: KEY.root, third },
  classes: (b) => new Set(PROGRESSION[b % 4]),
});

/** What is asked of a line, to be measured against. */
export interface Asked {
  bars: number;
  bar: number;
  beat: number;
  root: number;
  /** Pitch classes that hold in a bar. */
  classes(bar: number): ReadonlySet<number>;
  /** Thirds of the line in which the highest note is wanted, from 0. */
  third: number;
}

/** Figures of lines, each a share from 0 to 1 but for the length of the last note. */
export interface Figures {
  repeats: number;
  steps: number;
  leaps: number;
  reversals: number;
  closed: number;
  lastLonger: number;
  lastOnBeat: number;
  breath: number;
  climax: number;
  downbeats: number;
  motif: number;
}

/** Steps of the scale from note to note. */
const intervals = (notes: Line): number[] =>
  notes.slice(1).map(({ pitch }, i) => SCALE.indexOf(pitch) - SCALE.indexOf(notes[i]!.pitch));
const SCALE = scalePitches(KEY, 0, 127);
const same = (a: readonly number[], b: readonly number[]) =>
  a.length === b.length && a.every((x, i) => x === b[i]);

/**
 * Whether a bar carries the first one's motif: the rhythm of its first half with its intervals, or with all of them
 * the other way; or at least four notes' intervals in another rhythm.
 */
function carries(line: Line, b: number, { bar }: Asked): boolean {
  const within = (k: number, ticks: number) =>
    line.filter(({ start }) => start >= k * bar && start < k * bar + ticks);
  const [one, other] = [within(0, bar / 2), within(b, bar / 2)];
  const ways = intervals(other);
  if (
    one.length > 0 &&
    one.length === other.length &&
    one.every((note, i) => note.start === other[i]!.start - b * bar)
  ) {
    if (same(intervals(one), ways)) return true;
    const over = intervals(one).map((by) => 0 - by);
    if (same(over, ways)) return true;
  }
  const [motif, now] = [intervals(within(0, bar)), intervals(within(b, bar))];
  const most = Math.min(motif.length, now.length - 1);
  return most >= 3 && same(motif.slice(0, most), now.slice(0, most));
}

/** Measures many lines. */
export function figuresOf(lines: readonly Line[], asked: Asked): Figures {
  const { bars, bar, beat, classes, third } = asked;
  let [repeats, steps, leaps, moves, turned, leapt, closed, longer, onBeat] =
    Array<number>(9).fill(0);
  let [breath, climax, downbeats, downs, motif] = Array<number>(5).fill(0);
  for (const line of lines) {
    line.forEach(({ pitch, start }, i) => {
      if (start % bar === 0) {
        downs!++;
        if (classes(start / bar).has(pitch % 12)) downbeats!++;
      }
      if (i === 0) return;
      const by = pitch - line[i - 1]!.pitch;
      moves!++;
      if (by === 0) repeats!++;
      else if (Math.abs(by) <= 2) steps!++;
      else leaps!++;
      if (i < 2) return;
      const came = line[i - 1]!.pitch - line[i - 2]!.pitch;
      if (Math.abs(came) < 3 || by === 0) return;
      leapt!++;
      if (Math.sign(by) !== Math.sign(came)) turned!++;
    });
    const last = line.at(-1)!;
    const mean = line.slice(0, -1).reduce((s, n) => s + n.length, 0) / Math.max(1, line.length - 1);
    if (classes(Math.floor(last.start / bar)).has(last.pitch % 12)) closed!++;
    if (line.length < 2 || last.length >= 1.8 * mean) longer!++;
    if (last.start % beat === 0) onBeat!++;
    if (last.start + last.length <= bars * bar - beat / 4) breath!++;
    const top = Math.max(...line.map(({ pitch }) => pitch));
    const at = line.filter(({ pitch }) => pitch === top);
    if (at.length === 1 && Math.floor((3 * at[0]!.start) / (bars * bar)) === third) climax!++;
    let carried = 0;
    for (let b = 1; b < bars; b++) if (carries(line, b, asked)) carried++;
    motif! += carried / Math.max(1, bars - 1);
  }
  const n = lines.length;
  const share = (part: number | undefined, of: number | undefined = n) => part! / Math.max(1, of!);
  return {
    repeats: share(repeats, moves),
    steps: share(steps, moves),
    leaps: share(leaps, moves),
    reversals: share(turned, leapt),
    closed: share(closed),
    lastLonger: share(longer),
    lastOnBeat: share(onBeat),
    breath: share(breath),
    climax: share(climax),
    downbeats: share(downbeats, downs),
    motif: share(motif),
  };
}

/** A line that goes anywhere in the scale by up to four steps, in the rhythm of another. */
export function wandering(line: Line, pitches: readonly number[], seed: number): Line {
  const random = seeded(seed);
  let at = Math.floor(random() * pitches.length);
  return line.map((note) => {
    at = Math.min(pitches.length - 1, Math.max(0, at + Math.floor(random() * 9) - 4));
    return { ...note, pitch: pitches[at]! };
  });
}
