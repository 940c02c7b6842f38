import * as Tone from "tone";
import type { Project, Track } from "@/core";
import type { Instrument, Trigger } from "./instrument";
import { LIMITER_DRIVE, limiterCurve } from "./limiter";
import { soundOf } from "./sounds";

interface Strip {
  channel: Tone.Channel;
  input: GainNode;
  meter: Tone.Meter | null;
  sound: string;
  instrument: Instrument;
}

/** Head room: several tracks at full level stay near the limiter's straight part. */
const MASTER_DB = -5;

/**
 * One channel per track (level, pan), summed, limited, sent to the context's output. Works the
 * same in a live and in an offline context; `native` is the audio context that `tone` wraps.
 */
export class Mixer {
  private readonly strips = new Map<string, Strip>();
  private readonly master: Tone.Volume;
  private readonly nodes: Tone.ToneAudioNode[];

  constructor(
    private readonly tone: Tone.BaseContext,
    private readonly native: BaseAudioContext,
    private readonly metering: boolean,
  ) {
    this.master = new Tone.Volume({ context: tone, volume: MASTER_DB });
    const drive = new Tone.Gain({ context: tone, gain: LIMITER_DRIVE });
    const shaper = new Tone.WaveShaper({ context: tone });
    shaper.curve = limiterCurve();
    this.nodes = [this.master, drive, shaper];
    this.master.chain(drive, shaper);
    Tone.connect(shaper, native.destination);
  }

  /** Makes the strips fit the project's tracks: new ones, other sounds, levels, pans. */
  update(project: Project): void {
    for (const [id, strip] of this.strips) {
      if (project.tracks.some((track) => track.id === id)) continue;
      strip.instrument.silence();
      strip.channel.dispose();
      this.strips.delete(id);
    }
    for (const track of project.tracks) this.updateStrip(track);
  }

  private updateStrip(track: Track): void {
    const strip = this.strips.get(track.id) ?? this.addStrip(track);
    if (strip.sound !== track.sound) {
      strip.instrument.silence();
      strip.instrument = soundOf(track).make(this.native, strip.input);
      strip.sound = track.sound;
    }
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
      meter = new Tone.Meter({ context: this.tone, smoothing: 0.7 });
      channel.connect(meter);
    }
    const instrument = soundOf(track).make(this.native, input);
    const strip = { channel, input, meter, sound: track.sound, instrument };
    this.strips.set(track.id, strip);
    return strip;
  }

  trigger(track: string, note: Trigger): void {
    this.strips.get(track)?.instrument.trigger(note);
  }

  /** Level of a track just now in dB; −Infinity when silent or not metered. */
  levelOf(track: string): number {
    const value = this.strips.get(track)?.meter?.getValue();
    return typeof value === "number" ? value : -Infinity;
  }

  silence(track?: string): void {
    for (const [id, strip] of this.strips) {
      if (track === undefined || id === track) strip.instrument.silence();
    }
  }

  dispose(): void {
    for (const strip of this.strips.values()) strip.channel.dispose();
    for (const node of this.nodes) node.dispose();
  }
}
