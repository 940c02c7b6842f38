import type { Hertz, Seconds } from "@/core/base";
import { EASE } from "../ease";
import { BLOCK } from "./block";
import { kernels } from "./kernels/kernels";

/** A value that goes to another without a click, block by block; at once before the first block. */
export class SmoothedValue {
  /** Where it is at the beginning of a block, and at its end. */
  from: number;
  to: number;
  private wait = 0;
  private begun = false;

  constructor(
    private target: number,
    private readonly rate: Hertz,
  ) {
    this.from = this.to = target;
  }

  /** Sets out for a value, on wish a little later or at once. */
  set(target: number, wait: Seconds = 0, atOnce = !this.begun): void {
    this.target = target;
    this.wait = atOnce ? 0 : Math.ceil((wait * this.rate) / BLOCK);
    if (atOnce) this.from = this.to = target;
  }

  /** Goes on to the next block. */
  next(): void {
    this.begun = true;
    this.from = this.to;
    if (this.wait > 0) {
      this.wait--;
      return;
    }
    if (this.to === this.target) return;
    this.to += (this.target - this.to) * (1 - Math.exp(-BLOCK / this.rate / EASE));
    if (Math.abs(this.target - this.to) < 1e-6) this.to = this.target;
  }

  /** Takes a block through it, as a gain on its way. */
  scale(side: Float32Array): void {
    if (this.rests(1)) return;
    kernels.scale(side, this.from, (this.to - this.from) / BLOCK);
  }

  /** Adds a block to another at this gain on its way, or a share of it. */
  addTo(out: Float32Array, x: Float32Array, share = 1): void {
    if (this.rests(0)) return;
    kernels.addScaled(out, x, share * this.from, (share * (this.to - this.from)) / BLOCK);
  }

  /** Whether it is at a value and stays there. */
  rests(value: number): boolean {
    return this.from === value && this.to === value && this.target === value;
  }
}

/** A value of its own for each name, all of them 0 at first: plain, the sound as it is. */
export function easedAll<Name extends string>(
  names: readonly Name[],
  rate: Hertz,
): Record<Name, SmoothedValue> {
  const all = names.map((name) => [name, new SmoothedValue(0, rate)] as const);
  return Object.fromEntries(all) as Record<Name, SmoothedValue>;
}
