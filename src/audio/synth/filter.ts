import type { Hertz } from "@/core";

/**
 * A filter of second order whose corner may move from block to block: the formulas of the Web Audio specification
 * (1.13.5 “Filters Characteristics”), after R. Bristow-Johnson's “Audio EQ Cookbook”. A low-pass takes its Q in
 * decibels, a band-pass as it is, as there.
 */
export class MovingFilter {
  private b0 = 1;
  private b1 = 0;
  private b2 = 0;
  private a1 = 0;
  private a2 = 0;
  private x1 = 0;
  private x2 = 0;
  private y1 = 0;
  private y2 = 0;
  private corner = -1;

  constructor(
    private readonly kind: "lowpass" | "bandpass",
    private readonly q: number,
    private readonly rate: Hertz,
  ) {}

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

  /** Filters samples `[from, to)` into another block, or adds them there, at a level. */
  run(input: Float32Array, out: Float32Array, from: number, to: number, adds = false, level = 1) {
    const { b0, b1, b2, a1, a2 } = this;
    let { x1, x2, y1, y2 } = this;
    for (let i = from; i < to; i++) {
      const x = input[i]!;
      const y = b0 * x + b1 * x1 + b2 * x2 - a1 * y1 - a2 * y2;
      x2 = x1;
      x1 = x;
      y2 = y1;
      y1 = y;
      out[i] = adds ? out[i]! + level * y : level * y;
    }
    this.x1 = x1;
    this.x2 = x2;
    this.y1 = y1;
    this.y2 = y2;
  }

  /** Filters one sample. */
  one(x: number): number {
    const y =
      this.b0 * x + this.b1 * this.x1 + this.b2 * this.x2 - this.a1 * this.y1 - this.a2 * this.y2;
    this.x2 = this.x1;
    this.x1 = x;
    this.y2 = this.y1;
    this.y1 = y;
    return y;
  }
}
