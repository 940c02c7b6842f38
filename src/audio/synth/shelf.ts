import type { Decibels, Hertz } from "@/core/base";
import { Biquad } from "./biquad";

/** A low or high shelf for one side: the formulas of the Web Audio specification, with a slope of one. */
class Shelf extends Biquad {
  private gain: Decibels = 0;

  constructor(
    private readonly kind: "low" | "high",
    private readonly hz: Hertz,
    private readonly rate: Hertz,
  ) {
    super();
  }

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
    this.factors(
      (a * (a + 1 - (a - 1) * c + root)) / a0,
      (turn * 2 * a * (a - 1 - (a + 1) * c)) / a0,
      (a * (a + 1 - (a - 1) * c - root)) / a0,
      (turn * -2 * (a - 1 + (a + 1) * c)) / a0,
      (a + 1 + (a - 1) * c - root) / a0,
    );
  }
}

/** While a gain moves, it does so every so many samples. */
const STEP = 16;

type Gains = readonly [Decibels, Decibels];

/** A low and a high shelf over both sides. */
export class ShelfPair {
  private readonly shelves: readonly { left: Shelf; right: Shelf }[];

  constructor({ low, high }: { low: Hertz; high: Hertz }, rate: Hertz) {
    const sides = (kind: "low" | "high", hz: Hertz) => ({
      left: new Shelf(kind, hz, rate),
      right: new Shelf(kind, hz, rate),
    });
    this.shelves = [sides("low", low), sides("high", high)];
  }

  /**
   * Filters a block of both sides in place; each gain moves from one value to another. Without a right side it is
   * taken to be the same as the left one.
   */
  run(left: Float32Array, right: Float32Array | null, low: Gains, high: Gains): void {
    const moves = low[0] !== low[1] || high[0] !== high[1];
    const step = moves ? STEP : left.length;
    for (let from = 0; from < left.length; from += step) {
      const share = (from + step) / left.length;
      [low, high].forEach(([begin, end], i) => {
        const shelf = this.shelves[i]!;
        const gain = begin + (end - begin) * share;
        shelf.left.set(gain);
        shelf.right.set(gain);
        shelf.left.run(left, left, from, from + step);
        if (right) shelf.right.run(right, right, from, from + step);
        else shelf.right.follow(shelf.left);
      });
    }
  }
}
