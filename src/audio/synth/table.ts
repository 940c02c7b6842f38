const POINTS = 4097;

/** A function of −1…1 by a table, straight between its points; beyond, it stays where it is. */
export function curveOf(of: (x: number) => number): (x: number) => number {
  const half = (POINTS - 1) / 2;
  const table = Float64Array.from({ length: POINTS + 1 }, (_, i) => of(Math.min(1, i / half - 1)));
  return (x) => {
    const at = half + half * (x < -1 ? -1 : x > 1 ? 1 : x);
    const k = at | 0;
    const a = table[k]!;
    return a + (table[k + 1]! - a) * (at - k);
  };
}
