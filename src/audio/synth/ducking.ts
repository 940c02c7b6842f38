import type { Decibels, Hertz, Milliseconds, Seconds, Velocity } from "@/core/base";

/** How soon a hit presses down (time constant), and for how long it holds. */
const FALL: Seconds = 0.0012;
const HOLD: Seconds = 0.008;
/** Nine tenths of the way back take so many time constants. */
const NINE_TENTHS = Math.LN10;
/** What comes back because nothing ducks any more does so with this time constant. */
const BACK: Seconds = 0.02;
/** So near to one it is one, −120 dB. */
const THERE = 1e-6;

/** How a hit presses a track down: by how much at full velocity, and how long nine tenths of the way back take. */
export interface Duck {
  time: Seconds;
  depth: Decibels;
  release: Milliseconds;
  velocity: Velocity;
}

/**
 * A gain that hits press down and that comes back: nine tenths of the way after `release`. A softer hit presses
 * less, by its velocity. A hit while another is let go of begins anew from where that is.
 */
export class Ducking {
  private gain = 1;
  private target = 1;
  private tau = BACK;
  private coming: { at: Seconds; target: number; tau: Seconds }[] = [];

  constructor(private readonly rate: Hertz) {}

  hit({ time, depth, release, velocity }: Duck): void {
    this.coming = this.coming.filter(({ at }) => at < time);
    const target = 10 ** ((-depth * velocity) / 127 / 20);
    const tau = release / 1000 / NINE_TENTHS;
    this.coming.push({ at: time, target, tau: FALL }, { at: time + HOLD, target: 1, tau });
  }

  /** Forgets what is to come, and comes back. */
  rest(): void {
    this.coming = [];
    this.target = 1;
    this.tau = BACK;
  }

  /** Presses a block in place, whose first sample is `frame`. */
  run(left: Float32Array, right: Float32Array, frame: number): void {
    const { rate } = this;
    let from = 0;
    while (from < left.length) {
      while (this.coming.length > 0 && this.coming[0]!.at * rate <= frame + from + 1e-6) {
        const { target, tau } = this.coming.shift()!;
        this.target = target;
        this.tau = tau;
      }
      const next = this.coming[0] ? Math.ceil(this.coming[0].at * rate - 1e-6) - frame : Infinity;
      const to = Math.min(left.length, Math.max(from + 1, next));
      this.press(left, right, from, to);
      from = to;
    }
  }

  private press(left: Float32Array, right: Float32Array, from: number, to: number): void {
    const { target } = this;
    let off = this.gain - target;
    if (Math.abs(off) < THERE) {
      this.gain = target;
      if (target === 1) return;
      off = 0;
    }
    const times = Math.exp(-1 / (this.tau * this.rate));
    for (let i = from; i < to; i++, off *= times) {
      left[i]! *= target + off;
      right[i]! *= target + off;
    }
    this.gain = target + off;
  }
}
