import { BLOCK } from "./block";

/** How strong a signal is: root of its mean square, and its highest sample. */
export interface Strength {
  rms: number;
  peak: number;
}

/** Measures both sides of a signal, block by block, until it is read. */
export class Meter {
  private sum = 0;
  private peak = 0;
  private count = 0;

  take(left: Float32Array, right: Float32Array): void {
    let { sum, peak } = this;
    for (let i = 0; i < BLOCK; i++) {
      const x = left[i]!;
      const y = right[i]!;
      sum += x * x + y * y;
      peak = Math.max(peak, Math.abs(x), Math.abs(y));
    }
    this.sum = sum;
    this.peak = peak;
    this.count += 2 * BLOCK;
  }

  /** Since it was read last. */
  read(): Strength {
    const strength = { rms: Math.sqrt(this.sum / Math.max(1, this.count)), peak: this.peak };
    this.sum = this.peak = this.count = 0;
    return strength;
  }
}
