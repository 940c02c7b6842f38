import type { MidiPitch, Ticks } from "../base";

/**
 * Places in time and pitch, as a set that holds many: numbers side by side, found by where their hash points or in one
 * of the next places. Starts lie between −2^31 and 2^31.
 */
export class Places {
  private starts: Int32Array;
  /** One more than the pitch; 0 where nothing is. */
  private pitches: Uint8Array;
  private count = 0;
  /** So many low bits of a hash are left out. */
  private shift: number;

  /** With room for about so many. */
  constructor(space: number) {
    const bits = Math.ceil(Math.log2(Math.max(8, 2 * space)));
    const size = 2 ** bits;
    this.shift = 32 - bits;
    this.starts = new Int32Array(size);
    this.pitches = new Uint8Array(size);
  }

  /** Adds a place; false where it was there already. */
  add(start: Ticks, pitch: MidiPitch): boolean {
    if (2 * this.count >= this.starts.length) this.grow();
    const { starts, pitches, shift } = this;
    const last = starts.length - 1;
    // Multiplied by odd numbers without a pattern, so that the high bits depend on all (Knuth, TAOCP 3, 6.4).
    let at = Math.imul(Math.imul(start, 0x85ebca6b) + pitch, 0x9e3779b1) >>> shift;
    while (pitches[at] !== 0) {
      if (starts[at] === start && pitches[at] === pitch + 1) return false;
      at = (at + 1) & last;
    }
    starts[at] = start;
    pitches[at] = pitch + 1;
    this.count++;
    return true;
  }

  private grow(): void {
    const larger = new Places(this.starts.length);
    this.pitches.forEach((pitch, i) => pitch > 0 && larger.add(this.starts[i]!, pitch - 1));
    this.starts = larger.starts;
    this.pitches = larger.pitches;
    this.shift = larger.shift;
  }
}
