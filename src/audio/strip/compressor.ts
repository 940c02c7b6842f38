import { ease, gainNode, inChannels, shaper } from "../ease";

/** Over this the compressor presses, by this ratio, softly about the bend; all in dB. */
const THRESHOLD = -30;
const RATIO = 4;
const KNEE = 12;
/** Gives back what a usual level loses. */
const MAKE_UP = 9;
/** How soon it notices louder and softer, in seconds. */
const ATTACK = 0.004;
const RELEASE = 0.14;

/** What the compressor makes of a level, as a gain: both in plain numbers, level as the mean of its size. */
export function compression(level: number): number {
  const db = 20 * Math.log10(Math.max(level, 1e-6));
  const over = db - THRESHOLD;
  const pressed =
    over <= -KNEE / 2 ? 0 : over >= KNEE / 2 ? over : (over + KNEE / 2) ** 2 / (2 * KNEE);
  return 10 ** ((MAKE_UP - pressed * (1 - 1 / RATIO)) / 20);
}

/**
 * A compressor of one knob, from not at all to fully. It follows the level of both sides together with one
 * follower that is quick and one that is slow, whichever is higher, and has no delay, so hits stay on their
 * sample (the browser's own looks ahead by 6 ms).
 */
export class Compressor {
  readonly input: GainNode;
  readonly output: GainNode;
  private readonly share: GainNode;

  constructor(private readonly context: BaseAudioContext) {
    this.input = gainNode(context, 1);
    // Not compressed, its own gain is 1; compressed, 0, and what is computed is added to it.
    this.output = gainNode(context, 1);
    this.input.connect(this.output);
    const level = gainNode(context, 1);
    inChannels(level, 1);
    this.input.connect(level);
    const size = shaper(context, Math.abs);
    level.connect(size);
    const quick = follower(context, ATTACK);
    const slow = follower(context, RELEASE);
    size.connect(quick);
    size.connect(slow);
    // The higher of the two: the slow one, and what the quick one is above it.
    const above = shaper(context, (x) => Math.max(0, x));
    const less = gainNode(context, -1);
    quick.connect(above);
    slow.connect(less).connect(above);
    const gain = shaper(context, (x) => compression(Math.max(0, x)) / TOP);
    above.connect(gain);
    slow.connect(gain);
    this.share = gainNode(context, 0);
    gain.connect(this.share).connect(this.output.gain);
  }

  /** 0–100 %. */
  set(percent: number): void {
    ease(this.output.gain, 1 - percent / 100, this.context);
    ease(this.share.gain, (percent / 100) * TOP, this.context);
  }

  dispose(): void {
    this.input.disconnect();
    this.output.disconnect();
  }
}

/** Curves give −1…1: the gain is computed in parts of this. */
const TOP = 4;

/** Follows a level with a time constant: a low-pass of one pole. */
function follower(context: BaseAudioContext, seconds: number): IIRFilterNode {
  const a = Math.exp(-1 / (seconds * context.sampleRate));
  return context.createIIRFilter([1 - a], [1, -a]);
}
