import * as Tone from "tone";
import { PLAIN_MIX, type Project, type Seconds, type Semitones, type Track } from "@/core";
import { ease, gainNode } from "./ease";
import { gainOf, type HeldNote, type Strike, type Trigger } from "./instrument";
import { LIMITER_DRIVE, limiterCurve } from "./limiter";
import { LoudnessMeter } from "./loudness-meter";
import { PeakReader } from "./peak-reader";
import type { PadRenderer } from "./pads/render";
import { Room } from "./room/room";
import { Strip } from "./strip/strip";

/** Head room: several tracks at full level stay near the limiter's straight part. */
const MASTER_DB = -5;
/** How slowly meters fall, 0–1. */
const SMOOTH = 0.7;

/** Gain of the whole before the limiter. */
export const masterGain = ({ room }: Project): number => gainOf(MASTER_DB + (room?.level ?? 0));

/** Where tracks lead, in place of the mix: to outputs of their own. */
export interface Ways {
  output(track: string): AudioNode;
  /** The room a track sends to, one of `rooms`. */
  room(track: string): Room;
  rooms: readonly Room[];
}

/**
 * One strip per track, summed with the room they share, limited, sent to the context's output. Works the
 * same in a live and in an offline context; `native` is the audio context that `tone` wraps.
 */
export class Mixer {
  private readonly strips = new Map<string, Strip>();
  /** Tracks that are ducked, by the track whose hits do it. */
  private ducked = new Map<string, Strip[]>();
  private readonly master: GainNode;
  private readonly limiter: WaveShaperNode;
  private readonly nodes: AudioNode[];
  private readonly room: Room;
  private readonly meter: Tone.Meter | null = null;
  private loudness: LoudnessMeter | null = null;
  private peaks: PeakReader | null = null;
  private known: Project | null = null;
  /** Share of the mix beside a recording it is compared with. */
  private share = 1;

  constructor(
    private readonly tone: Tone.BaseContext,
    private readonly native: BaseAudioContext,
    private readonly metering: boolean,
    private readonly render: PadRenderer,
    private readonly ways: Ways | null = null,
  ) {
    this.master = gainNode(native, gainOf(MASTER_DB));
    const drive = gainNode(native, LIMITER_DRIVE);
    this.limiter = native.createWaveShaper();
    this.limiter.curve = limiterCurve();
    this.master.connect(drive).connect(this.limiter).connect(native.destination);
    this.nodes = [this.master, drive, this.limiter];
    this.room = new Room(native, this.master);
    if (metering) {
      this.meter = new Tone.Meter({ context: tone, smoothing: SMOOTH });
      Tone.connect(this.limiter, this.meter);
    }
  }

  /** Makes the strips fit the project's tracks: new ones, other sounds, levels, pans; and the room. */
  update(project: Project): void {
    if (project === this.known) return;
    for (const [id, strip] of this.strips) {
      if (project.tracks.some((track) => track.id === id)) continue;
      strip.dispose();
      this.strips.delete(id);
    }
    // Before the strips, the first of which to send something makes it.
    this.room.update(project.room, project.tempo);
    for (const track of project.tracks) this.stripOf(track).update(track);
    this.ducked = new Map();
    for (const { id, mix } of project.tracks) {
      if (!mix?.duckBy) continue;
      const strips = this.ducked.get(mix.duckBy) ?? [];
      this.ducked.set(mix.duckBy, [...strips, this.strips.get(id)!]);
    }
    ease(this.master.gain, this.gainFor(project), this.native);
    this.known = project;
  }

  private stripOf(track: Track): Strip {
    const known = this.strips.get(track.id);
    if (known) return known;
    const { native, ways, render } = this;
    const output = ways ? ways.output(track.id) : this.master;
    const room = ways ? ways.room(track.id) : this.room;
    let meter: Tone.Meter | null = null;
    const strip = new Strip(native, { track, output, room, render });
    if (this.metering) {
      meter = new Tone.Meter({ context: this.tone, smoothing: SMOOTH });
      Tone.connect(strip.heard, meter);
      strip.meter = meter;
    }
    this.strips.set(track.id, strip);
    return strip;
  }

  /** How much of the mix is heard beside a recording, 0–1. */
  setShare(share: number): void {
    this.share = share;
    if (this.known) ease(this.master.gain, this.gainFor(this.known), this.native);
  }

  /** Where nothing is compared, the mix is heard as it is. */
  private gainFor(project: Project): number {
    const compared = project.patterns.some(({ recording }) => recording);
    return masterGain(project) * (compared ? this.share : 1);
  }

  trigger(track: string, note: Trigger): void {
    this.duckFor(track, note);
    this.strips.get(track)?.trigger(note);
  }

  /** Begins a note that sounds until it is let go; null where there is no such track. */
  hold(track: string, note: Strike): HeldNote | null {
    this.duckFor(track, note);
    return this.strips.get(track)?.hold(note) ?? null;
  }

  private get rooms(): readonly Room[] {
    return [this.room, ...(this.ways?.rooms ?? [])];
  }

  private duckFor(track: string, { pitch, time, velocity }: Strike): void {
    for (const strip of this.ducked.get(track) ?? []) {
      const { duckPad = PLAIN_MIX.duckPad } = strip.track.mix!;
      if (duckPad === pitch) strip.duck(time, velocity);
    }
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

  /** Highest sample of a track just now in dB; −Infinity when silent. */
  peakOf(track: string): number {
    return this.strips.get(track)?.peak() ?? -Infinity;
  }

  /** Level of everything together, after the limiter, in dB. */
  masterLevel(): number {
    const value = this.meter?.getValue();
    return typeof value === "number" ? value : -Infinity;
  }

  /** Highest sample of everything together just now in dB. */
  masterPeak(): number {
    this.peaks ??= new PeakReader(this.native, this.limiter);
    return this.peaks.read();
  }

  /** Measures how loud the whole is from now on, while something sounds; the same meter when asked again. */
  measure(sounding: () => boolean): LoudnessMeter {
    this.loudness ??= new LoudnessMeter(this.native, this.limiter, sounding);
    return this.loudness;
  }

  /** Resolves when all sounds asked for are there. Rejects when what can be had is there, if something cannot. */
  async ready(): Promise<void> {
    const all = await Promise.allSettled([
      ...[...this.strips.values(), ...this.rooms].map((one) => one.ready()),
    ]);
    for (const one of all) if (one.status === "rejected") throw one.reason;
  }

  /** Resolves when all notes asked for are where they are made into sound; for offline work. */
  async arrived(): Promise<void> {
    const all = [...this.strips.values(), ...this.rooms];
    await Promise.all(all.map((one) => one.arrived()));
  }

  /** Lets go of what is scheduled; notes held by hand go on. */
  silence(): void {
    for (const strip of this.strips.values()) strip.silence();
  }

  dispose(): void {
    for (const strip of this.strips.values()) strip.dispose();
    this.strips.clear();
    this.loudness?.dispose();
    this.meter?.dispose();
    for (const room of this.rooms) room.dispose();
    for (const node of this.nodes) node.disconnect();
  }
}
