import { kernels } from "./kernels/kernels";

/** A second-order filter, whose numbers somebody else sets (the direct form that the Web Audio specification has). */
export class Biquad {
  /** Its factors b0 b1 b2 a1 a2, and the last two samples in and out. */
  private readonly cell = Float64Array.of(1, 0, 0, 0, 0, 0, 0, 0, 0);

  protected factors(b0: number, b1: number, b2: number, a1: number, a2: number): void {
    const { cell } = this;
    cell[0] = b0;
    cell[1] = b1;
    cell[2] = b2;
    cell[3] = a1;
    cell[4] = a2;
  }

  /** Filters samples `[from, to)` into another block, at a level. */
  run(input: Float32Array, out: Float32Array, from: number, to: number, level = 1): void {
    kernels.biquad(input, out, from, to, this.cell, false, level);
  }

  /** Filters samples `[from, to)` and adds them to another block, at a level. */
  add(input: Float32Array, out: Float32Array, from: number, to: number, level = 1): void {
    kernels.biquad(input, out, from, to, this.cell, true, level);
  }

  /** Filters one sample. */
  one(x: number): number {
    const { cell } = this;
    const x1 = cell[5]!;
    const y1 = cell[7]!;
    const y =
      cell[0]! * x + cell[1]! * x1 + cell[2]! * cell[6]! - cell[4]! * cell[8]! - cell[3]! * y1;
    cell[6] = x1;
    cell[5] = x;
    cell[8] = y1;
    cell[7] = y;
    return y;
  }

  /** Remembers what another does: it went the same way. */
  follow({ cell }: Biquad): void {
    for (let i = 5; i < 9; i++) this.cell[i] = cell[i]!;
  }
}
