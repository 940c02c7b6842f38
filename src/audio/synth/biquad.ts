/** A filter of second order, whose numbers somebody else sets (the direct form that the Web Audio specification has). */
export class Biquad {
  protected b0 = 1;
  protected b1 = 0;
  protected b2 = 0;
  protected a1 = 0;
  protected a2 = 0;
  private x1 = 0;
  private x2 = 0;
  private y1 = 0;
  private y2 = 0;

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

  /** Remembers what another does: it went the same way. */
  follow({ x1, x2, y1, y2 }: Biquad): void {
    this.x1 = x1;
    this.x2 = x2;
    this.y1 = y1;
    this.y2 = y2;
  }
}
