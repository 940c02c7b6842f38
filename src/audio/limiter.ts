/** Below this level the curve is a straight line; above, it bends toward `CEILING`. */
const KNEE = 0.7;
const CEILING = 0.985;

/** What the limiter makes of a sample: unchanged up to the knee, never beyond the ceiling. */
export function limit(x: number): number {
  const size = Math.abs(x);
  if (size <= KNEE) return x;
  const room = CEILING - KNEE;
  return Math.sign(x) * (KNEE + room * Math.tanh((size - KNEE) / room));
}

/** Input range the curve covers: ±4, that is +12 dB over full scale. Beyond, it stays at the ceiling. */
const RANGE = 4;

/**
 * The curve for a wave shaper. It reads −1…1, so the signal must be divided by 4 before. A shaper
 * has no delay, so hits stay on their sample, which a compressor's look-ahead would not keep.
 */
export function limiterCurve(points = 8193): Float32Array<ArrayBuffer> {
  return Float32Array.from({ length: points }, (_, i) =>
    limit(((2 * i) / (points - 1) - 1) * RANGE),
  );
}

/** Gain to put before the shaper. */
export const LIMITER_DRIVE = 1 / RANGE;
