import type { Hertz, Seconds } from "../base";

/** A piece of a recording, in samples: from its first to just after its last. */
export interface Slice {
  from: number;
  to: number;
}

/** A cut is made at most so far before an attack. */
const BEFORE: Seconds = 0.004;

/**
 * Pieces of a recording, each from one attack to the next and the last to the end, cut where the sound crosses zero
 * or, where it does not, is nearest to it, so that no joint clicks. `times` in order; what lies before the first of
 * them is left out.
 */
export function slicesOf(samples: Float32Array, rate: Hertz, times: readonly Seconds[]): Slice[] {
  const cuts = times.map((time) => zeroBefore(samples, Math.round(time * rate), BEFORE * rate));
  return cuts
    .map((from, i) => ({ from, to: cuts[i + 1] ?? samples.length }))
    .filter(({ from, to }) => to > from);
}

/** The last place at or before `at`, at most `reach` away, at which the wave crosses zero. */
function zeroBefore(samples: Float32Array, at: number, reach: number): number {
  let nearest = at;
  for (let i = Math.min(at, samples.length - 1); i >= Math.max(0, at - reach); i--) {
    const here = samples[i]!;
    if (here === 0 || here * (samples[i - 1] ?? 0) < 0) return i;
    if (Math.abs(here) < Math.abs(samples[nearest] ?? Infinity)) nearest = i;
  }
  return Math.max(0, nearest);
}
