const median = (values: number[]) => [...values].sort((a, b) => a - b)[values.length >> 1]!;

/**
 * Times two pieces of work in turns, so that both meet the same state of the machine. Returns the
 * medians in ms and how many times longer the first takes than the second.
 */
export function sideBySide(first: () => unknown, second: () => unknown, rounds = 15) {
  const [a, b]: [number[], number[]] = [[], []];
  for (let i = 0; i < rounds + 3; i++) {
    for (const [work, times] of [
      [first, a],
      [second, b],
    ] as const) {
      // What the last round left behind is cleared away outside the time that is measured.
      (globalThis as { gc?: () => void }).gc?.();
      const start = performance.now();
      work();
      // The first rounds warm up the compiler and are not counted.
      if (i >= 3) times.push(performance.now() - start);
    }
  }
  return { first: median(a), second: median(b), ratio: median(a) / median(b) };
}

/** Prints one result: what was measured, the ratio, the bound it should keep, and the times. */
export function report(name: string, result: ReturnType<typeof sideBySide>, bound: string): void {
  console.log(
    `${name.padEnd(66)} ${result.ratio.toFixed(2).padStart(7)}  (wanted ${bound}; ${result.first.toFixed(3)} ms against ${result.second.toFixed(3)} ms)`,
  );
}
