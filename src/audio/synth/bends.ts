import type { Cents, Hertz, Seconds, Semitones } from "@/core/base";
import { BLOCK } from "./block";

/** How quickly a movement of the hand is followed, a time constant: no step is heard. */
const FOLLOW: Seconds = 0.006;

/** A corner of a curve: straight there from the one before, or a jump, where it is the first of a stretch. */
export interface BendPoint {
  time: Seconds;
  by: Semitones;
  jump: boolean;
}

/** What bends a track: the hand on the wheel, and the curve of what is played, added. */
export class Bends {
  private hand = 0;
  private wanted = 0;
  private curve: BendPoint[] = [];
  private last: BendPoint = { time: 0, by: 0, jump: true };
  private resting = false;

  constructor(private readonly rate: Hertz) {}

  move(by: Semitones): void {
    this.wanted = by;
  }

  follow(points: readonly BendPoint[]): void {
    this.curve.push(...points);
    if (points.length > 0) this.resting = false;
  }

  /** Forgets what is to come of the curve, and lets go of it. */
  rest(): void {
    this.curve = [];
    this.resting = true;
  }

  /** Goes on to a block: by how much all is bent in it. */
  next(frame: number): Cents {
    const share = 1 - Math.exp(-BLOCK / this.rate / FOLLOW);
    this.hand += (this.wanted - this.hand) * share;
    if (Math.abs(this.wanted - this.hand) < 1e-5) this.hand = this.wanted;
    if (this.resting) {
      const by = Math.abs(this.last.by) < 1e-5 ? 0 : this.last.by * (1 - share);
      this.last = { time: 0, by, jump: true };
      return 100 * (this.hand + by);
    }
    const time = frame / this.rate;
    while (this.curve.length > 0 && this.curve[0]!.time <= time) this.last = this.curve.shift()!;
    const { last } = this;
    const [to] = this.curve;
    const shape =
      to && !to.jump && to.time > last.time ? (time - last.time) / (to.time - last.time) : 0;
    const by = last.by + (to ? (to.by - last.by) * Math.min(1, Math.max(0, shape)) : 0);
    return 100 * (this.hand + by);
  }
}
