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

  /** How many of them begin a note. */
  get begun(): number {
    let begun = 0;
    for (let i = 0; i < this.count; i++) if (this.keys[i]! & 127) begun++;
    return begun;
  }

  /**
   * Takes notes as long as nothing else comes, and nothing unusual: most of a chunk. Moves `place` to where that is.
   */
  take(bytes: Uint8Array, place: Place): void {
    const { ticks, keys } = this;
    const channels = place.port * 16;
    // A note is five bytes at the most here: two of time, its status, two of its own.
    const end = bytes.length - 4;
    let { at, tick, running } = place;
    let { count } = this;
    while (at < end) {
      let i = at;
      let time = bytes[i++]!;
      if (time > 127) {
        const low = bytes[i++]!;
        if (low > 127) break;
        time = ((time & 127) << 7) | low;
      }
      const next = bytes[i]!;
      const status = next > 127 ? next : running;
      // Note-off and note-on.
      if (status >> 5 !== 4) break;
      if (next > 127) i++;
      const pitch = bytes[i]!;
      const second = bytes[i + 1]!;
      if ((pitch | second) > 127) break;
      tick += time;
      running = status;
      at = i + 2;
      ticks[count] = tick;
      // A note-on with velocity 0 is a note-off (MIDI 1.0).
      const velocity = status >> 4 === 9 ? second : 0;
      keys[count++] = ((channels + (status & 15)) << 14) | (pitch << 7) | velocity;
    }
    this.count = count;
    place.at = at;
    place.tick = tick;
    place.running = running;
  }
}

/** Where in a chunk its reading is: byte, tick, running status, and port. */
export interface Place {
  at: number;
  tick: number;
  running: number;
  port: number;
}
