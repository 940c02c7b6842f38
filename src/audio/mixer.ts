import * as Tone from "tone";
import type { Project, Seconds, Semitones, Track } from "@/core";
import type { HeldNote, Instrument, Strike, Trigger } from "./instrument";
import { LIMITER_DRIVE, limiterCurve } from "./limiter";
import type { PadRenderer } from "./pads/render";
import { soundOf } from "./sounds";
import { BendWheel } from "./wheel";

interface Strip {
  channel: Tone.Channel;
  input: GainNode;
  wheel: BendWheel;
  meter: Tone.Meter | null;
  track: Track;
  instrument: Instrument;
}

/** Head room: several tracks at full level stay near the limiter's straight part. */
const MASTER_DB = -5;
/** How slowly meters fall, 0–1. */
const SMOOTH = 0.7;

/**
 * One channel per track (level, pan), summed, limited, sent to the context's output. Works the
 * same in a live and in an offline context; `native` is the audio context that `tone` wraps.
 */
export class Mixer {
  private readonly strips = new Map<string, Strip>();
  private readonly master: Tone.Volume;
  private readonly nodes: Tone.ToneAudioNode[];
  private readonly meter: Tone.Meter | null = null;

  constructor(
    private readonly tone: Tone.BaseContext,
    private readonly native: BaseAudioContext,
    private readonly metering: boolean,
    private readonly render: PadRenderer,
  ) {
    this.master = new Tone.Volume({ context: tone, volume: MASTER_DB });
    const drive = new Tone.Gain({ context: tone, gain: LIMITER_DRIVE });
    const shaper = new Tone.WaveShaper({ context: tone });
    shaper.curve = limiterCurve();
    this.nodes = [this.master, drive, shaper];
    this.master.chain(drive, shaper);
    Tone.connect(shaper, native.destination);
    if (metering) {
      this.meter = new Tone.Meter({ context: tone, smoothing: SMOOTH });
      shaper.connect(this.meter);
      this.nodes.push(this.meter);
    }
  }

  /** Makes the strips fit the project's tracks: new ones, other sounds, levels, pans. */
  update(project: Project): void {
    for (const [id, strip] of this.strips) {
      if (project.tracks.some((track) => track.id === id)) continue;
      disposeStrip(strip);
      this.strips.delete(id);
    }
    for (const track of project.tracks) this.updateStrip(track);
  }

  private updateStrip(track: Track): void {
    const known = this.strips.get(track.id);
    const strip = known ?? this.addStrip(track);
    if (known?.track === track) return;
    // A kit changes its sounds itself, without a gap; a melodic sound is another instrument.
    if (strip.track.sound !== track.sound && track.kind === "melody") {
      strip.instrument.silence();
      strip.instrument = soundOf(track).make(this.native, strip.input, strip.wheel, this.render);
    }
    strip.instrument.update?.(track);
    strip.track = track;
    // −60 is the bottom of the scale and means silence.
    const level = track.level <= -60 ? -Infinity : track.level;
    if (strip.channel.volume.value !== level) strip.channel.volume.value = level;
    if (strip.channel.pan.value !== track.pan) strip.channel.pan.value = track.pan;
  }

  private addStrip(track: Track): Strip {
    const channel = new Tone.Channel({ context: this.tone, channelCount: 2 });
    channel.connect(this.master);
    const input = this.native.createGain();
    Tone.connect(input, channel);
    let meter: Tone.Meter | null = null;
    if (this.metering) {
      meter = new Tone.Meter({ context: this.tone, smoothing: SMOOTH });
      channel.connect(meter);
    }
    const wheel = new BendWheel(this.native);
    const instrument = soundOf(track).make(this.native, input, wheel, this.render);
    const strip = { channel, input, wheel, meter, track, instrument };
    this.strips.set(track.id, strip);
    return strip;
  }

  trigger(track: string, note: Trigger): void {
    this.strips.get(track)?.instrument.trigger(note);
  }

  /** Begins a note that sounds until it is let go; null where there is no such track. */
  hold(track: string, note: Strike): HeldNote | null {
    return this.strips.get(track)?.instrument.hold(note) ?? null;
  }

  /** The hand bends a track by so many semitones. */
  bend(track: string, by: Semitones): void {
    this.strips.get(track)?.wheel.bend(by);
  }

  /** Bends a track along a curve. */
  follow(track: string, points: readonly { time: Seconds; by: Semitones }[]): void {
    this.strips.get(track)?.wheel.follow(points);
  }

  /** Level of a track just now in dB; −Infinity when silent or not metered. */
  levelOf(track: string): number {
    const value = this.strips.get(track)?.meter?.getValue();
    return typeof value === "number" ? value : -Infinity;
  }

  /** Level of everything together, after the limiter, in dB. */
  masterLevel(): number {
    const value = this.meter?.getValue();
    return typeof value === "number" ? value : -Infinity;
  }

  /** Resolves when all sounds asked for are there. */
  async ready(): Promise<void> {
    await Promise.all([...this.strips.values()].map((strip) => strip.instrument.ready?.()));
  }

  /** Lets go of what is scheduled; notes held by hand go on. */
  silence(): void {
    for (const strip of this.strips.values()) {
      strip.instrument.silence(true);
      strip.wheel.rest();
    }
  }

  dispose(): void {
    for (const strip of this.strips.values()) disposeStrip(strip);
    this.strips.clear();
    for (const node of this.nodes) node.dispose();
  }
}

/** Lets go of what a strip sounds with and of its nodes. */
function disposeStrip({ instrument, input, wheel, meter, channel }: Strip): void {
  instrument.silence();
  wheel.dispose();
  input.disconnect();
  meter?.dispose();
  channel.dispose();
}
