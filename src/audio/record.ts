import type { MidiPitch, Seconds, Ticks, Velocity } from "@/core/base";

/** One note as it was handed to the audio clock. Times in seconds of that clock. */
export interface SentNote {
  /** When it was handed over. */
  asked: Seconds;
  /** When it sounds. */
  due: Seconds;
  /** Tick from the start of playback, and in the pattern. */
  tick: Ticks;
  patternTick: Ticks;
  pattern: string;
  track: string;
  note: string;
  pitch: MidiPitch;
  velocity: Velocity;
  /** Length in ticks. */
  ticks: Ticks;
  /** Pitch it slides into, or null. */
  glide: number | null;
  late: boolean;
}

/** The last notes sent, a ring of fixed size, and counts of all since it was cleared. */
export class SentNotes {
  private ring: SentNote[] = [];
  private next = 0;
  sent = 0;
  late = 0;
  /** Notes that were due so long ago that they were left out. */
  dropped = 0;

  constructor(private readonly size = 4096) {}

  add(note: SentNote): void {
    this.ring[this.next] = note;
    this.next = (this.next + 1) % this.size;
    this.sent++;
    if (note.late) this.late++;
  }

  /** Oldest first. */
  list(): SentNote[] {
    return this.ring.length < this.size
      ? [...this.ring]
      : [...this.ring.slice(this.next), ...this.ring.slice(0, this.next)];
  }

  clear(): void {
    this.ring = [];
    this.next = 0;
    this.sent = 0;
    this.late = 0;
    this.dropped = 0;
  }
}
