import { PLAIN_MIX, SHELVES, type TrackMix } from "@/core";
import { Detour } from "../detour";
import { coarse, ease, gainNode } from "../ease";
import { Compressor } from "./compressor";
import { Driver } from "./driver";

/**
 * What a track goes through when it is shaped: shelves, drive, compressor, and a gain that ducking moves. Each
 * is made when it is first asked for, and leaves the sound as it is while its value is plain.
 */
export class Inserts {
  readonly input: GainNode;
  readonly output: GainNode;
  private readonly stages: GainNode[];
  private readonly ways: Detour[];
  private shelves: Shelves | null = null;
  private driver: Driver | null = null;
  private compressor: Compressor | null = null;

  constructor(private readonly context: BaseAudioContext) {
    this.stages = [0, 1, 2, 3].map(() => gainNode(context, 1));
    this.ways = [0, 1, 2].map((i) => new Detour(context, this.stages[i]!, this.stages[i + 1]!));
    this.input = this.stages[0]!;
    this.output = this.stages[3]!;
  }

  update({ low, high, drive, compress }: TrackMix): void {
    const { context, ways } = this;
    if (!this.shelves && (low !== 0 || high !== 0)) {
      this.shelves = new Shelves(context, SHELVES);
      ways[0]!.through(this.shelves.input, this.shelves.output);
    }
    if (!this.driver && drive > 0) {
      this.driver = new Driver(context);
      ways[1]!.through(this.driver.input, this.driver.output);
    }
    if (!this.compressor && compress > 0) {
      this.compressor = new Compressor(context);
      ways[2]!.through(this.compressor.input, this.compressor.output);
    }
    this.shelves?.set(low, high);
    this.driver?.set(drive);
    this.compressor?.set(compress);
  }

  dispose(): void {
    for (const way of this.ways) way.dispose();
    for (const stage of this.stages) stage.disconnect();
    this.shelves?.dispose();
    this.driver?.dispose();
    this.compressor?.dispose();
  }
}

/** A low and a high shelf, in dB. */
export class Shelves {
  readonly input: BiquadFilterNode;
  readonly output: BiquadFilterNode;

  constructor(
    private readonly context: BaseAudioContext,
    { low, high }: { low: number; high: number },
  ) {
    this.input = context.createBiquadFilter();
    this.input.type = "lowshelf";
    this.input.frequency.value = low;
    this.output = context.createBiquadFilter();
    this.output.type = "highshelf";
    this.output.frequency.value = high;
    this.input.connect(this.output);
    coarse(this.input.gain, this.output.gain);
  }

  set(low: number, high: number): void {
    ease(this.input.gain, low, this.context);
    ease(this.output.gain, high, this.context);
  }

  dispose(): void {
    this.input.disconnect();
    this.output.disconnect();
  }
}

/** Whether a track goes through as it is. */
export const isStraight = (mix: TrackMix): boolean =>
  mix.duckBy === "" &&
  (["low", "high", "drive", "compress"] as const).every((field) => mix[field] === PLAIN_MIX[field]);
