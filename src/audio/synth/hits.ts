import type { Hertz, MidiPitch, Pan, Seconds } from "@/core/base";
import type { Send } from "@/core/sound";
import { BLOCK } from "./block";
import { SmoothedValue } from "./smoothed";
import { moved, placed } from "./pan";
import { readRecording } from "./recording";
import { silence, type SilenceCommand } from "./silence";

/** The sound of a pad: one channel, or two. */
export type PadSound = readonly Float32Array[];

/** What is said to the thread of a kit. */
export type HitCommand =
  /** A pad sounds like this from the next hit on. */
  | { type: "sound"; pad: MidiPitch; channels: PadSound }
  | {
      type: "hit";
      id: number;
      pad: MidiPitch;
      time: Seconds;
      /** Times as fast as it was made. */
      speed: number;
      gain: number;
      pan: Pan;
      held: boolean;
    }
  /** A hit dies away from a time on. */
  | { type: "end"; id: number; at: Seconds; tau: Seconds }
  | SilenceCommand
  | { type: "kit"; gain: number }
  | { type: "sends"; pad: MidiPitch; gains: Readonly<Record<Send, number>> };

/** Blocks that go to the room: one channel to the reverb, two to the echo. */
export interface SendBlocks {
  reverb: Float32Array;
  echo: readonly [Float32Array, Float32Array];
}

/** What dies away is over after so many time constants, 87 dB down. */
const OVER = 10;

const one = new Float32Array(BLOCK);
const other = new Float32Array(BLOCK);
const levels = new Float32Array(BLOCK);

/** A hit that sounds: a recording of its pad, played once. */
class Hit {
  readonly held: boolean;
  readonly pad: MidiPitch;
  /** The sample it begins with, and the one it is over before. */
  readonly first: number;
  private over = Infinity;
  private readonly speed: number;
  private readonly gain: number;
  private readonly pan: Pan;
  /** Where it is in its recording. */
  private place = 0;
  /** From which sample on it dies away, by how much each sample, and how far it has. */
  private fadesFrom = Infinity;
  private falls = 1;
  private left = 1;

  constructor(
    command: Extract<HitCommand, { type: "hit" }>,
    private readonly sound: PadSound,
    private readonly rate: Hertz,
    now: number,
  ) {
    this.held = command.held;
    this.pad = command.pad;
    this.speed = command.speed;
    this.gain = command.gain;
    this.pan = command.pan;
    this.first = Math.max(now, Math.ceil(command.time * rate - 1e-6));
  }

  /** Dies away from a time on; one that does so already goes on as it does. */
  fade(at: Seconds, tau: Seconds, over: Seconds): void {
    this.over = Math.min(this.over, over * this.rate);
    if (at * this.rate >= this.fadesFrom) return;
    this.fadesFrom = at * this.rate;
    this.falls = Math.exp(-1 / (tau * this.rate));
  }

  /** Adds a block, to both sides and to the room; tells whether anything is still to come. */
  add(
    left: Float32Array,
    right: Float32Array,
    frame: number,
    sends: { to: SendBlocks; gains: Readonly<Record<Send, SmoothedValue>> } | null,
  ): boolean {
    if (this.over <= this.first) return false;
    const from = Math.max(0, this.first - frame);
    if (from >= BLOCK) return true;
    const end = Math.min(BLOCK, Math.ceil(this.over - frame));
    if (end <= from) return false;
    const [a, b] = this.sound;
    const { speed, place } = this;
    const to = from + readRecording(a!, one, from, end, place, speed);
    if (b) readRecording(b, other, from, end, place, speed);
    this.rise(from, to, frame);
    this.place = place + (to - from) * speed;
    if (b) this.both(left, right, from, to);
    else this.single(left, right, from, to);
    if (sends) send(one, b ? other : one, from, to, sends.to, sends.gains);
    return to === end && frame + BLOCK < this.over;
  }

  private rise(from: number, to: number, frame: number): void {
    const { gain, fadesFrom, falls } = this;
    const begin = Math.min(to, Math.max(from, Math.ceil(fadesFrom - frame)));
    levels.fill(gain * this.left, from, begin);
    for (let i = begin; i < to; i++) {
      levels[i] = gain * this.left;
      this.left *= falls;
    }
  }

  private single(left: Float32Array, right: Float32Array, from: number, to: number): void {
    for (let i = from; i < to; i++) one[i]! *= levels[i]!;
    if (this.pan === 0) {
      for (let i = from; i < to; i++) {
        left[i]! += one[i]!;
        right[i]! += one[i]!;
      }
      return;
    }
    const [toLeft, toRight] = placed(this.pan);
    for (let i = from; i < to; i++) {
      left[i]! += toLeft * one[i]!;
      right[i]! += toRight * one[i]!;
    }
  }

  private both(left: Float32Array, right: Float32Array, from: number, to: number): void {
    const [ll, rl, lr, rr] = moved(this.pan);
    for (let i = from; i < to; i++) {
      const x = (one[i]! *= levels[i]!);
      const y = (other[i]! *= levels[i]!);
      left[i]! += ll * x + rl * y;
      right[i]! += lr * x + rr * y;
    }
  }
}

/** Adds what a pad sends: both sides as one to the reverb, each by itself to the echo. */
function send(
  left: Float32Array,
  right: Float32Array,
  from: number,
  to: number,
  { reverb, echo: [echoLeft, echoRight] }: SendBlocks,
  gains: Readonly<Record<Send, SmoothedValue>>,
): void {
  if (!gains.reverb.rests(0)) {
    const { from: low, to: high } = gains.reverb;
    const more = (high - low) / BLOCK;
    for (let i = from; i < to; i++) reverb[i]! += 0.5 * (left[i]! + right[i]!) * (low + more * i);
  }
  if (!gains.echo.rests(0)) {
    const { from: low, to: high } = gains.echo;
    const more = (high - low) / BLOCK;
    for (let i = from; i < to; i++) {
      const gain = low + more * i;
      echoLeft[i]! += left[i]! * gain;
      echoRight[i]! += right[i]! * gain;
    }
  }
}

/** All hits of one kit: takes commands and renders blocks of sound. Pure but for what it was sent. */
export class Hits {
  private readonly sounds = new Map<MidiPitch, PadSound>();
  private readonly sends = new Map<MidiPitch, Readonly<Record<Send, SmoothedValue>>>();
  private readonly hits = new Map<number, Hit>();
  private readonly level: SmoothedValue;
  /** Whether anything went to the room in the last block. */
  sent = false;
  private readonly sides = [new Float32Array(BLOCK), new Float32Array(BLOCK)] as const;

  constructor(private readonly rate: Hertz) {
    this.level = new SmoothedValue(1, rate);
  }

  get sounding(): number {
    return this.hits.size;
  }

  /** Takes a command, when the next sample to be made is `frame`. */
  take(command: HitCommand, frame: number): void {
    if (command.type === "hit") {
      const sound = this.sounds.get(command.pad);
      if (sound && sound[0]!.length > 1)
        this.hits.set(command.id, new Hit(command, sound, this.rate, frame));
    } else if (command.type === "end") {
      const { id, at, tau } = command;
      this.hits.get(id)?.fade(Math.max(at, frame / this.rate), tau, at + OVER * tau);
    } else if (command.type === "sound") this.sounds.set(command.pad, command.channels);
    else if (command.type === "kit") this.level.set(command.gain);
    else if (command.type === "sends") this.send(command.pad, command.gains);
    else silence(this.hits, command, frame, this.rate);
  }

  private send(pad: MidiPitch, gains: Readonly<Record<Send, number>>): void {
    let own = this.sends.get(pad);
    if (!own)
      this.sends.set(
        pad,
        (own = { reverb: new SmoothedValue(0, this.rate), echo: new SmoothedValue(0, this.rate) }),
      );
    own.reverb.set(gains.reverb);
    own.echo.set(gains.echo);
  }

  /** Adds a block of 128 samples, the first of which is `frame`, to two sides, and to what goes to the room. */
  run(left: Float32Array, right: Float32Array, frame: number, to: SendBlocks): void {
    this.level.next();
    for (const gains of this.sends.values()) {
      gains.reverb.next();
      gains.echo.next();
    }
    this.sent = false;
    if (this.hits.size === 0) return;
    const [ownLeft, ownRight] = this.sides;
    ownLeft.fill(0);
    ownRight.fill(0);
    for (const [id, hit] of this.hits) {
      const gains = this.sends.get(hit.pad);
      const sends = gains ? { to, gains } : null;
      if (sends) this.sent = true;
      if (!hit.add(ownLeft, ownRight, frame, sends)) this.hits.delete(id);
    }
    this.level.addTo(left, ownLeft);
    this.level.addTo(right, ownRight);
  }
}
