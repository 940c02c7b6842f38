/**
 * Notes that begin and end in a track chunk, in their order, side by side: there are far more of them than of all
 * other events.
 */
export class Strokes {
  count = 0;
  /** In the file's own division. */
  readonly ticks: Float64Array;
  /** Channel, pitch and velocity of each, 7 bits for each of the last two; velocity 0 ends a note. */
  readonly keys: Int32Array;

  /** With room for so many. */
  constructor(most: number) {
    this.ticks = new Float64Array(most);
    this.keys = new Int32Array(most);
  }

  add(tick: number, channel: number, pitch: number, velocity: number): void {
    this.ticks[this.count] = tick;
    this.keys[this.count++] = (channel << 14) | (pitch << 7) | velocity;
  }

  /** Where the first note begins; null where there is none. */
  get first(): number | null {
    for (let i = 0; i < this.count; i++) if (this.keys[i]! & 127) return this.ticks[i]!;
    return null;
  }
}
