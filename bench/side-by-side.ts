/** The least of some times in ms: what the work costs when nothing else comes between. */
const best = (values: number[]) => Math.min(...values);

/** CPU time of this process so far, in ms. */
function cpu(): number {
  const { user, system } = process.cpuUsage();
  return (user + system) / 1000;
}

/** How often each piece is run before it is measured, so that both are compiled. */
const WARM = 4;

/**
 * Times two pieces of work in turns, so that both meet the same state of the machine, both warmed: the
 * best of some rounds, in ms of CPU time, and how many times longer the first takes than the second.
 */
export function sideBySide(first: () => unknown, second: () => unknown, rounds = 10) {
  const [a, b]: [number[], number[]] = [[], []];
  for (let i = 0; i < rounds + WARM; i++) {
    for (const [work, times] of [
      [first, a],
      [second, b],
    ] as const) {
      // What the last round left behind is cleared away outside the time that is measured.
      (globalThis as { gc?: () => void }).gc?.();
      const start = cpu();
      work();
      if (i >= WARM) times.push(cpu() - start);
    }
  }
  return { first: best(a), second: best(b), ratio: best(a) / best(b) };
}

/** Prints one result: what was measured, the ratio, the bound it should keep, and the times. */
export function report(name: string, result: ReturnType<typeof sideBySide>, bound: string): void {
  console.log(
    `${name.padEnd(66)} ${result.ratio.toFixed(2).padStart(7)}  (wanted ${bound}; ${result.first.toFixed(3)} ms against ${result.second.toFixed(3)} ms)`,
  );
}
