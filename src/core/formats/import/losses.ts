import { plural } from "../../base";

/** Counts what a file holds and the project does not keep, or the other way round, by what it is. */
export class Losses {
  private readonly counts = new Map<string, { noun: string; rest: string; count: number }>();

  /** `noun` takes an s in the plural; `rest` follows it. */
  add(noun: string, rest = "", count = 1): void {
    if (count === 0) return;
    const key = `${noun} ${rest}`;
    const known = this.counts.get(key);
    if (known) known.count += count;
    else this.counts.set(key, { noun, rest, count });
  }

  /** Adds all that others counted. */
  addAll({ counts }: Losses): void {
    for (const { noun, rest, count } of counts.values()) this.add(noun, rest, count);
  }

  /** “2 tempo changes”, in the order they were first met. */
  sentences(): string[] {
    return [...this.counts.values()].map(({ noun, rest, count }) =>
      rest ? `${plural(count, noun)} ${rest}` : plural(count, noun),
    );
  }
}
