import { PLAIN_MIX, SHELVES, type TrackMix } from "@/core";
import { ease, gainNode } from "../ease";
import { Compressor } from "./compressor";
import { Driver } from "./driver";

/**
 * What a track goes through when it is shaped: shelves, drive, compressor, and a gain that ducking moves.
 * All of it leaves the sound as it is while its values are plain, and takes new values without a click.
 */
export class Inserts {
  readonly input: BiquadFilterNode;
  readonly output: GainNode;
  private readonly high: BiquadFilterNode;
  private readonly driver: Driver;
  private readonly compressor: Compressor;

  constructor(private readonly context: BaseAudioContext) {
    this.input = shelf(context, "lowshelf", SHELVES.low);
    this.high = shelf(context, "highshelf", SHELVES.high);
    this.input.connect(this.high);
    this.driver = new Driver(context, this.high);
    this.compressor = new Compressor(context);
    this.output = gainNode(context, 1);
    this.driver.output.connect(this.compressor.input);
    this.compressor.output.connect(this.output);
  }

  update({ low, high, drive, compress }: TrackMix): void {
    ease(this.input.gain, low, this.context);
    ease(this.high.gain, high, this.context);
    this.driver.set(drive);
    this.compressor.set(compress);
  }

  dispose(): void {
    for (const node of [this.input, this.high, this.output]) node.disconnect();
    this.driver.dispose();
    this.compressor.output.disconnect();
  }
}

/** A shelf that leaves the sound as it is. */
export function shelf(
  context: BaseAudioContext,
  type: "lowshelf" | "highshelf",
  hz: number,
): BiquadFilterNode {
  const node = context.createBiquadFilter();
  node.type = type;
  node.frequency.value = hz;
  return node;
}

/** Whether a track goes through as it is. */
export const isStraight = (mix: TrackMix): boolean =>
  mix.duckBy === "" &&
  (["low", "high", "drive", "compress"] as const).every((field) => mix[field] === PLAIN_MIX[field]);
