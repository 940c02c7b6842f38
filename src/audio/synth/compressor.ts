import type { Hertz, Seconds } from "@/core/base";
import { curveOf } from "./table";

/** Over this the compressor presses, by this ratio, softly about the bend; all in dB. */
const THRESHOLD = -30;
const RATIO = 4;
const KNEE = 12;
/** Gives back what a usual level loses. */
const MAKE_UP = 9;
/** How soon it notices louder and softer. */
const ATTACK: Seconds = 0.004;
const RELEASE: Seconds = 0.14;

/** What the compressor makes of a level, as a gain: both in plain numbers, level as the mean of its size. */
export function compression(level: number): number {
  const db = 20 * Math.log10(Math.max(level, 1e-6));
  const over = db - THRESHOLD;
  const pressed =
    over <= -KNEE / 2 ? 0 : over >= KNEE / 2 ? over : (over + KNEE / 2) ** 2 / (2 * KNEE);
  return 10 ** ((MAKE_UP - pressed * (1 - 1 / RATIO)) / 20);
}

const gainFor = curveOf((x) => compression(Math.max(0, x)));

/**
 * A compressor of one knob, from not at all to fully. It follows the level of both sides together with one
 * follower that is quick and one that is slow, whichever is higher, and has no delay, so hits stay on their
 * sample (the browser's own looks ahead by 6 ms).
 */
export class Compressor {
  private quick = 0;
  private slow = 0;
  private readonly attack: number;
  private readonly release: number;

  constructor(rate: Hertz) {
    this.attack = 1 - Math.exp(-1 / (ATTACK * rate));
    this.release = 1 - Math.exp(-1 / (RELEASE * rate));
  }

  /** Presses a block in place, by a share 0–1 at its beginning and at its end. */
  run(left: Float32Array, right: Float32Array, from: number, to: number): void {
    const { attack, release } = this;
    let { quick, slow } = this;
    let share = from;
    const more = (to - from) / left.length;
    for (let i = 0; i < left.length; i++, share += more) {
      const size = Math.min(1, Math.abs(0.5 * (left[i]! + right[i]!)));
      quick += (size - quick) * attack;
      slow += (size - slow) * release;
      const gain = 1 - share + share * gainFor(quick > slow ? quick : slow);
      left[i]! *= gain;
      right[i]! *= gain;
    }
    this.quick = quick;
    this.slow = slow;
  }
}
