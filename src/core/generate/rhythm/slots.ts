import { type MidiPitch, type Random, type Ticks, pickWeighted } from "../../base";
import { type GridKind, PPQ, grid, gridName, gridTicks } from "../../time";

/** A note value in the mix: `weight` is its share of the time, relative to the others. */
export interface ValueWeight {
  value: number;
  kind: Exclude<GridKind, "off">;
  weight: number;
}

/** How long one note of a value is. */
export const valueTicks = ({ value, kind }: ValueWeight): Ticks => gridTicks(grid(value, kind));

/** What a value is called: `1/8T`. */
export const valueName = ({ value, kind }: ValueWeight): string => gridName(grid(value, kind));

/** A place in a rhythm where a note or a rest stands. */
export interface Slot {
  start: Ticks;
  length: Ticks;
  /** Of an answer that goes as its question went: the pitch there. */
  call?: MidiPitch;
}

export interface Group {
  ticks: Ticks;
  notes: number;
  /** Wanted share of the time, against the other groups'. */
  share: number;
}

/** Values as groups that are placed whole: triplets come in threes, so that they end on a beat again. */
export function groupsOf(values: readonly ValueWeight[]): Group[] {
  return values
    .filter((value) => value.weight > 0)
    .map((value) => {
      const one = valueTicks(value);
      const notes = value.kind === "triplet" ? 3 : 1;
      return { ticks: one * notes, notes, share: value.weight };
    });
}

/** Used only where the values of the mix cannot end exactly on the bar line. */
export const FILLER = PPQ / 8;

/**
 * Fills `length` ticks exactly with slots of the weighted values. Where they cannot (a half note
 * in a bar of 7/8), the rest is filled with the largest of 1/8, 1/16 and 1/32 that fit.
 */
export function fillRhythm(length: Ticks, values: readonly ValueWeight[], random: Random): Slot[] {
  const groups = groupsOf(values);
  const reachable = fillable(length, groups);
  const slots: Slot[] = [];
  const whole = groups.reduce((sum, group) => sum + group.share, 0);
  const used = new Map<Group, number>();
  let at = 0;
  while (at < length) {
    const left = length - at;
    const fits = groups.filter((group) => group.ticks <= left && reachable(left - group.ticks));
    const anyFit = fits.length > 0 ? fits : groups.filter((group) => group.ticks <= left);
    const weight = (group: Group) => {
      // Values mostly stand where a listener expects them: on multiples of themselves. That would
      // favour short ones, so a value that has had less than its share so far gets a push.
      const placed = at % group.ticks === 0 ? 1 : 0.3;
      const missing = at === 0 ? 0 : group.share / whole - (used.get(group) ?? 0) / at;
      return (group.share / group.ticks) * placed * Math.exp(3 * missing);
    };
    const group = pickWeighted(anyFit, weight, random);
    if (!group) {
      const filler = [4 * FILLER, 2 * FILLER, FILLER].find((f) => f <= left) ?? left;
      slots.push({ start: at, length: filler });
      at += filler;
      continue;
    }
    const one = group.ticks / group.notes;
    for (let i = 0; i < group.notes; i++) slots.push({ start: at + i * one, length: one });
    at += group.ticks;
    used.set(group, (used.get(group) ?? 0) + group.ticks);
  }
  return slots;
}

/** Tells whether groups can fill a number of ticks exactly. */
function fillable(length: Ticks, groups: readonly Group[]): (ticks: Ticks) => boolean {
  const unit = groups.reduce((g, group) => gcd(g, group.ticks), length) || 1;
  const size = Math.floor(length / unit);
  const can = new Uint8Array(size + 1);
  can[0] = 1;
  for (let i = 1; i <= size; i++) {
    for (const group of groups) {
      const back = i - group.ticks / unit;
      if (back >= 0 && can[back]) can[i] = 1;
    }
  }
  return (ticks) => can[ticks / unit] === 1;
}

export function gcd(a: number, b: number): number {
  return b === 0 ? a : gcd(b, a % b);
}
