import type { Seconds, Velocity } from "@/core/base";
import { PLAIN_MIX, SENDS } from "@/core/sound";
import type { Track } from "@/core/score";
import { levelGain, type HeldNote, type Instrument, type Strike, type NoteOn } from "../instrument";
import type { PadRenderer } from "../pads/render";
import type { Room } from "../effects/send-effects";
import { soundOf } from "../sounds";
import type { TrackCommand } from "../synth/track-sound";
import { TrackBend } from "../track-bend";
import { within, type Port } from "../worklet/port";
import type { Clock } from "../clock";

/** What a track sounded with before goes on for so long, in seconds: what it was asked for rings out. */
export const RINGS_ON: Seconds = 6;

interface Parts {
  track: Track;
  port: Port<TrackCommand>;
  room: Room;
  render: PadRenderer;
}

/**
 * One track of the mixer: what it sounds with, what shapes that, its level and pan, and what of it goes to the
 * room. All of it is made by the audio thread.
 */
export class Strip {
  track: Track;
  readonly pitchBend: TrackBend;
  private instrument: Instrument;
  private made = 0;
  /** What the track sounded with before, until that has rung out. */
  private before: { instrument: Instrument; until: Seconds }[] = [];
  private ducked = false;
  private fresh = true;

  constructor(
    private readonly clock: Clock,
    private readonly parts: Parts,
  ) {
    this.track = parts.track;
    this.pitchBend = new TrackBend();
    this.instrument = this.make(parts.track);
  }

  private make(track: Track): Instrument {
    const { clock, pitchBend } = this;
    const { port, room, render } = this.parts;
    const sound = soundOf(track);
    const id = ++this.made;
    port.send({ type: "make", id, player: sound.player });
    const instrument = sound.make(clock, {
      port: within(port, (command): TrackCommand => ({ type: "tell", id, command })),
      pitchBend,
      render,
      sends: (send) => room.need(send),
    });
    return {
      ...instrument,
      dispose: () => {
        instrument.dispose?.();
        port.send({ type: "drop", id });
      },
    };
  }

  update(track: Track): void {
    if (!this.fresh && this.track === track) return;
    this.fresh = false;
    const { clock } = this;
    const { port, room } = this.parts;
    // A kit changes its sounds itself; a melodic sound is another instrument, and what was asked of the one
    // before it still plays.
    if (this.track.sound !== track.sound && track.kind === "melody") {
      const now = clock.currentTime;
      this.forget(now);
      this.before.push({ instrument: this.instrument, until: now + RINGS_ON });
      this.instrument = this.make(track);
    }
    this.track = track;
    this.instrument.update?.(track);
    const { low, high, drive, compress, duckBy, ...mix } = { ...PLAIN_MIX, ...track.mix };
    port.send({ type: "shape", command: { type: "set", values: { low, high, drive, compress } } });
    if (duckBy === "") this.rest();
    const sends = { reverb: 0, echo: 0 };
    for (const send of SENDS) {
      sends[send] = levelGain(mix[send]);
      if (sends[send] > 0) room.need(send);
    }
    const levels = { gain: levelGain(track.level), pan: track.pan, sends };
    port.send({ type: "levels", levels });
  }

  noteOn(note: NoteOn): void {
    this.instrument.noteOn(note);
  }

  hold(note: Strike): HeldNote {
    return this.instrument.hold(note);
  }

  /** A hit presses the track down. */
  duck(time: Seconds, velocity: Velocity): void {
    const { duckDepth: depth, duckRelease: release } = { ...PLAIN_MIX, ...this.track.mix };
    this.ducked = true;
    this.parts.port.send({
      type: "shape",
      command: { type: "duck", time, depth, release, velocity },
    });
  }

  /** Forgets the hits that were to press it down. */
  private rest(): void {
    if (this.ducked) this.parts.port.send({ type: "shape", command: { type: "rest" } });
    this.ducked = false;
  }

  /** Resolves when all that it sounds with is there. */
  async ready(): Promise<void> {
    await this.instrument.ready?.();
  }

  /** Lets go of what is scheduled; notes held by hand go on. */
  silence(): void {
    for (const { instrument } of this.before) instrument.silence({ spareHeld: true });
    this.instrument.silence({ spareHeld: true });
    this.pitchBend.rest();
    this.rest();
  }

  private forget(now: Seconds): void {
    for (const { instrument, until } of this.before) if (until <= now) instrument.dispose?.();
    this.before = this.before.filter(({ until }) => until > now);
  }

  dispose(): void {
    this.forget(Infinity);
    this.instrument.silence();
    this.instrument.dispose?.();
  }
}
