import type { Decibels } from "@/core";

/** Reads the highest of the last samples of a node, from when it is made. */
export class PeakReader {
  private readonly node: AnalyserNode;
  private readonly samples: Float32Array<ArrayBuffer>;

  constructor(context: BaseAudioContext, source: AudioNode) {
    this.node = context.createAnalyser();
    this.node.fftSize = 2048;
    source.connect(this.node);
    this.samples = new Float32Array(2048);
  }

  /** In dB; −Infinity for silence. */
  read(): Decibels {
    this.node.getFloatTimeDomainData(this.samples);
    let peak = 0;
    for (const sample of this.samples) peak = Math.max(peak, Math.abs(sample));
    return 20 * Math.log10(peak);
  }
}
