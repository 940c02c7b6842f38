import type { Hertz } from "@/core/base";
import { BLOCK, ringLength, type Sides } from "./block";
import { floats, giveBack, kernels } from "./kernels/kernels";
import type { DelayLine } from "./kernels/loops";

/** What leaves all lines of the room that is being made. */
const sum = floats(BLOCK);

/**
 * Delay lines that feed each other without loss but for what each falls by on its way round (a feedback delay
 * network: J.-M. Jot and A. Chaigne, “Digital delay networks for designing artificial reverberators”, AES
 * Convention 90, 1991; Householder's matrix, from memory). Every other line is of the right side. What leaves a
 * line is heard a block of 128 samples before it goes round again.
 */
export class Lines {
  private readonly lines: readonly DelayLine[];

  /** Lengths in samples, two blocks at least, and what is left of each after one way. */
  constructor(
    private readonly lengths: readonly number[],
    falls: readonly number[],
  ) {
    this.lines = lengths.map((length, i) => ({
      ring: floats(ringLength(length + BLOCK)),
      leaving: floats(BLOCK),
      fall: falls[i]!,
      // Householder: each line goes back to itself, less a quarter of the sum of all eight.
      back: 2 / lengths.length,
      ...{ at: 0, from: 0 },
    }));
  }

  /** Takes a block of both sides in and gives one out. */
  run([left, right]: Sides, [outLeft, outRight]: Sides): void {
    const { lines, lengths } = this;
    sum.fill(0);
    for (const { leaving } of lines) kernels.addScaled(sum, leaving, 1, 0);
    outLeft.fill(0);
    outRight.fill(0);
    lines.forEach((delayLine, i) => {
      const { ring, at } = delayLine;
      delayLine.from = at + BLOCK - lengths[i]! + ring.length;
      // Every other line is of the right side.
      if (i % 2 === 0) kernels.delayLine(delayLine, left, sum, outLeft);
      else kernels.delayLine(delayLine, right, sum, outRight);
      delayLine.at = (at + BLOCK) & (ring.length - 1);
    });
  }

  dispose(): void {
    for (const { ring, leaving } of this.lines) giveBack(ring, leaving);
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
  return LINES.map((delayLine) => Math.max(2 * BLOCK, Math.round(delayLine * share * rate)));
}
