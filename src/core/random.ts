import { xoroshiro128plus } from "pure-rand/generator/xoroshiro128plus";

/** A stream of numbers in `[0, 1)`: the same seed gives the same stream on every machine. */
export type Random = () => number;

/** Seeded random numbers (xoroshiro128+). `seed` is any integer. */
export function seeded(seed: number): Random {
  const generator = xoroshiro128plus(seed | 0);
  return () => (generator.next() >>> 0) / 4294967296;
}

/**
 * Bell-shaped number in −1…1 with mean 0 and standard deviation 1/3: the sum of three even
 * ones (Irwin–Hall), which ends at ±1 by itself, so nothing has to be cut off.
 */
export function bell(random: Random): number {
  return (random() + random() + random()) / 1.5 - 1;
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
