import { clampVelocity } from "@/core/base";
import { nanoid } from "nanoid";
import { msToTicks } from "@/core/time";
import { bendSemitones } from "@/core/score";
import {
  HeldNotes,
  type LoopPlace,
  type PlayedBend,
  PlayedLog,
  type PlayedNote,
} from "@/core/perform";
import type { Engine } from "@/audio/engine";
import type { SessionStore } from "../state/store";
import { Watchers } from "./watchers";

/** What happens while playing. */
export type PlayEvent =
  | { type: "began" | "ended"; note: PlayedNote }
  | { type: "bent"; bend: PlayedBend }
  | { type: "dropped" };

/** A key pressed by hand, of whatever kind. Times in ms of the page's clock. */
export interface Press {
  pitch: number;
  velocity: number;
  time: number;
  /** Where it sounds; the current track where it is left out. */
  track?: string;
}

/**
 * Everything that is played by hand, from whatever device: it sounds on the current track at once, and is
 * remembered with the time it was played at. Notes end on the track they began on.
 */
export class Player {
  readonly log = new PlayedLog();
  private readonly heldNotes: HeldNotes;
  private readonly listeners = new Set<(event: PlayEvent) => void>();
  private readonly watchers = new Watchers();
  /** Tracks that a source has bent, so that its wheel is let go of where it was. */
  private readonly bent = new Map<string, string>();

  constructor(
    private readonly store: SessionStore,
    private readonly engine: Engine,
  ) {
    this.heldNotes = new HeldNotes(
      ({ track, pitch, velocity, time }) => {
        const sound = engine.hold(track, pitch, velocity, time);
        const note = this.log.begin({
          id: nanoid(8),
          track,
          pitch,
          velocity,
          at: wallClock(time),
          loop: this.placeAt(time),
        });
        this.tell({ type: "began", note });
        return {
          end: (ended) => {
            sound.release(0);
            this.log.end(note, wallClock(ended), this.ticksSince(note, ended));
            this.tell({ type: "ended", note });
          },
        };
      },
      () => this.changed(),
    );
  }

  press(source: string, key: string, { pitch, velocity, time, track }: Press): void {
    const on = track ?? this.store.getState().track;
    if (!on) return;
    const whole = clampVelocity(velocity);
    this.heldNotes.down(source, key, { track: on, pitch, velocity: whole, time });
  }

  lift(source: string, key: string, time: number): void {
    this.heldNotes.up(source, key, time);
  }

  pedal(source: string, down: boolean, time: number): void {
    this.heldNotes.pedal(source, down, time);
  }

  /** A wheel moves: −8192…8191. Bends the current track; back in the middle, the one it was on. */
  bend(source: string, value: number, time: number): void {
    const current = this.store.getState().track;
    const track = this.bent.get(source) ?? current;
    if (!track) return;
    this.bent.set(source, track);
    if (value === 0) this.bent.delete(source);
    this.engine.bend(track, bendSemitones(value));
    const bend = { track, value: Math.round(value), at: wallClock(time), loop: this.placeAt(time) };
    this.log.bend(bend);
    this.tell({ type: "bent", bend });
    this.changed();
  }

  /** Lets go of all keys, pedals and wheels of a source, or of all: the window lost them, the device is gone. */
  release(source?: string, time = performance.now()): void {
    for (const bent of [...this.bent.keys()])
      if (source === undefined || bent === source) this.bend(bent, 0, time);
    this.heldNotes.release(time, source);
  }

  /** Throws away what was played, by the notes' ids. */
  drop(ids: ReadonlySet<string>): void {
    this.log.drop(ids);
    this.tell({ type: "dropped" });
    this.changed();
  }

  /** Pitches that sound by hand on a track. */
  pitches(track: string): ReadonlySet<number> {
    return this.heldNotes.pitches(track);
  }

  isBent(source: string): boolean {
    return this.bent.has(source);
  }

  isPedalled(source: string): boolean {
    return this.heldNotes.isPedalled(source);
  }

  /** Is told of all that is played. Gives a way to stop. */
  listen(listener: (event: PlayEvent) => void): () => void {
    this.listeners.add(listener);
    return () => this.listeners.delete(listener);
  }

  /** Is told that something changed, to be looked at. Gives a way to stop. */
  readonly watch = this.watchers.watch;

  /** Says that what was remembered changed by other means. */
  changed(): void {
    this.watchers.changed();
  }

  private tell(event: PlayEvent): void {
    for (const listener of this.listeners) listener(event);
  }

  private placeAt(time: number): LoopPlace | null {
    const at = this.engine.playedAt(time);
    const bpm = this.store.getState().project.tempo;
    return at && { pattern: at.pattern, tick: at.tick, run: this.engine.runs, bpm };
  }

  private ticksSince({ loop, at }: PlayedNote, time: number): number | null {
    if (!loop) return null;
    const now = this.placeAt(time);
    return now && now.run === loop.run && now.pattern === loop.pattern && now.tick > loop.tick
      ? now.tick - loop.tick
      : msToTicks(wallClock(time) - at, loop.bpm);
  }
}

/** A time of the page's clock, or just now, in ms since 1970. */
export const wallClock = (time = performance.now()): number => performance.timeOrigin + time;
