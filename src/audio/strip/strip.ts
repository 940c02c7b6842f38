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
import { gainNode } from "../ease";
import { epochOf } from "../epoch";
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
import { soundOf } from "../sounds";
import type { PlayerOrder, TrackOrder } from "../synth/track-sound";
import { BendWheel } from "../wheel";
import { ThreadPort, type ThreadOrder } from "../worklet/thread-port";

/** What a track sounded with before goes on for so long, in seconds: what it was asked for rings out. */
export const RINGS_ON: Seconds = 6;

/** What a part of the audio thread gives of a track: to the mix, to the reverb (as one channel), to the echo. */
const OUTPUTS = { mix: 0, reverb: 1, echo: 2 } as const;
const CHANNELS = [2, 1, 2];

interface Parts {
  track: Track;
  output: AudioNode;
  room: Room;
  render: PadRenderer;
}

/**
 * One track of the mixer: what it sounds with, what shapes that, its level and pan, and what of it goes to the
 * room. All of it is made by one part of the audio thread.
 */
export class Strip {
  track: Track;
  readonly wheel: BendWheel;
  meter: Tone.Meter | null = null;
  private readonly port: ThreadPort<TrackOrder>;
  private instrument: Instrument;
  private made = 0;
  /** What the track sounded with before, until that has rung out. */
  private before: { instrument: Instrument; until: Seconds }[] = [];
  private readonly leads = new Set<Send>();
  private tap: GainNode | null = null;
  private peaks: PeakReader | null = null;
  private ducked = false;
  private fresh = true;

  constructor(
    private readonly context: BaseAudioContext,
    private readonly parts: Parts,
  ) {
    this.track = parts.track;
    this.port = new ThreadPort(
      context,
      "track",
      { epoch: epochOf(context) },
      { channels: CHANNELS, due },
    );
    this.port.lead(parts.output, OUTPUTS.mix);
    this.wheel = new BendWheel();
    this.instrument = this.make(parts.track);
  }

  private make(track: Track): Instrument {
    const { context, port, wheel } = this;
    const sound = soundOf(track);
    const id = ++this.made;
    port.order({ say: "make", id, player: sound.player });
    const instrument = sound.make(context, {
      way: {
        order: (order) => port.order({ say: "tell", id, order }),
        ready: () => port.ready(),
        arrived: () => port.arrived(),
      },
      wheel,
      render: this.parts.render,
      sends: (send) => this.leadTo(send),
    });
    return {
      ...instrument,
      dispose: () => {
        instrument.dispose?.();
        port.order({ say: "drop", id });
      },
    };
  }

  update(track: Track): void {
    if (!this.fresh && this.track === track) return;
    this.fresh = false;
    const { context, port } = this;
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
    const { low, high, drive, compress, duckBy, ...mix } = { ...PLAIN_MIX, ...track.mix };
    port.order({ say: "shape", order: { say: "set", values: { low, high, drive, compress } } });
    if (duckBy === "") this.rest();
    const sends = { reverb: 0, echo: 0 };
    for (const send of SENDS) {
      sends[send] = levelGain(mix[send]);
      if (sends[send] > 0) this.leadTo(send);
    }
    const levels = { gain: levelGain(track.level), pan: track.pan, sends };
    port.order({ say: "levels", levels });
  }

  /** What is sent leads to the room from now on. */
  private leadTo(send: Send): void {
    if (this.leads.has(send)) return;
    this.leads.add(send);
    this.port.lead(this.parts.room.input(send), OUTPUTS[send]);
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
    this.ducked = true;
    this.port.order({ say: "shape", order: { say: "duck", time, depth, release, velocity } });
  }

  /** Forgets the hits that were to press it down. */
  private rest(): void {
    if (this.ducked) this.port.order({ say: "shape", order: { say: "rest" } });
    this.ducked = false;
  }

  /** What is heard of the track, for what measures it. */
  get heard(): AudioNode {
    if (!this.tap) {
      this.tap = gainNode(this.context, 1);
      this.port.lead(this.tap, OUTPUTS.mix);
    }
    return this.tap;
  }

  /** Highest sample just now in dB; measured from the first time it is asked for. */
  peak(): Decibels {
    this.peaks ??= new PeakReader(this.context, this.heard);
    return this.peaks.read();
  }

  async ready(): Promise<void> {
    await Promise.all([this.port.ready(), this.instrument.ready?.()]);
  }

  /** Resolves when the notes asked for are where they are made into sound. */
  arrived(): Promise<void> {
    return this.port.arrived();
  }

  /** Lets go of what is scheduled; notes held by hand go on. */
  silence(): void {
    for (const { instrument } of this.before) instrument.silence(true);
    this.instrument.silence(true);
    this.wheel.rest();
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
    this.port.dispose();
    this.tap?.disconnect();
    this.meter?.dispose();
  }
}

/** When what is said to a track is heard; see `ThreadPort`. */
function due(order: TrackOrder | ThreadOrder): Seconds | null {
  if (order.say === "shape") return order.order.say === "duck" ? order.order.time : null;
  return order.say === "tell" ? heardAt(order.order) : null;
}

function heardAt(order: PlayerOrder): Seconds | null {
  switch (order.say) {
    case "begin":
    case "hit":
      return order.held ? Infinity : order.time;
    case "sample":
    case "sound":
    case "body":
    case "kit":
    case "sends":
      return null;
    default:
      return Infinity;
  }
}
