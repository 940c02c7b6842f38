import type { Hertz, Seconds } from "@/core/base";
import { limit } from "../limiter";
import { BLOCK, type Sides } from "./block";
import { SmoothedValue } from "./smoothed";
import { floats, giveBack, kernels } from "./kernels/kernels";
import { Meter, type Strength } from "./meter";
import { RoomSound, type RoomCommand } from "./send-effects-sound";
import { TrackSound, type TrackCommand } from "./track-sound";

/** Where things lead: outputs, each with the limiter or without, and for each room which outputs it is heard in. */
export interface Ways {
  outputs: readonly { limited: boolean }[];
  rooms: readonly { reverb: number | null; echo: number | null }[];
}

/** One output for everything, and one room. */
export const MIX: Ways = { outputs: [{ limited: true }], rooms: [{ reverb: 0, echo: 0 }] };

export interface MixOptions {
  ways: Ways;
  /** The time of what is played at sample 0. */
  epoch: Seconds;
  /** Whether it tells how strong everything is. */
  metering: boolean;
}

/** What is said to the thread of the mix. */
export type MixCommand =
  /** A track is there from now on: heard in an output, and sending to a room. */
  | { type: "add"; track: number; output: number | null; room: number }
  | { type: "remove"; track: number }
  | { type: "track"; track: number; command: TrackCommand }
  | { type: "room"; room: number; command: RoomCommand }
  /** Everything is louder or softer, before the limiter. */
  | { type: "gain"; gain: number };

/** How strong each track is by its number, and the first output. */
export interface Strengths {
  tracks: readonly (readonly [track: number, strength: Strength])[];
  whole: Strength;
}

/** Strengths are told after so many blocks, 23 ms. */
const TELL_EVERY = 8;

interface OneTrack {
  sound: TrackSound;
  output: number | null;
  room: number;
  meter: Meter;
}

/** One track at a time is made here. */
const left = floats(BLOCK);
const right = floats(BLOCK);

/** Everything that is heard: tracks, the rooms they send to, their sum and the limiter. */
export class MixSound {
  private readonly tracks = new Map<number, OneTrack>();
  private readonly rooms: readonly RoomSound[];
  private readonly gain: SmoothedValue;
  private readonly whole = new Meter();
  /** What each output has, before the limiter. */
  private readonly sums: readonly Sides[];
  private blocks = 0;

  constructor(
    private readonly options: MixOptions,
    private readonly rate: Hertz,
  ) {
    this.rooms = options.ways.rooms.map(() => new RoomSound(rate));
    this.gain = new SmoothedValue(1, rate);
    this.sums = options.ways.outputs.map(() => [floats(BLOCK), floats(BLOCK)]);
  }

  /** Takes a command, when the next sample to be made is `frame`. */
  take(command: MixCommand, frame: number): void {
    if (command.type === "add") {
      const { track, output, room } = command;
      const sound = new TrackSound(this.rate, this.options.epoch);
      this.tracks.set(track, { sound, output, room, meter: new Meter() });
    } else if (command.type === "remove") this.tracks.delete(command.track);
    else if (command.type === "track")
      this.tracks.get(command.track)?.sound.take(command.command, frame);
    else if (command.type === "room") this.rooms[command.room]?.take(command.command);
    else this.gain.set(command.gain);
  }

  /** Writes a block whose first sample is `frame` into outputs, left and right of each in turn. */
  run(outputs: readonly Float32Array[], frame: number): void {
    const { ways, metering } = this.options;
    const { sums } = this;
    this.gain.next();
    for (const { sound, output, room, meter } of this.tracks.values()) {
      left.fill(0);
      right.fill(0);
      sound.run([left, right], this.rooms[room]!.sends, frame);
      if (metering) meter.take(left, right);
      if (output === null) continue;
      const [toLeft, toRight] = sums[output]!;
      kernels.addScaled(toLeft, left, 1, 0);
      kernels.addScaled(toRight, right, 1, 0);
    }
    ways.rooms.forEach(({ reverb, echo }, i) =>
      this.rooms[i]!.run(
        reverb === null ? null : sums[reverb]!,
        echo === null ? null : sums[echo]!,
      ),
    );
    ways.outputs.forEach(({ limited }, i) => {
      sums[i]!.forEach((sum, side) => {
        this.gain.scale(sum);
        const out = outputs[2 * i + side]!;
        if (!limited) out.set(sum);
        else for (let n = 0; n < BLOCK; n++) out[n] = limit(sum[n]!);
        sum.fill(0);
      });
    });
    if (metering) this.whole.take(outputs[0]!, outputs[1]!);
    this.blocks++;
  }

  /** How strong everything was, now and then; null in between. */
  tells(): Strengths | null {
    if (!this.options.metering || this.blocks % TELL_EVERY !== 0) return null;
    const tracks = [...this.tracks].map(([track, { meter }]) => [track, meter.read()] as const);
    return { tracks, whole: this.whole.read() };
  }

  /** Gives back what it was made with. */
  dispose(): void {
    for (const room of this.rooms) room.dispose();
    giveBack(...this.sums.flat());
  }
}
