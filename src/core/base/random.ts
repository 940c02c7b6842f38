import { xoroshiro128plus } from "pure-rand/generator/xoroshiro128plus";

/** A stream of numbers in `[0, 1)`: the same seed gives the same stream on every machine. */
export type Random = () => number;

/** Numbers drawn and thrown away at the start, while the generator's state is still mostly zeros. */
const WARM_UP = 8;

/** Seeded random numbers (xoroshiro128+). `seed` is any integer; neighbouring seeds are unrelated. */
export function seeded(seed: number): Random {
  const generator = xoroshiro128plus(scramble(seed | 0));
  for (let i = 0; i < WARM_UP; i++) generator.next();
  return () => (generator.next() >>> 0) / 4294967296;
}

/** The finalizer of MurmurHash3: spreads small integers over all 32 bits. */
function scramble(seed: number): number {
  let h = seed ^ 0x9e3779b9;
  h = Math.imul(h ^ (h >>> 16), 0x85ebca6b);
  h = Math.imul(h ^ (h >>> 13), 0xc2b2ae35);
  return h ^ (h >>> 16);
}

/**
 * Bell-shaped number in −1…1 with mean 0 and standard deviation 1/3: the sum of three even
 * ones (Irwin–Hall), which ends at ±1 by itself, so nothing has to be cut off.
 */
export function bell(random: Random): number {
  return (random() + random() + random()) / 1.5 - 1;
}

/** A number to its floor or one more, so that it comes out right on average. */
export function roundedByChance(value: number, random: Random): number {
  return Math.floor(value) + (random() < value % 1 ? 1 : 0);
}

/** Picks one of `items` with the chance its weight has of the whole; null when all weights are 0. */
export function pickWeighted<T>(
  items: readonly T[],
  weight: (item: T) => number,
  random: Random,
): T | null {
  let total = 0;
  for (const item of items) total += Math.max(0, weight(item));
  if (total <= 0) return null;
  let at = random() * total;
  for (const item of items) {
    at -= Math.max(0, weight(item));
    if (at < 0) return item;
  }
  return items[items.length - 1] ?? null;
}
