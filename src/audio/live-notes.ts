import type { MidiPitch, Milliseconds, Seconds, Velocity } from "@/core/base";

/** A note begun by hand. */
export interface LiveNote {
  track: string;
  pitch: MidiPitch;
  velocity: Velocity;
  /** When it began, in seconds of the audio clock. */
  at: Seconds;
  /** When the key went down, in ms of the page's clock. */
  pressed: Milliseconds;
  /** From the key to the moment its start was handed over; it sounds with the block after that. */
  delay: Milliseconds;
}

/** So many of the last notes are kept. */
const LAST = 4096;

/** The last notes begun by hand, and how soon they sounded. */
export class LiveNotes {
  private kept: LiveNote[] = [];
  started = 0;
  ended = 0;

  begun(note: LiveNote): void {
    this.started++;
    this.kept.push(note);
    if (this.kept.length >= 2 * LAST) this.kept = this.kept.slice(-LAST);
  }

  /** Oldest first. */
  list(): readonly LiveNote[] {
    return this.kept.slice(-LAST);
  }
}
