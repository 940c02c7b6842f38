import { PLAIN_ROOM, roomTime, type Bpm, type Room, type Seconds } from "@/core";
import { coarse, ease, gainNode, inChannels } from "../ease";
import { BLOCK } from "./cycle";

/** The longest echo, in seconds; with a little more, since a delay must not be at its end. */
const LONGEST: Seconds = 4.1;

/**
 * The echo: what comes in comes back after a time, exact to the sample, and again and again, each time softer
 * and duller. Back and forth between left and right on wish; else each side to itself.
 */
export class Echo {
  readonly input: GainNode;
  private readonly sides: readonly [DelayNode, DelayNode];
  private readonly apart: GainNode[];
  private readonly crossed: GainNode[];
  private readonly stereo: GainNode[];
  private readonly mono: GainNode;
  private readonly tones: BiquadFilterNode[];
  private readonly output: ChannelMergerNode;
  /** Stands before the round: what the browser adds to each way round is taken off it, and once put here. */
  private readonly before: DelayNode;
  private cycle = BLOCK;
  private values: { room: Room | undefined; bpm: Bpm } | null = null;

  constructor(
    private readonly context: BaseAudioContext,
    output: AudioNode,
  ) {
    const gain = (value = 0) => gainNode(context, value);
    this.input = gain(1);
    // One channel would go to the left side alone.
    inChannels(this.input, 2);
    const split = context.createChannelSplitter(2);
    this.before = context.createDelay(0.1);
    this.input.connect(this.before).connect(split);
    this.output = context.createChannelMerger(2);
    this.sides = [context.createDelay(LONGEST), context.createDelay(LONGEST)];
    this.tones = this.sides.map(() => {
      const tone = context.createBiquadFilter();
      tone.type = "lowpass";
      tone.Q.value = Math.SQRT1_2;
      coarse(tone.frequency);
      return tone;
    });
    this.stereo = [gain(), gain()];
    this.apart = [gain(), gain()];
    this.crossed = [gain(), gain()];
    this.mono = gain();
    inChannels(this.mono, 1);
    this.before.connect(this.mono).connect(this.sides[0]);
    // Back from where both sides are together: there the cycle is cut, in whatever order the graph is gone
    // through, so that both ways round are the same.
    const back = context.createChannelSplitter(2);
    this.output.connect(back);
    this.sides.forEach((side, i) => {
      split.connect(this.stereo[i]!, i).connect(side);
      side.connect(this.output, 0, i);
      back.connect(this.tones[i]!, i);
      this.tones[i]!.connect(this.apart[i]!).connect(side);
      this.tones[i]!.connect(this.crossed[i]!).connect(this.sides[1 - i]!);
    });
    this.output.connect(output);
  }

  /** Takes off each way round what the browser adds to it, in samples. */
  setCycle(frames: number): void {
    if (frames === this.cycle) return;
    this.cycle = frames;
    if (this.values) this.update(this.values.room, this.values.bpm);
  }

  update(room: Room | undefined, bpm: Bpm): void {
    this.values = { room, bpm };
    const { feedback, echoTone, pingPong } = { ...PLAIN_ROOM, ...room };
    const { sampleRate } = this.context;
    // On whole samples: between them a delay would dull what it gives back.
    const frames = Math.round((roomTime(room, "echoTime", bpm) / 1000) * sampleRate);
    const time = (frames - this.cycle) / sampleRate;
    ease(this.before.delayTime, this.cycle / sampleRate, this.context);
    const set = (nodes: readonly GainNode[], value: number) =>
      nodes.forEach((node) => ease(node.gain, value, this.context));
    for (const side of this.sides) ease(side.delayTime, time, this.context);
    for (const tone of this.tones) ease(tone.frequency, echoTone, this.context);
    set(this.apart, pingPong ? 0 : feedback / 100);
    set(this.crossed, pingPong ? feedback / 100 : 0);
    set(this.stereo, pingPong ? 0 : 1);
    set([this.mono], pingPong ? 1 : 0);
  }

  dispose(): void {
    for (const node of [
      this.input,
      this.before,
      this.mono,
      this.output,
      ...this.sides,
      ...this.tones,
    ])
      node.disconnect();
    for (const node of [...this.apart, ...this.crossed, ...this.stereo]) node.disconnect();
  }
}
