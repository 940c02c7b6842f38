import { type Decibels, type Seconds, type Semitones, nth, mustGet } from "@/core/base";
import { PLAIN_MIX } from "@/core/sound";
import type { Project, Track } from "@/core/score";
import type { Clock } from "./clock";
import { gainOf, type HeldNote, type Strike, type NoteOn } from "./instrument";
import type { PadRenderer } from "./pads/render";
import { Room } from "./effects/send-effects";
import { LatestStrengths } from "./strengths";
import { Strip } from "./strip/strip";
import {
  MIX,
  type MixOptions,
  type MixCommand,
  type Strengths,
  type Ways,
} from "./synth/mix-sound";
import type { RoomCommand } from "./synth/send-effects-sound";
import { within, type Port } from "./worklet/port";

/** Head room: several tracks at full level stay near the limiter's straight part. */
const MASTER_DB = -5;
/** Gain of the whole before the limiter. */
export const masterGain = ({ room }: Project): number => gainOf(MASTER_DB + (room?.level ?? 0));

/** Where tracks lead in place of the mix: to outputs of their own. */
export interface Routes extends Ways {
  /** Which output a track is heard in; null for none. */
  output(track: string): number | null;
  /** The room a track sends to, one of `rooms`. */
  room(track: string): number;
}

const TO_THE_MIX: Routes = { ...MIX, output: () => 0, room: () => 0 };

/** Makes the way to what makes the sound; `told` is told how strong everything is. */
export type MakePort = (
  options: MixOptions,
  listener: (strengths: Strengths) => void,
) => Port<MixCommand> & { dispose(): void };

interface How {
  /** The time of what is played at sample 0; 0 if left out. */
  epoch?: Seconds;
  /** Whether it can be read how strong everything is. */
  metering: boolean;
  render: PadRenderer;
  routes?: Routes;
}

/** A strip, and the number by which the audio thread knows its track. */
interface Numbered {
  strip: Strip;
  number: number;
}

/**
 * One strip per track, and the rooms they send to. What is heard is made by another thread: the audio thread where
 * it is played, a worker where it is rendered. Both run the same.
 */
export class Mixer {
  private readonly strips = new Map<string, Numbered>();
  private numbers = 0;
  /** Tracks that are ducked, by the track whose hits do it. */
  private ducked = new Map<string, Strip[]>();
  private readonly port: Port<MixCommand> & { dispose(): void };
  private readonly rooms: readonly Room[];
  private readonly routes: Routes;
  private readonly strengths = new LatestStrengths();
  private known: Project | null = null;
  /** Share of the mix beside a recording it is compared with. */
  private share = 1;

  constructor(
    private readonly clock: Clock,
    makePort: MakePort,
    private readonly how: How,
  ) {
    const { metering, epoch = 0, routes = TO_THE_MIX } = how;
    const { outputs, rooms } = (this.routes = routes);
    const options = { ways: { outputs, rooms }, epoch, metering };
    this.port = makePort(options, (strengths) => this.strengths.take(strengths));
    this.rooms = rooms.map((_, room) => {
      const port = within(this.port, (command: RoomCommand): MixCommand => ({
        type: "room",
        room,
        command,
      }));
      return new Room(port, clock.sampleRate);
    });
  }

  /** Makes the strips fit the project's tracks: new ones, other sounds, levels, pans; and the room. */
  update(project: Project): void {
    if (project === this.known) return;
    for (const [id, { strip, number }] of this.strips) {
      if (project.tracks.some((track) => track.id === id)) continue;
      strip.dispose();
      this.port.send({ type: "remove", track: number });
      this.strips.delete(id);
    }
    // Before the strips, the first of which to send something makes it.
    for (const room of this.rooms) room.update(project.room, project.tempo);
    for (const track of project.tracks) this.stripOf(track).update(track);
    this.ducked = new Map();
    for (const { id, mix } of project.tracks) {
      if (!mix?.duckBy) continue;
      const strips = this.ducked.get(mix.duckBy) ?? [];
      this.ducked.set(mix.duckBy, [...strips, mustGet(this.strips, id).strip]);
    }
    this.port.send({ type: "gain", gain: this.gainFor(project) });
    this.known = project;
  }

  private stripOf(track: Track): Strip {
    const known = this.strips.get(track.id);
    if (known) return known.strip;
    const { port, routes, rooms } = this;
    const number = ++this.numbers;
    const room = routes.room(track.id);
    port.send({ type: "add", track: number, output: routes.output(track.id), room });
    const strip = new Strip(this.clock, {
      track,
      port: within(port, (command): MixCommand => ({ type: "track", track: number, command })),
      room: nth(rooms, room),
      render: this.how.render,
    });
    this.strips.set(track.id, { strip, number });
    return strip;
  }

  /** How much of the mix is heard beside a recording, 0–1. */
  setShare(share: number): void {
    this.share = share;
    if (this.known) this.port.send({ type: "gain", gain: this.gainFor(this.known) });
  }

  /** Where nothing is compared, the mix is heard as it is. */
  private gainFor(project: Project): number {
    const compared = project.patterns.some(({ recording }) => recording);
    return masterGain(project) * (compared ? this.share : 1);
  }

  noteOn(track: string, note: NoteOn): void {
    this.duckFor(track, note);
    this.strips.get(track)?.strip.noteOn(note);
  }

  /** Begins a note that sounds until it is let go; null where there is no such track. */
  hold(track: string, note: Strike): HeldNote | null {
    this.duckFor(track, note);
    return this.strips.get(track)?.strip.hold(note) ?? null;
  }

  private duckFor(track: string, { pitch, time, velocity }: Strike): void {
    for (const strip of this.ducked.get(track) ?? []) {
      const { duckPad = PLAIN_MIX.duckPad } = strip.track.mix!;
      if (duckPad === pitch) strip.duck(time, velocity);
    }
  }

  /** The hand bends a track by so many semitones. */
  bend(track: string, by: Semitones): void {
    this.strips.get(track)?.strip.pitchBend.bend(by);
  }

  /** Bends a track along a curve. */
  follow(track: string, points: readonly { time: Seconds; by: Semitones }[]): void {
    this.strips.get(track)?.strip.pitchBend.follow(points);
  }

  /** Level of a track just now in dB; −Infinity when silent or not metered. */
  levelOf(track: string): Decibels {
    return this.strengths.level(this.strips.get(track)?.number);
  }

  /** Highest sample of a track just now in dB; −Infinity when silent. */
  peakOf(track: string): Decibels {
    return this.strengths.peak(this.strips.get(track)?.number);
  }

  /** Level of everything together, after the limiter, in dB. */
  masterLevel(): Decibels {
    return this.strengths.level("whole");
  }

  /** Highest sample of everything together just now in dB. */
  masterPeak(): Decibels {
    return this.strengths.peak("whole");
  }

  /** Resolves when all sounds asked for are there. Rejects when what can be had is there, if something cannot. */
  async ready(): Promise<void> {
    const strips = [...this.strips.values()].map(({ strip }) => strip.ready());
    const all = await Promise.allSettled([this.port.ready(), ...strips]);
    for (const one of all) if (one.status === "rejected") throw one.reason;
  }

  /** Resolves when all notes asked for are where they are made into sound; for offline work. */
  arrived(): Promise<void> {
    return this.port.arrived();
  }

  /** Lets go of what is scheduled; notes held by hand go on. */
  silence(): void {
    for (const { strip } of this.strips.values()) strip.silence();
  }

  dispose(): void {
    for (const { strip } of this.strips.values()) strip.dispose();
    this.strips.clear();
    for (const room of this.rooms) room.dispose();
    this.port.dispose();
  }
}
