import type { Hertz, Seconds } from "@/core/base";
import { BLOCK, ringOf } from "./block";
import { SmoothedValue } from "./smoothed";
import { MovingFilter } from "./filter";

/** How echoes are: their time in samples, what is left of each in the next (0–1), and above which it is dull. */
export interface EchoValues {
  frames: number;
  feedback: number;
  tone: Hertz;
  pingPong: boolean;
}

/** What is said to the thread of the echoes. */
export type EchoCommand = { type: "echo"; values: EchoValues };

/** In dB: no peak at the corner. */
const TONE_Q = Math.SQRT1_2;

/**
 * What comes in comes back after a time, exact to the sample, and again and again, each time softer and duller. Back
 * and forth between left and right on wish, beginning on the left; else each side to itself. A time that changes is
 * drawn to the other: what is on its way is bent for a moment, as on a tape.
 */
export class Echoes {
  private readonly rings: readonly [Float32Array, Float32Array];
  private readonly mask: number;
  private readonly tones: readonly [MovingFilter, MovingFilter];
  private at = 0;
  private readonly late: SmoothedValue;
  private readonly feedback: SmoothedValue;
  private readonly tone: SmoothedValue;
  /** 0 where each side is by itself, 1 where they take turns. */
  private readonly turns: SmoothedValue;
  private given = false;

  constructor(longest: Seconds, rate: Hertz) {
    const most = longest * rate + 2 * BLOCK;
    this.rings = [ringOf(most), ringOf(most)];
    this.mask = this.rings[0].length - 1;
    this.tones = [
      new MovingFilter("lowpass", TONE_Q, rate),
      new MovingFilter("lowpass", TONE_Q, rate),
    ];
    this.late = new SmoothedValue(BLOCK, rate);
    this.feedback = new SmoothedValue(0, rate);
    this.tone = new SmoothedValue(rate / 2, rate);
    this.turns = new SmoothedValue(0, rate);
  }

  take({ values }: EchoCommand): void {
    const { frames, feedback, tone, pingPong } = values;
    const longest = this.rings[0].length - 2 * BLOCK;
    this.late.set(Math.min(longest, Math.max(1, frames)), 0, !this.given);
    this.feedback.set(feedback, 0, !this.given);
    this.tone.set(tone, 0, !this.given);
    this.turns.set(pingPong ? 1 : 0, 0, !this.given);
    this.given = true;
  }

  /** Takes a block of both sides in and gives one out. */
  run(
    [left, right]: readonly [Float32Array, Float32Array],
    [outLeft, outRight]: readonly [Float32Array, Float32Array],
  ): void {
    const { late, feedback, turns, tone, mask, at } = this;
    for (const value of [late, feedback, turns, tone]) value.next();
    const [ringLeft, ringRight] = this.rings;
    const [toneLeft, toneRight] = this.tones;
    toneLeft.set(tone.to);
    toneRight.set(tone.to);
    let delay = late.from;
    const later = (late.to - late.from) / BLOCK;
    let back = feedback.from;
    const more = (feedback.to - feedback.from) / BLOCK;
    let turn = turns.from;
    const turning = (turns.to - turns.from) / BLOCK;
    for (let n = 0; n < BLOCK; n++) {
      const place = at + n + ringLeft.length - delay;
      const k = Math.floor(place);
      const part = place - k;
      const a = ringLeft[k & mask]!;
      const b = ringRight[k & mask]!;
      const backLeft = part === 0 ? a : a + (ringLeft[(k + 1) & mask]! - a) * part;
      const backRight = part === 0 ? b : b + (ringRight[(k + 1) & mask]! - b) * part;
      outLeft[n] = backLeft;
      outRight[n] = backRight;
      const dullLeft = back * toneLeft.one(backLeft);
      const dullRight = back * toneRight.one(backRight);
      const x = left[n]!;
      const y = right[n]!;
      ringLeft[(at + n) & mask] = (1 - turn) * (x + dullLeft) + turn * (0.5 * (x + y) + dullRight);
      ringRight[(at + n) & mask] = (1 - turn) * (y + dullRight) + turn * dullLeft;
      delay += later;
      back += more;
      turn += turning;
    }
    this.at = at + BLOCK;
  }
}
