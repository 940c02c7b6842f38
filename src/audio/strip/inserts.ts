import { PLAIN_MIX, type TrackMix } from "@/core";
import { gainNode, inChannels } from "../ease";
import type { Duck } from "../synth/ducking";
import type { InsertOrder } from "../synth/insert-sound";
import { ThreadPort } from "../worklet/thread-port";

/** What a track goes through when it is shaped: shelves, drive, compressor, and a gain that ducking moves. */
export class Inserts {
  readonly input: GainNode;
  readonly output: GainNode;
  private readonly port: ThreadPort<InsertOrder>;
  private ducked = false;

  constructor(context: BaseAudioContext) {
    this.input = inChannels(gainNode(context, 1), 2);
    this.output = gainNode(context, 1);
    this.port = new ThreadPort(context, "inserts", {}, this);
  }

  update({ low, high, drive, compress, duckBy }: Required<TrackMix>): void {
    this.port.order({ say: "set", values: { low, high, drive, compress } });
    if (duckBy === "") this.rest();
  }

  /** A hit presses the track down. */
  duck(duck: Duck): void {
    this.ducked = true;
    this.port.order({ say: "duck", ...duck });
  }

  /** Forgets the hits that were to press it down. */
  rest(): void {
    if (this.ducked) this.port.order({ say: "rest" });
    this.ducked = false;
  }

  /** See `Instrument`. */
  ready(): Promise<void> {
    return this.port.ready();
  }

  arrived(): Promise<void> {
    return this.port.arrived();
  }

  dispose(): void {
    this.port.dispose();
    this.input.disconnect();
    this.output.disconnect();
  }
}

/** Whether a track goes through as it is. */
export const isStraight = (mix: TrackMix): boolean =>
  mix.duckBy === "" &&
  (["low", "high", "drive", "compress"] as const).every((field) => mix[field] === PLAIN_MIX[field]);
