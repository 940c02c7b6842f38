import type { Hertz, Seconds } from "@/core";
import { coarse, ease, gainNode } from "../ease";
import { burst, fallen, type RoomSound } from "./burst";

/**
 * Lengths of the lines of a middling room, in seconds, without a common measure; every other one leads to the
 * right.
 */
const LINES: readonly Seconds[] = [0.0311, 0.0353, 0.0419, 0.0461, 0.0547, 0.0601, 0.0689, 0.0773];
/** The smallest and the largest room have lines so many times as long. */
const SMALL = 0.45;
const LARGE = 1.7;
/** Below this nothing rings: a room of a low end is mud. */
const LOW_CUT: Hertz = 140;

/**
 * The sound of one room: a burst, then eight delay lines that feed each other without loss but for what makes
 * each fall by 60 dB in the time asked for (a feedback delay network: J.-M. Jot and A. Chaigne, “Digital delay
 * networks for designing artificial reverberators”, AES Convention 90, 1991; Householder's matrix, from memory).
 */
export class Hall {
  readonly input: ConvolverNode;
  readonly output: GainNode;
  private readonly tone: BiquadFilterNode;
  private readonly nodes: AudioNode[];
  private readonly lines: readonly { delay: DelayNode; time: Seconds }[];

  constructor(
    private readonly context: BaseAudioContext,
    sound: RoomSound,
  ) {
    const { decay, size } = sound;
    const [left, right] = burst(sound);
    const buffer = context.createBuffer(2, left.length, context.sampleRate);
    buffer.copyToChannel(left, 0);
    buffer.copyToChannel(right, 1);
    this.input = context.createConvolver();
    this.input.normalize = false;
    this.input.buffer = buffer;
    const split = context.createChannelSplitter(2);
    this.input.connect(split);

    const sides = context.createChannelMerger(2);
    // All ways round lead through one node, since that is where a cycle is then cut, in whatever order the
    // browser goes through the graph: each is the same block longer, in every render.
    const round = context.createChannelMerger(LINES.length);
    const [out, back] = [0, 1].map(() => context.createChannelSplitter(LINES.length));
    round.connect(out!);
    round.connect(back!);
    // On whole samples: between them a line would lose more than it should.
    const share = SMALL + ((LARGE - SMALL) * size) / 100;
    const { sampleRate } = context;
    const times = LINES.map((line) => Math.round(line * share * sampleRate) / sampleRate);
    // Householder: each line goes back to itself, less a quarter of the sum of all eight.
    const sum = gainNode(context, -2 / times.length);
    const lines = times.map((time, i) => {
      const delay = context.createDelay(0.2);
      const falls = gainNode(context, fallen(time, decay));
      split.connect(delay, i % 2);
      delay.connect(falls).connect(round, 0, i);
      out!.connect(sides, i, i % 2);
      back!.connect(delay, i);
      back!.connect(sum, i);
      return { delay, falls, time };
    });
    for (const { delay } of lines) sum.connect(delay);
    this.lines = lines;

    const low = context.createBiquadFilter();
    low.type = "highpass";
    low.frequency.value = LOW_CUT;
    this.tone = context.createBiquadFilter();
    this.tone.type = "lowpass";
    this.tone.Q.value = Math.SQRT1_2;
    coarse(this.tone.frequency);
    // What comes out of a side, as power: its lines' over the time they take to fall.
    const kept = times.reduce((all, time) => all + fallen(time, decay) ** 2, 0) / times.length;
    this.output = gainNode(context, Math.sqrt((1 - kept) / kept / times.length) * 1.4);
    sides.connect(low).connect(this.tone).connect(this.output);
    this.nodes = [this.input, split, round, out!, back!, sides, sum, low, this.tone, this.output];
    for (const { delay, falls } of lines) this.nodes.push(delay, falls);
  }

  /** Takes off each way round what the browser adds to it, in samples. */
  setCycle(frames: number): void {
    const { sampleRate } = this.context;
    for (const { delay, time } of this.lines)
      ease(delay.delayTime, time - frames / sampleRate, this.context);
  }

  /** Above this frequency the room is dull. */
  setTone(hz: Hertz): void {
    ease(this.tone.frequency, hz, this.context);
  }

  dispose(): void {
    for (const node of this.nodes) node.disconnect();
  }
}
