import type { Cents, Hertz, Seconds } from "@/core";
import { noise } from "../dsp";
import type { VoiceOrder } from "./plan";
import { Voice, type Shared } from "./voice";

/** How long the noise is that breath is made of: no round of it is heard as one. */
const AIR: Seconds = 1.7;
/** What falls silent at once does so with this time constant, and is over after. */
const SILENCED: Seconds = 0.004;
const SILENT_AFTER: Seconds = 0.03;

/** All voices of one instrument: takes orders and makes blocks of sound. Pure but for what it was told. */
export class Voices {
  private readonly voices = new Map<number, Voice>();
  private readonly samples = new Map<string, Float32Array>();
  private readonly shared: Shared;
  /** The next sample to be made. */
  private frame = 0;

  constructor(
    private readonly rate: Hertz,
    epoch: Seconds = 0,
  ) {
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

  /** Takes an order, when the next sample to be made is `frame`. */
  take(order: VoiceOrder, frame = this.frame): void {
    if (order.say === "begin") this.voices.set(order.id, new Voice(this.shared, order, frame));
    else if (order.say === "fade") {
      const { id, at, tau, over } = order;
      this.voices.get(id)?.fade(Math.max(at, frame / this.rate), tau, over);
    } else if (order.say === "sample") this.samples.set(order.name, order.samples);
    else if (order.say === "silence") {
      const at = Math.max(order.at, frame / this.rate);
      for (const [id, voice] of this.voices) {
        if (voice.held && order.spareHeld) continue;
        if (voice.first > frame) this.voices.delete(id);
        else voice.fade(at, SILENCED, at + SILENT_AFTER);
      }
    }
  }

  /** Adds a block of 128 samples, the first of which is `frame`; see `Voice.add`. */
  add(left: Float32Array, right: Float32Array, frame: number, bend: Cents, open: Cents): void {
    this.frame = frame;
    for (const [id, voice] of this.voices)
      if (!voice.add(left, right, frame, bend, open)) this.voices.delete(id);
    this.frame = frame + left.length;
  }
}
