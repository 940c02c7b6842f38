import { type Decibels, type Milliseconds, mapTuple } from "@/core/base";
import { type Lufs, gatedLoudness, kWeighting } from "@/core/analysis";

/** A block of the measurement, and how often one is taken. */
const BLOCK = 0.4;
const EVERY: Milliseconds = 100;
/** Blocks that are kept: an hour. Beyond that every other is left out, which changes nothing to speak of. */
const MAX = 36_000;

/**
 * How loud what plays is, by ITU-R BS.1770: since it was begun, and over the last 400 ms; and its highest
 * sample. The weighting runs in the audio graph; blocks are taken by the page's clock, which is near enough
 * to a step of 100 ms for a reading, not for a certificate.
 */
export class LoudnessMeter {
  private readonly sides: AnalyserNode[];
  private readonly plain: AnalyserNode[];
  private readonly nodes: AudioNode[];
  private readonly timer: ReturnType<typeof setInterval>;
  private readonly samples: Float32Array<ArrayBuffer>;
  private blocks: number[] = [];
  private last = 0;
  private highest = 0;

  constructor(
    private readonly context: BaseAudioContext,
    source: AudioNode,
    private readonly sounding: () => boolean,
  ) {
    const [shelf, high] = mapTuple(kWeighting(context.sampleRate), ({ b, a }) =>
      context.createIIRFilter([...b], [1, ...a]),
    );
    const split = context.createChannelSplitter(2);
    const bare = context.createChannelSplitter(2);
    source.connect(shelf).connect(high).connect(split);
    source.connect(bare);
    const analyser = (from: AudioNode, side: number) => {
      const node = context.createAnalyser();
      node.fftSize = 32_768;
      from.connect(node, side);
      return node;
    };
    this.sides = [0, 1].map((side) => analyser(split, side));
    this.plain = [0, 1].map((side) => analyser(bare, side));
    this.nodes = [shelf, high, split, bare];
    this.samples = new Float32Array(32_768);
    this.timer = setInterval(() => this.look(), EVERY);
  }

  private look(): void {
    if (!this.sounding()) {
      this.last = 0;
      return;
    }
    const length = Math.min(32_768, Math.round(BLOCK * this.context.sampleRate));
    let power = 0;
    for (const side of this.sides) {
      side.getFloatTimeDomainData(this.samples);
      let sum = 0;
      for (let i = this.samples.length - length; i < this.samples.length; i++)
        sum += this.samples[i]! ** 2;
      power += sum / length;
    }
    for (const side of this.plain) {
      side.getFloatTimeDomainData(this.samples);
      for (let i = this.samples.length - length; i < this.samples.length; i++)
        this.highest = Math.max(this.highest, Math.abs(this.samples[i]!));
    }
    this.last = power;
    this.blocks.push(power);
    if (this.blocks.length > MAX) this.blocks = this.blocks.filter((_, i) => i % 2 === 0);
  }

  /** Begins anew. */
  reset(): void {
    this.blocks = [];
    this.highest = 0;
  }

  /** Loudness since it began, just now, and the highest sample in dB since it began. */
  read(): { integrated: Lufs; momentary: Lufs; peak: Decibels } {
    return {
      integrated: gatedLoudness(this.blocks),
      momentary: gatedLoudness([this.last]),
      peak: 20 * Math.log10(this.highest),
    };
  }

  dispose(): void {
    clearInterval(this.timer);
    for (const node of this.nodes) node.disconnect();
  }
}
