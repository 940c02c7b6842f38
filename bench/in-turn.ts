let last: Promise<unknown> = Promise.resolve();

/** Stands in for a test runner: runs one after another. */
export function test(_name: string, work: () => unknown): void {
  last = last.then(work);
}
