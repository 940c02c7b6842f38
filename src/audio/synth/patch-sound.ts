import type { Cents, Hertz, Seconds } from "@/core/base";
import type { SoundValues } from "@/core/sound";
import { drive } from "./drive";
import { easedAll, type SmoothedValue } from "./smoothed";
import { Late } from "./late";
import { ShelfPair } from "./shelf";

/** What full brightness and full body do: cents of the voices' own filters, dB of the shelves. */
const OPENS: Cents = 2400;
const SHINE = 9;
const WEIGHT = 12;
/** Where the shelves turn. */
const TURN = { low: 320, high: 2200 } as const;
/** Motion: two delays that swing about their middle, a quarter of a round apart. */
const SWING = { middle: 0.009, depth: 0.0035, hz: 0.55, level: 0.7 } as const;
/** Width: what is late is added on one side and taken away on the other, so the sum of both is as it was. */
const LATE: Seconds = 0.013;
const APART = 0.8;
/** Delays have filled after this; heard before, their beginning would be one of the sound. */
const FILLED: Seconds = 0.025;

export type PatchValues = Pick<SoundValues, "brightness" | "body" | "motion" | "drive" | "width">;

const FIELDS = ["brightness", "body", "motion", "drive", "width"] as const;

/** What all notes of a melodic sound go through together, and what can change while they sound. */
export class PatchSound {
  private readonly values: Record<keyof PatchValues, SmoothedValue>;
  private readonly shelves: ShelfPair;
  private readonly late: Late;
  private fills = false;

  constructor(
    private readonly rate: Hertz,
    private readonly epoch: Seconds,
  ) {
    this.values = easedAll(FIELDS, rate);
    this.shelves = new ShelfPair(TURN, rate);
    this.late = new Late(SWING.middle + SWING.depth + LATE, rate);
  }

  set(wanted: PatchValues): void {
    for (const field of FIELDS) {
      const delayed = field === "motion" || field === "width";
      this.values[field].set(wanted[field], delayed && !this.fills ? FILLED : 0);
    }
    this.fills ||= wanted.motion > 0 || wanted.width > 0;
  }

  /** Goes on to the next block, and tells from and to where the filters of voices are opened in it. */
  next(): readonly [Cents, Cents] {
    for (const field of FIELDS) this.values[field].next();
    const { from, to } = this.values.brightness;
    return [(OPENS * from) / 100, (OPENS * to) / 100];
  }

  /** Shapes a block in place, whose first sample is `frame`; `even` says that both sides are to be the left one. */
  run(left: Float32Array, right: Float32Array, frame: number, even = false): void {
    const { brightness, body, motion, drive: driven, width } = this.values;
    if (!brightness.rests(0) || !body.rests(0))
      this.shelves.run(
        left,
        even ? null : right,
        [(WEIGHT * body.from) / 100, (WEIGHT * body.to) / 100],
        [(SHINE * brightness.from) / 100, (SHINE * brightness.to) / 100],
      );
    if (!driven.rests(0))
      for (const side of even ? [left] : [left, right]) drive(side, driven.from, driven.to);
    if (even) right.set(left);
    if (!this.fills) return;
    this.late.take(left, right);
    if (!motion.rests(0)) {
      const from = (SWING.level * motion.from) / 100;
      const to = (SWING.level * motion.to) / 100;
      [left, right].forEach((side, i) =>
        this.late.add(
          side,
          [this.swing(frame, i / 4), this.swing(frame + side.length, i / 4)],
          [from, to],
        ),
      );
    }
    if (!width.rests(0)) {
      const from = (APART * width.from) / 100;
      const to = (APART * width.to) / 100;
      this.late.add(left, [LATE, LATE], [from, to]);
      this.late.add(right, [LATE, LATE], [-from, -to]);
    }
  }

  private swing(frame: number, ahead: number): Seconds {
    const turns = ahead + SWING.hz * (this.epoch + frame / this.rate);
    return SWING.middle + SWING.depth * Math.sin(2 * Math.PI * turns);
  }
}
