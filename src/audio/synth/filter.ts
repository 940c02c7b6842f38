import type { Hertz } from "@/core/base";
import { Biquad } from "./biquad";

/**
 * A second-order filter whose corner may move from block to block: the formulas of the Web Audio specification
 * (1.13.5 “Filters Characteristics”), after R. Bristow-Johnson's “Audio EQ Cookbook”. A band-pass takes its Q as it
 * is, the others in decibels, as there.
 */
export class MovingFilter extends Biquad {
  private corner = -1;

  constructor(
    private readonly kind: "lowpass" | "highpass" | "bandpass",
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
    const band = this.kind === "bandpass";
    const alpha = Math.sin(w) / (2 * (band ? this.q : 10 ** (this.q / 20)));
    const cos = Math.cos(w);
    const a0 = 1 + alpha;
    // What passes above is what passes below, turned about half of the sampling rate.
    const turned = this.kind === "highpass" ? -1 : 1;
    const edge = (1 - turned * cos) / 2;
    this.factors(
      (band ? alpha : edge) / a0,
      (band ? 0 : turned * 2 * edge) / a0,
      (band ? -alpha : edge) / a0,
      (-2 * cos) / a0,
      (1 - alpha) / a0,
    );
  }
}
