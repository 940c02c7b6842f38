import { type Random, nth, lastOf } from "../../base";

/** One step of a line: a note, or a figure whose notes keep their distances. */
export interface Step {
  /** Where its notes lie against the first, in steps of the scale; 0 for that. */
  offsets: readonly number[];
  /** How welcome each pitch is for each note, from 0; index of the pitch, place in the step. */
  weight(index: number, note: number): number;
  /** How much less likely than by step the line goes on from its last note at each pitch, 0–1; left out for not at all. */
  tied?(index: number): number;
}

/** How likely a line goes from one place of the scale to another. */
export interface Moves {
  /** Number of pitches. */
  size: number;
  /** From index to index, above 0. */
  weight(from: number, to: number): number;
  /** The same where what came before counts too. */
  after(before: number | null, from: number, to: number): number;
}

/**
 * Draws a line: for each step the index of its first note, by how welcome each is and how likely each move, what is
 * still to come included (forward drawing after backward messages: L. R. Rabiner, “A tutorial on hidden Markov
 * models”, Proc. IEEE 77(2), 1989). `from` is the index before, or null. Null where a step fits nowhere.
 */
export function drawLine(
  steps: readonly Step[],
  moves: Moves,
  { from, before }: { from: number | null; before: number | null },
  random: Random,
): number[] | null {
  const { size } = moves;
  const own = steps.map((step) => weightsOf(step, size));
  const tied = steps.map((step) => tiesOf(step, size));
  const ahead: Float64Array[] = new Array<Float64Array>(steps.length);
  let later = new Float64Array(size).fill(1);
  for (let k = steps.length - 1; k >= 0; k--) {
    ahead[k] = later;
    if (k === 0) break;
    const lead = nth(steps, k - 1).offsets.at(-1)!;
    const next = new Float64Array(size);
    let most = 0;
    for (let i = 0; i < size; i++) {
      const last = i + lead;
      if (last < 0 || last >= size) continue;
      let sum = 0;
      for (let j = 0; j < size; j++) {
        const value = nth(own, k)[j]!;
        if (value > 0)
          sum += moves.weight(last, j) * value * later[j]! * loose(nth(tied, k - 1), last, j);
      }
      next[i] = sum;
      if (sum > most) most = sum;
    }
    if (most === 0) return null;
    for (let i = 0; i < size; i++) next[i]! /= most;
    later = next;
  }
  const drawn: number[] = [];
  let [last, past] = [from, before];
  for (let k = 0; k < steps.length; k++) {
    const chances = new Float64Array(size);
    let total = 0;
    for (let j = 0; j < size; j++) {
      const value = nth(own, k)[j]! * nth(ahead, k)[j]!;
      if (value === 0) continue;
      const way = last === null ? 1 : moves.after(past, last, j);
      chances[j] = value * way * (last === null || k === 0 ? 1 : loose(nth(tied, k - 1), last, j));
      total += chances[j]!;
    }
    if (total === 0) return null;
    let left = random() * total;
    let index = size - 1;
    for (let j = 0; j < size; j++) {
      left -= chances[j]!;
      if (left < 0) {
        index = j;
        break;
      }
    }
    // Rounding may leave the last one, which may have no chance at all.
    while (chances[index] === 0) index--;
    drawn.push(index);
    const { offsets } = nth(steps, k);
    past = offsets.length > 1 ? index + nth(offsets, offsets.length - 2) : last;
    last = index + lastOf(offsets);
  }
  return drawn;
}

/** What is left of the chance of a move from a pitch that wants to go by step. */
const loose = (ties: Float64Array | null, from: number, to: number): number =>
  ties && Math.abs(to - from) !== 1 ? 1 - ties[from]! : 1;

function tiesOf({ tied, offsets }: Step, size: number): Float64Array | null {
  if (!tied) return null;
  const lead = lastOf(offsets);
  const all = new Float64Array(size);
  for (let last = 0; last < size; last++) all[last] = tied(last - lead);
  return all;
}

function weightsOf({ offsets, weight }: Step, size: number): Float64Array {
  const all = new Float64Array(size);
  for (let i = 0; i < size; i++) {
    let value = 1;
    for (let n = 0; n < offsets.length && value > 0; n++) {
      const index = i + nth(offsets, n);
      value *= index < 0 || index >= size ? 0 : weight(index, n);
    }
    all[i] = value;
  }
  return all;
}
