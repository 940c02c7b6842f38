import type { Hertz, Seconds } from "@/core/base";
import { noise } from "../dsp";
import { Bends } from "./bends";
import { PatchSound } from "./patch-sound";
import type { VoiceCommand } from "./plan";
import { silence } from "./silence";
import { Voice, type Shared } from "./voice";

/** How long the noise is that breath is made of: no round of it is heard as one. */
const AIR: Seconds = 1.7;

/** All voices of one instrument: takes commands and renders blocks of sound. Pure but for what it was sent. */
export class Voices {
  private readonly voices = new Map<number, Voice>();
  private readonly samples = new Map<string, Float32Array>();
  private readonly shared: Shared;
  private readonly bends: Bends;
  private readonly patch: PatchSound;
  /** The next sample to be made. */
  private frame = 0;

  constructor(
    private readonly rate: Hertz,
    epoch: Seconds = 0,
  ) {
    this.bends = new Bends(rate);
    this.patch = new PatchSound(rate, epoch);
    let air: Float32Array | null = null;
    this.shared = {
      rate,
      epoch,
      air: () => (air ??= Float32Array.from({ length: Math.ceil(rate * AIR) }, noise(97))),
      sample: (name) => this.samples.get(name),
    };
  }

  get sounding(): number {
    return this.voices.size;
  }

  /** Takes a command, when the next sample to be made is `frame`. */
  take(command: VoiceCommand, frame = this.frame): void {
    if (command.type === "begin")
      this.voices.set(command.id, new Voice(this.shared, command, frame));
    else if (command.type === "fade") {
      const { id, at, tau, over } = command;
      this.voices.get(id)?.fade(Math.max(at, frame / this.rate), tau, over);
    } else if (command.type === "silence") silence(this.voices, command, frame, this.rate);
    else if (command.type === "sample") this.samples.set(command.name, command.samples);
    else if (command.type === "patch") this.patch.set(command.values);
    else if (command.type === "bend") this.bends.move(command.by);
    else if (command.type === "curve") this.bends.follow(command.points);
    else this.bends.rest();
  }

  /** Writes a block of 128 samples, the first of which is `frame`, into two sides that are silent. */
  run(left: Float32Array, right: Float32Array, frame: number): void {
    this.frame = frame;
    const bend = this.bends.next(frame);
    const open = this.patch.next();
    // What lies in the middle is the same on both sides, and shaped once.
    let even = true;
    for (const voice of this.voices.values()) even &&= voice.middle;
    for (const [id, voice] of this.voices)
      if (!voice.add(left, even ? null : right, frame, bend, open)) this.voices.delete(id);
    this.patch.run(left, right, frame, even);
    this.frame = frame + left.length;
  }
}
