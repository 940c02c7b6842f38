/** The least of some times in ms: what the work costs when nothing else comes between. */
const best = (values: number[]) => Math.min(...values);

/** Each piece is run so often, or for so many ms, before it is measured: until it is compiled. */
const WARM = { rounds: 100, ms: 3000 };

function warmUp(work: () => unknown): void {
  const start = performance.now();
  for (let i = 0; i < WARM.rounds && performance.now() - start < WARM.ms; i++) work();
}

/**
 * Times two pieces of work in turns, so that both meet the same state of the machine, both warmed: the
 * best of some rounds, in ms by the clock (the CPU time of the process would count what is cleared away beside it), and how
 * many times longer the first takes than the second.
 */
export function sideBySide(first: () => unknown, second: () => unknown, rounds = 15) {
  const [a, b]: [number[], number[]] = [[], []];
  warmUp(first);
  warmUp(second);
  for (let i = 0; i < rounds; i++) {
    for (const [work, times] of [
      [first, a],
      [second, b],
    ] as const) {
      // What the last round left behind is cleared away outside the time that is measured; the old stays, since to
      // clear that away too throws out compiled code.
      (globalThis as { gc?: (how: { type: "minor" }) => void }).gc?.({ type: "minor" });
      const start = performance.now();
      work();
      times.push(performance.now() - start);
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
