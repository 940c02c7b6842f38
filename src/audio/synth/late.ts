import type { Hertz, Seconds } from "@/core/base";
import { BLOCK, ringOf } from "./block";

/** What was, for a while: gives back both sides as one, some time later. */
export class Late {
  private readonly ring: Float32Array;
  private readonly mask: number;
  private at = 0;

  constructor(
    longest: Seconds,
    private readonly rate: Hertz,
  ) {
    this.ring = ringOf(longest * rate + 2 * BLOCK);
    this.mask = this.ring.length - 1;
  }

  /** Takes a block in. */
  take(left: Float32Array, right: Float32Array): void {
    const { ring, mask, at } = this;
    for (let i = 0; i < BLOCK; i++) ring[(at + i) & mask] = 0.5 * (left[i]! + right[i]!);
    this.at = (at + BLOCK) & mask;
  }

  /** Adds what was so long before the block that was taken in last, at a level; both move from and to a value. */
  add(
    out: Float32Array,
    [late, later]: readonly [Seconds, Seconds],
    [from, to]: readonly [number, number],
  ): void {
    const { ring, mask, rate } = this;
    let delay = late * rate;
    const more = ((later - late) * rate) / BLOCK;
    let level = from;
    const louder = (to - from) / BLOCK;
    const zero = this.at - BLOCK + 2 * ring.length;
    for (let i = 0; i < BLOCK; i++, delay += more, level += louder) {
      const place = zero + i - delay;
      const k = place | 0;
      const a = ring[k & mask]!;
      out[i]! += level * (a + (ring[(k + 1) & mask]! - a) * (place - k));
    }
  }
}
