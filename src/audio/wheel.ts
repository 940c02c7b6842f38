import type { Seconds, Semitones } from "@/core";
import type { Wheel } from "./instrument";

/** How quickly a movement of the hand is followed, a time constant: no step is heard. */
const FOLLOW: Seconds = 0.006;

/**
 * What bends a track: the hand on the wheel, and the curve of what is played, added. Its nodes are made
 * when first moved: most tracks never are.
 */
export class BendWheel implements Wheel {
  readonly cents: GainNode;
  private readonly sources: { hand: ConstantSourceNode | null; curve: ConstantSourceNode | null } =
    { hand: null, curve: null };

  constructor(private readonly context: BaseAudioContext) {
    this.cents = context.createGain();
    this.cents.gain.value = 100;
  }

  /** The hand bends by so many semitones, from now on. */
  bend(by: Semitones): void {
    const { offset } = this.source("hand");
    offset.setTargetAtTime(by, this.context.currentTime, FOLLOW);
  }

  /** The curve of a stretch of time: from its first point on, straight to each next one. */
  follow(points: readonly { time: Seconds; by: Semitones }[]): void {
    const [first, ...rest] = points;
    if (!first || (!this.sources.curve && points.every(({ by }) => by === 0))) return;
    const { offset } = this.source("curve");
    offset.setValueAtTime(first.by, first.time);
    for (const { time, by } of rest) offset.linearRampToValueAtTime(by, time);
  }

  /** Forgets what is to come of the curve, and lets go of it. */
  rest(): void {
    const { curve } = this.sources;
    if (!curve) return;
    curve.offset.cancelScheduledValues(this.context.currentTime);
    curve.offset.setTargetAtTime(0, this.context.currentTime, FOLLOW);
  }

  dispose(): void {
    for (const source of [this.sources.hand, this.sources.curve]) {
      source?.stop();
      source?.disconnect();
    }
    this.cents.disconnect();
  }

  private source(which: "hand" | "curve"): ConstantSourceNode {
    let source = this.sources[which];
    if (!source) {
      source = this.context.createConstantSource();
      source.offset.value = 0;
      source.connect(this.cents);
      source.start();
      this.sources[which] = source;
    }
    return source;
  }
}
