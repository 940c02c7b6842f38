import { ease, gainNode, shaper } from "../ease";

/** How far the drive goes: what comes in is bent as if this many times louder. */
const PUSH = 8;
/** Level of what is driven, so that driving is not just getting louder. */
const DRIVEN = 0.4;

/** Saturation: what comes in, and as much of it bent as is asked. */
export class Driver {
  readonly input: GainNode;
  readonly output: GainNode;
  private readonly clean: GainNode;
  private readonly driven: GainNode;

  constructor(private readonly context: BaseAudioContext) {
    this.input = gainNode(context, 1);
    this.clean = gainNode(context, 1);
    this.driven = gainNode(context, 0);
    this.output = gainNode(context, 1);
    this.input.connect(this.clean).connect(this.output);
    this.input
      .connect(shaper(context, (x) => Math.tanh(PUSH * x)))
      .connect(this.driven)
      .connect(this.output);
  }

  /** 0–100 %. */
  set(percent: number): void {
    ease(this.clean.gain, 1 - percent / 100, this.context);
    ease(this.driven.gain, (percent / 100) * DRIVEN, this.context);
  }

  dispose(): void {
    for (const node of [this.input, this.clean, this.driven, this.output]) node.disconnect();
  }
}
