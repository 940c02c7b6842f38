import type * as Tone from "tone";
import {
  PLAIN_MIX,
  SENDS,
  type Decibels,
  type Seconds,
  type Send,
  type Track,
  type Velocity,
} from "@/core";
import { Detour } from "../detour";
import { ease, gainNode, inChannels } from "../ease";
import {
  levelGain,
  type HeldNote,
  type Instrument,
  type Strike,
  type Trigger,
} from "../instrument";
import type { PadRenderer } from "../pads/render";
import { PeakReader } from "../peak-reader";
import type { Room } from "../room/room";
import { Sends } from "../sends";
import { soundOf } from "../sounds";
import { BendWheel } from "../wheel";
import { Inserts, isStraight } from "./inserts";

/** What a track sounded with before goes on for so long, in seconds: what it was asked for rings out. */
export const RINGS_ON: Seconds = 6;

interface Parts {
  track: Track;
  output: AudioNode;
  room: Room;
  render: PadRenderer;
}

/**
 * What one track sounds with and goes through: its instrument, what shapes it, its level and pan, and what of
 * it goes to the room.
 */
export class Strip {
  track: Track;
  readonly wheel: BendWheel;
  /** What is heard of the track. */
  readonly output: StereoPannerNode;
  meter: Tone.Meter | null = null;
  private instrument: Instrument;
  /** What the track sounded with before, until that has rung out. */
  private before: { instrument: Instrument; until: Seconds }[] = [];
  private readonly input: GainNode;
  private readonly level: GainNode;
  private readonly way: Detour;
  private inserts: Inserts | null = null;
  private readonly sends: Sends;
  private readonly padSends = new Map<Send, GainNode>();
  private peaks: PeakReader | null = null;
  private fresh = true;

  constructor(
    private readonly context: BaseAudioContext,
    private readonly parts: Parts,
  ) {
    this.track = parts.track;
    this.input = gainNode(context, 1);
    this.level = gainNode(context, 1);
    this.output = context.createStereoPanner();
    // One channel would be three decibels softer in the middle than two.
    inChannels(this.output, 2);
    this.way = new Detour(context, this.input, this.level);
    this.level.connect(this.output).connect(parts.output);
    this.sends = new Sends(context, (send) => parts.room.input(send), this.output);
    this.wheel = new BendWheel();
    this.instrument = this.make(parts.track);
  }

  private make(track: Track): Instrument {
    const { render } = this.parts;
    return soundOf(track).make(this.context, this.input, {
      wheel: this.wheel,
      render,
      send: (send) => this.padSend(send),
    });
  }

  update(track: Track): void {
    if (!this.fresh && this.track === track) return;
    this.fresh = false;
    const { context } = this;
    // A kit changes its sounds itself; a melodic sound is another instrument, and what was asked of the one
    // before it still plays.
    if (this.track.sound !== track.sound && track.kind === "melody") {
      const now = context.currentTime;
      this.forget(now);
      this.before.push({ instrument: this.instrument, until: now + RINGS_ON });
      this.instrument = this.make(track);
    }
    this.track = track;
    this.instrument.update?.(track);
    ease(this.level.gain, levelGain(track.level), context);
    ease(this.output.pan, track.pan, context);
    for (const gain of this.padSends.values()) ease(gain.gain, levelGain(track.level), context);
    const mix = { ...PLAIN_MIX, ...track.mix };
    if (!this.inserts && !isStraight(mix)) {
      this.inserts = new Inserts(context);
      this.way.through(this.inserts.input, this.inserts.output);
    }
    this.inserts?.update(mix);
    for (const send of SENDS) this.sends.set(send, mix[send]);
  }

  /** Where pads send to: at the track's level, from the middle. */
  private padSend(send: Send): AudioNode {
    let gain = this.padSends.get(send);
    if (!gain) {
      gain = gainNode(this.context, levelGain(this.track.level));
      gain.connect(this.parts.room.input(send));
      this.padSends.set(send, gain);
    }
    return gain;
  }

  trigger(note: Trigger): void {
    this.instrument.trigger(note);
  }

  hold(note: Strike): HeldNote {
    return this.instrument.hold(note);
  }

  /** A hit presses the track down. */
  duck(time: Seconds, velocity: Velocity): void {
    const { duckDepth: depth, duckRelease: release } = { ...PLAIN_MIX, ...this.track.mix };
    this.inserts?.duck({ time, depth, release, velocity });
  }

  /** Highest sample just now in dB; measured from the first time it is asked for. */
  peak(): Decibels {
    this.peaks ??= new PeakReader(this.context, this.output);
    return this.peaks.read();
  }

  async ready(): Promise<void> {
    await Promise.all([this.instrument.ready?.(), this.inserts?.ready()]);
  }

  /** Resolves when the notes asked for are where they are made into sound. */
  async arrived(): Promise<void> {
    const all = [this.instrument, ...this.before.map(({ instrument }) => instrument)];
    await Promise.all([this.inserts?.arrived(), ...all.map((one) => one.arrived?.())]);
  }

  /** Lets go of what is scheduled; notes held by hand go on. */
  silence(): void {
    for (const { instrument } of this.before) instrument.silence(true);
    this.instrument.silence(true);
    this.wheel.rest();
    this.inserts?.rest();
  }

  private forget(now: Seconds): void {
    for (const { instrument, until } of this.before) if (until <= now) instrument.dispose?.();
    this.before = this.before.filter(({ until }) => until > now);
  }

  dispose(): void {
    this.forget(Infinity);
    this.instrument.silence();
    this.instrument.dispose?.();
    this.inserts?.dispose();
    this.way.dispose();
    for (const gain of [...this.sends.gains, ...this.padSends.values()]) gain.disconnect();
    for (const node of [this.input, this.level, this.output]) node.disconnect();
    this.meter?.dispose();
  }
}
