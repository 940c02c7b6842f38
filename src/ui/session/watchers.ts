const inNextFrame = (work: () => void) =>
  typeof requestAnimationFrame === "function" ? requestAnimationFrame(work) : queueMicrotask(work);

/**
 * Those who look at something that changes often. They are told once a frame, which is as often as can be seen:
 * keys that come together do not wait for what shows the first.
 */
export class Watchers {
  /** Counts changes. */
  version = 0;
  private readonly watching = new Set<() => void>();
  private scheduled = false;

  /** Is told of changes. Gives a way to stop. */
  readonly watch = (watcher: () => void): (() => void) => {
    this.watching.add(watcher);
    return () => this.watching.delete(watcher);
  };

  changed(): void {
    this.version++;
    if (this.scheduled || this.watching.size === 0) return;
    this.scheduled = true;
    inNextFrame(() => {
      this.scheduled = false;
      for (const watcher of this.watching) watcher();
    });
  }
}
