import type { Hertz } from "@/core/base";
import { SHELVES, type TrackMix } from "@/core/sound";
import { Compressor } from "./compressor";
import { Ducking, type Duck } from "./ducking";
import { drive } from "./drive";
import { easedAll, type SmoothedValue } from "./smoothed";
import { ShelfPair } from "./shelf";

const FIELDS = ["low", "high", "drive", "compress"] as const;

export type InsertValues = Required<Pick<TrackMix, (typeof FIELDS)[number]>>;

/** What is said to the thread of what a track goes through. */
export type InsertCommand =
  | { type: "set"; values: InsertValues }
  | ({ type: "duck" } & Duck)
  /** Nothing ducks any more. */
  | { type: "rest" };

/**
 * What a track goes through when it is shaped: shelves, drive, compressor, and a gain that ducking moves. Plain
 * values leave the sound as it is, bit by bit.
 */
export class InsertSound {
  private readonly values: Record<keyof InsertValues, SmoothedValue>;
  private readonly shelves: ShelfPair;
  private readonly compressor: Compressor;
  private readonly ducking: Ducking;

  constructor(rate: Hertz) {
    this.values = easedAll(FIELDS, rate);
    this.shelves = new ShelfPair(SHELVES, rate);
    this.compressor = new Compressor(rate);
    this.ducking = new Ducking(rate);
  }

  take(command: InsertCommand): void {
    if (command.type === "set")
      for (const field of FIELDS) this.values[field].set(command.values[field]);
    else if (command.type === "duck") this.ducking.hit(command);
    else this.ducking.rest();
  }

  /** Shapes a block in place, whose first sample is `frame`. */
  run(left: Float32Array, right: Float32Array, frame: number): void {
    for (const field of FIELDS) this.values[field].next();
    const { low, high, drive: driven, compress } = this.values;
    if (!low.rests(0) || !high.rests(0))
      this.shelves.run(left, right, [low.from, low.to], [high.from, high.to]);
    if (!driven.rests(0)) for (const side of [left, right]) drive(side, driven.from, driven.to);
    if (!compress.rests(0))
      this.compressor.run(left, right, compress.from / 100, compress.to / 100);
    this.ducking.run(left, right, frame);
  }
}
