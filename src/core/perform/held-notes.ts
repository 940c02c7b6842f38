import type { MidiPitch, Milliseconds, Velocity } from "../base";

/** A key that goes down. */
export interface KeyDown {
  track: string;
  pitch: MidiPitch;
  velocity: Velocity;
  /** When, in ms of the page's clock. */
  time: Milliseconds;
}

/** A note that sounds until it is ended. */
export interface LiveNote {
  end(time: Milliseconds): void;
}

interface Holding extends KeyDown {
  note: LiveNote;
  /** Where the key is: a keyboard, a device, a finger. */
  source: string;
  /** Its key is up, the pedal holds it. */
  pedalled: boolean;
}

/**
 * The keys that are down, of all keyboards, devices and fingers, and the notes they sound: each note
 * begins once and ends once, on the track it began on, whatever becomes current meanwhile. Lets go of
 * what it no longer hears of: nothing sticks.
 */
export class HeldNotes {
  private readonly holding = new Map<string, Holding>();
  private readonly pedals = new Set<string>();

  /** `begin` starts a note; null where it cannot. `changed` is told of every key. */
  constructor(
    private readonly begin: (key: KeyDown) => LiveNote | null,
    private readonly changed: () => void = () => undefined,
  ) {}

  /** A key of a source goes down. One that is down already is struck again. */
  down(source: string, key: string, press: KeyDown): void {
    if (!Number.isInteger(press.pitch) || press.pitch < 0 || press.pitch > 127) return;
    const id = `${source}/${key}`;
    this.end(id, press.time);
    // The same pitch cannot sound twice on a track: what the pedal held of it ends.
    for (const [other, held] of this.holding) {
      if (held.pedalled && held.track === press.track && held.pitch === press.pitch)
        this.end(other, press.time);
    }
    const note = this.begin(press);
    if (note) this.holding.set(id, { ...press, note, source, pedalled: false });
    this.changed();
  }

  /** A key of a source comes up; one that is not down is passed over. */
  up(source: string, key: string, time: Milliseconds): void {
    const id = `${source}/${key}`;
    const held = this.holding.get(id);
    if (!held || held.pedalled) return;
    if (this.pedals.has(source)) held.pedalled = true;
    else this.end(id, time);
    this.changed();
  }

  /** The sustain pedal of a source. */
  pedal(source: string, down: boolean, time: Milliseconds): void {
    if (down === this.pedals.has(source)) return;
    if (down) this.pedals.add(source);
    else {
      this.pedals.delete(source);
      for (const [id, held] of this.holding)
        if (held.pedalled && held.source === source) this.end(id, time);
    }
    this.changed();
  }

  /** Lets go of all keys of a source and its pedal, or of everything. */
  release(time: Milliseconds, source?: string): void {
    for (const [id, held] of this.holding)
      if (source === undefined || held.source === source) this.end(id, time);
    if (source === undefined) this.pedals.clear();
    else this.pedals.delete(source);
    this.changed();
  }

  /** Pitches that sound by hand on a track. */
  pitches(track: string): ReadonlySet<number> {
    const found = new Set<number>();
    for (const held of this.holding.values()) if (held.track === track) found.add(held.pitch);
    return found;
  }

  get count(): number {
    return this.holding.size;
  }

  isPedalled(source: string): boolean {
    return this.pedals.has(source);
  }

  private end(id: string, time: Milliseconds): void {
    const held = this.holding.get(id);
    if (!held) return;
    this.holding.delete(id);
    held.note.end(Math.max(time, held.time));
  }
}
