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
