import type { Hertz, Seconds } from "@/core/base";
import { BLOCK, ringOf, type Sides } from "./block";
import { Convolution } from "./convolution";
import { SmoothedValue } from "./smoothed";
import { MovingFilter } from "./filter";
import { floats } from "./kernels/kernels";
import { Lines } from "./feedback-delays";

/** A room: what it answers at first on either side, its delay lines with what is left after each, and its level. */
export interface HallValues {
  left: Float32Array;
  right: Float32Array;
  lengths: readonly number[];
  falls: readonly number[];
  level: number;
}

/** What is said to the thread of the reverb. */
export type ReverbCommand =
  /** The room is this one from now on; from the one before it is passed over. */
  | { type: "hall"; values: HallValues }
  /** It answers so many samples late, and is dull above a frequency. */
  | { type: "reverb"; frames: number; tone: Hertz };

/** Longest time before the room answers. */
const LATEST: Seconds = 1;
/** Below this nothing rings: a room of a low end is mud. In dB: how far its corner sticks out. */
const LOW_CUT: Hertz = 140;
const LOW_Q = 1;
const TONE_Q = Math.SQRT1_2;
/** One room passes into another in so many seconds. */
const PASSING: Seconds = 0.06;

/** One hall at a time is made here. */
const answered: Sides = [floats(BLOCK), floats(BLOCK)];
const answer: Sides = [floats(BLOCK), floats(BLOCK)];

/** A room that sounds. */
class Hall {
  private readonly first: Convolution;
  private readonly lines: Lines;
  private readonly low: readonly MovingFilter[];
  private readonly tones: readonly MovingFilter[];
  private readonly level: number;

  constructor({ left, right, lengths, falls, level }: HallValues, rate: Hertz) {
    this.first = new Convolution(left, right);
    this.lines = new Lines(lengths, falls);
    this.level = level;
    this.low = [0, 1].map(() => new MovingFilter("highpass", LOW_Q, rate));
    this.tones = [0, 1].map(() => new MovingFilter("lowpass", TONE_Q, rate));
    for (const filter of this.low) filter.set(LOW_CUT);
  }

  /** Gives what it answers, until the next one is asked. */
  run(input: Float32Array, tone: Hertz): Sides {
    this.first.run(input, ...answer);
    this.lines.run(answer, answered);
    answered.forEach((side, i) => {
      this.low[i]!.run(side, side, 0, BLOCK);
      this.tones[i]!.set(tone);
      this.tones[i]!.run(side, side, 0, BLOCK, this.level);
    });
    return answered;
  }

  dispose(): void {
    this.first.dispose();
    this.lines.dispose();
  }
}

/**
 * The room that tracks and pads send to: late by a time, then a burst, then lines that feed each other. Heard as one
 * channel, answered as two.
 */
export class ReverbSound {
  private now: Hall | null = null;
  private old: Hall | null = null;
  /** How far the way from the old room to the new one is behind, 0–1. */
  private passed = 1;
  private readonly ring: Float32Array;
  private readonly late: SmoothedValue;
  private readonly tone: SmoothedValue;
  private readonly delayed = new Float32Array(BLOCK);
  private at = 0;
  private given = false;

  constructor(private readonly rate: Hertz) {
    this.ring = ringOf(LATEST * rate + 2 * BLOCK);
    this.late = new SmoothedValue(0, rate);
    this.tone = new SmoothedValue(rate / 2, rate);
  }

  take(command: ReverbCommand): void {
    if (command.type === "hall") {
      this.old?.dispose();
      this.old = this.now;
      this.now = new Hall(command.values, this.rate);
      this.passed = this.old ? 0 : 1;
      return;
    }
    this.late.set(Math.min(LATEST * this.rate, command.frames), 0, !this.given);
    this.tone.set(command.tone, 0, !this.given);
    this.given = true;
  }

  /** Takes a block in and adds what the room answers. */
  run(input: Float32Array, [left, right]: Sides): void {
    const { now, old, late, tone } = this;
    late.next();
    tone.next();
    this.delay(input);
    if (!now) return;
    if (!old) {
      add(now.run(this.delayed, tone.to), left, right, 1, 0);
      return;
    }
    const step = 1 / (PASSING * this.rate);
    add(now.run(this.delayed, tone.to), left, right, this.passed, step);
    add(old.run(this.delayed, tone.to), left, right, 1 - this.passed, -step);
    this.passed += BLOCK * step;
    if (this.passed < 1) return;
    old.dispose();
    this.old = null;
  }

  dispose(): void {
    this.old?.dispose();
    this.now?.dispose();
    this.old = this.now = null;
  }

  private delay(input: Float32Array): void {
    const { ring, late, at, delayed } = this;
    const mask = ring.length - 1;
    for (let i = 0; i < BLOCK; i++) ring[(at + i) & mask] = input[i]!;
    let delay = late.from;
    const later = (late.to - late.from) / BLOCK;
    for (let i = 0; i < BLOCK; i++, delay += later) {
      const place = at + i + ring.length - delay;
      const k = Math.floor(place);
      const a = ring[k & mask]!;
      const part = place - k;
      delayed[i] = part === 0 ? a : a + (ring[(k + 1) & mask]! - a) * part;
    }
    this.at = at + BLOCK;
  }
}

/** Adds both sides at a gain that goes on by a step each sample, between silence and all of it. */
function add(
  [fromLeft, fromRight]: Sides,
  left: Float32Array,
  right: Float32Array,
  from: number,
  step: number,
): void {
  for (let i = 0; i < BLOCK; i++) {
    const gain = Math.min(1, Math.max(0, from + i * step));
    left[i]! += gain * fromLeft[i]!;
    right[i]! += gain * fromRight[i]!;
  }
}
