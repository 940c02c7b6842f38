/**
 * Where in a row of `width` pixels something stands, as runs of columns `[from, to)` in order. Marks that lie side by side
 * are one: thousands of them are drawn as a few.
 */
export function columnRuns(places: Iterable<number>, width: number): [from: number, to: number][] {
  const marked = new Uint8Array(Math.max(0, Math.ceil(width)));
  for (const x of places) if (x >= 0 && x < marked.length) marked[Math.floor(x)] = 1;
  const runs: [number, number][] = [];
  for (let from = marked.indexOf(1); from >= 0;) {
    const end = marked.indexOf(0, from);
    const to = end < 0 ? marked.length : end;
    runs.push([from, to]);
    from = marked.indexOf(1, to);
  }
  return runs;
}
