import type { Hertz } from "@/core";
import { BLOCK, ringOf } from "./block";

/**
 * Delay lines that feed each other without loss but for what each falls by on its way round (a feedback delay
 * network: J.-M. Jot and A. Chaigne, “Digital delay networks for designing artificial reverberators”, AES
 * Convention 90, 1991; Householder's matrix, from memory). Every other line is of the right side. What leaves a
 * line is heard a block of 128 samples before it goes round again.
 */
export class Lines {
  private readonly rings: Float32Array[];
  /** What leaves each line in the block after the one that is heard. */
  private readonly leaving: Float32Array[];
  private readonly sum = new Float32Array(BLOCK);
  private at = 0;

  /** Lengths in samples, two blocks at least, and what is left of each after one way. */
  constructor(
    private readonly lengths: readonly number[],
    private readonly falls: readonly number[],
  ) {
    this.rings = lengths.map((length) => ringOf(length + BLOCK));
    this.leaving = lengths.map(() => new Float32Array(BLOCK));
  }

  /** Takes a block of both sides in and gives one out. */
  run(
    [left, right]: readonly [Float32Array, Float32Array],
    [outLeft, outRight]: readonly [Float32Array, Float32Array],
  ): void {
    const { rings, leaving, sum, at, lengths, falls } = this;
    sum.fill(0);
    for (const out of leaving) for (let n = 0; n < BLOCK; n++) sum[n]! += out[n]!;
    const back = 2 / rings.length;
    outLeft.fill(0);
    outRight.fill(0);
    for (let i = 0; i < rings.length; i++) {
      const ring = rings[i]!;
      const mask = ring.length - 1;
      const out = leaving[i]!;
      const input = i % 2 === 0 ? left : right;
      const heard = i % 2 === 0 ? outLeft : outRight;
      const from = at + BLOCK - lengths[i]! + ring.length;
      const fall = falls[i]!;
      for (let n = 0; n < BLOCK; n++) {
        // Householder: each line goes back to itself, less a quarter of the sum of all eight.
        ring[(at + n) & mask] = input[n]! + out[n]! - back * sum[n]!;
        const next = fall * ring[(from + n) & mask]!;
        out[n] = next;
        heard[n]! += next;
      }
    }
    this.at = at + BLOCK;
  }
}

/** Lengths of the lines of a middling room, in seconds, without a common measure. */
const LINES = [0.0311, 0.0353, 0.0419, 0.0461, 0.0547, 0.0601, 0.0689, 0.0773] as const;
/** The smallest and the largest room have lines so many times as long. */
const SMALL = 0.45;
const LARGE = 1.7;

/** Lengths in samples of the lines of a room, 0 to 100 % large. */
export function lineLengths(size: number, rate: Hertz): number[] {
  const share = SMALL + ((LARGE - SMALL) * size) / 100;
  return LINES.map((line) => Math.max(2 * BLOCK, Math.round(line * share * rate)));
}
