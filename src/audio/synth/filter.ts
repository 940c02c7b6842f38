import type { Hertz } from "@/core";
import { Biquad } from "./biquad";

/**
 * A filter of second order whose corner may move from block to block: the formulas of the Web Audio specification
 * (1.13.5 “Filters Characteristics”), after R. Bristow-Johnson's “Audio EQ Cookbook”. A low-pass takes its Q in
 * decibels, a band-pass as it is, as there.
 */
export class MovingFilter extends Biquad {
  private corner = -1;

  constructor(
    private readonly kind: "lowpass" | "bandpass",
    private readonly q: number,
    private readonly rate: Hertz,
  ) {
    super();
  }

  /** Moves its corner, up to half of the sampling rate. */
  set(hz: Hertz): void {
    if (hz === this.corner) return;
    this.corner = hz;
    const w = (2 * Math.PI * Math.min(Math.max(hz, 1), this.rate / 2)) / this.rate;
    const low = this.kind === "lowpass";
    const alpha = Math.sin(w) / (2 * (low ? 10 ** (this.q / 20) : this.q));
    const cos = Math.cos(w);
    const a0 = 1 + alpha;
    this.b0 = (low ? (1 - cos) / 2 : alpha) / a0;
    this.b1 = (low ? 1 - cos : 0) / a0;
    this.b2 = (low ? (1 - cos) / 2 : -alpha) / a0;
    this.a1 = (-2 * cos) / a0;
    this.a2 = (1 - alpha) / a0;
  }
}
