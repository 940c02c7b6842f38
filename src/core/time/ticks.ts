import type { Bpm, Milliseconds, Ticks } from "../base";

/** Ticks in one quarter note. All musical time in the score is whole ticks. */
export const PPQ = 960;

/** How far before the loop a note may start: half a quarter note, in ticks. */
export const MAX_EARLY = PPQ / 2;

/** A time signature: `beats` notes of value 1/`unit` in a bar, e.g. 7/8 is `{ beats: 7, unit: 8 }`. */
export interface Metre {
  beats: number;
  unit: number;
}

/** Metres that the interface offers; any `beats` 1–32 over 2, 4, 8 or 16 is valid. */
export const METRES: readonly Metre[] = [
  { beats: 4, unit: 4 },
  { beats: 3, unit: 4 },
  { beats: 5, unit: 4 },
  { beats: 6, unit: 8 },
  { beats: 7, unit: 8 },
  { beats: 12, unit: 8 },
];

/** Length of the note value a metre counts in (its lower number), in ticks. */
export function unitTicks(metre: Metre): number {
  return (4 * PPQ) / metre.unit;
}

/**
 * Length of one beat as it is felt, in ticks: the metre's unit, or three of them in a compound metre
 * (6/8, 9/8, 12/8 and the like), whose beats are dotted notes.
 */
export function beatTicks(metre: Metre): number {
  const compound = metre.unit >= 8 && metre.beats > 3 && metre.beats % 3 === 0;
  return unitTicks(metre) * (compound ? 3 : 1);
}

/**
 * The note value in ticks that a tempo is told in: the felt beat, dotted in compound metres, and of shorter ones the
 * quarter. Common practice; the score itself counts quarters.
 */
export const tempoBeat = (metre: Metre): Ticks => Math.max(PPQ, beatTicks(metre));

/** A tempo in quarters as one of the beats that a metre's tempo is told in, and back. */
export const toldTempo = (bpm: Bpm, metre: Metre): Bpm => (bpm * PPQ) / tempoBeat(metre);
export const tempoOfTold = (told: Bpm, metre: Metre): Bpm => (told * tempoBeat(metre)) / PPQ;

/** The name of that beat: “quarter”, “dotted quarter”, “half”. */
export function tempoBeatName(metre: Metre): string {
  const beat = tempoBeat(metre);
  const names = new Map<Ticks, string>([
    [PPQ, "quarter"],
    [1.5 * PPQ, "dotted quarter"],
    [2 * PPQ, "half"],
  ]);
  return names.get(beat) ?? "quarter";
}

/** Felt beats of a bar: 4 in 4/4, 2 in 6/8, 7 in 7/8. */
export function beatsInBar(metre: Metre): number {
  return barTicks(metre) / beatTicks(metre);
}

/** Length of one bar in ticks: `beats · 4 · PPQ / unit`. */
export function barTicks(metre: Metre): number {
  return metre.beats * unitTicks(metre);
}

/** Milliseconds of one tick. The beat that BPM counts is always the quarter note. */
export function msPerTick(bpm: Bpm): number {
  return 60000 / bpm / PPQ;
}

/** Milliseconds → ticks at a tempo, not rounded. */
export function msToTicks(ms: Milliseconds, bpm: Bpm): number {
  return ms / msPerTick(bpm);
}

/** Ticks → milliseconds at a tempo. */
export function ticksToMs(ticks: Ticks, bpm: Bpm): number {
  return ticks * msPerTick(bpm);
}

/**
 * Boundary `i` of `n` equal divisions over `length` ticks, rounded from the exact fraction,
 * so that rounding never adds up (7 in a beat ends exactly on the beat).
 */
export function boundary(i: number, n: number, length: Ticks): number {
  return Math.round((i * length) / n);
}
