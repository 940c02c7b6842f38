import type { Decibels, Hertz } from "@/core";

/** A low or high shelf for one side: the formulas of the Web Audio specification, with a slope of one. */
export class Shelf {
  private b0 = 1;
  private b1 = 0;
  private b2 = 0;
  private a1 = 0;
  private a2 = 0;
  private gain: Decibels = 0;
  private readonly state: [number, number, number, number][] = [
    [0, 0, 0, 0],
    [0, 0, 0, 0],
  ];

  constructor(
    private readonly kind: "low" | "high",
    private readonly hz: Hertz,
    private readonly rate: Hertz,
  ) {}

  set(gain: Decibels): void {
    if (gain === this.gain) return;
    this.gain = gain;
    const w = (2 * Math.PI * this.hz) / this.rate;
    const a = 10 ** (gain / 40);
    const cos = Math.cos(w);
    const root = Math.sin(w) * Math.SQRT2 * Math.sqrt(a);
    // Of the low shelf; the high one has the cosine the other way round.
    const c = this.kind === "low" ? cos : -cos;
    const a0 = a + 1 + (a - 1) * c + root;
    const turn = this.kind === "low" ? 1 : -1;
    this.b0 = (a * (a + 1 - (a - 1) * c + root)) / a0;
    this.b1 = (turn * 2 * a * (a - 1 - (a + 1) * c)) / a0;
    this.b2 = (a * (a + 1 - (a - 1) * c - root)) / a0;
    this.a1 = (turn * -2 * (a - 1 + (a + 1) * c)) / a0;
    this.a2 = (a + 1 + (a - 1) * c - root) / a0;
  }

  /** The right side went the same way as the left one. */
  same(): void {
    this.state[0]!.forEach((value, i) => (this.state[1]![i] = value));
  }

  /** Filters samples `[from, to)` of a side, 0 or 1, in place. */
  run(side: Float32Array, which: 0 | 1, from: number, to: number): void {
    const { b0, b1, b2, a1, a2 } = this;
    const state = this.state[which]!;
    let [x1, x2, y1, y2] = state;
    for (let i = from; i < to; i++) {
      const x = side[i]!;
      const y = b0 * x + b1 * x1 + b2 * x2 - a1 * y1 - a2 * y2;
      x2 = x1;
      x1 = x;
      y2 = y1;
      y1 = y;
      side[i] = y;
    }
    state[0] = x1;
    state[1] = x2;
    state[2] = y1;
    state[3] = y2;
  }
}

/** While a gain moves, it does so every so many samples. */
const STEP = 16;

type Way = readonly [Decibels, Decibels];

/** A low and a high shelf over both sides. */
export class ShelfPair {
  private readonly shelves: readonly [Shelf, Shelf];

  constructor({ low, high }: { low: Hertz; high: Hertz }, rate: Hertz) {
    this.shelves = [new Shelf("low", low, rate), new Shelf("high", high, rate)];
  }

  /**
   * Filters a block of both sides in place; each gain moves from one value to another. Without a right side it is
   * taken to be the same as the left one.
   */
  run(left: Float32Array, right: Float32Array | null, low: Way, high: Way): void {
    const moves = low[0] !== low[1] || high[0] !== high[1];
    const step = moves ? STEP : left.length;
    for (let from = 0; from < left.length; from += step) {
      const share = (from + step) / left.length;
      [low, high].forEach(([begin, end], i) => {
        const shelf = this.shelves[i]!;
        shelf.set(begin + (end - begin) * share);
        shelf.run(left, 0, from, from + step);
        if (right) shelf.run(right, 1, from, from + step);
        else shelf.same();
      });
    }
  }
}
