import type { Seconds, Semitones } from "@/core/base";
import type { BendOrder, Wheel } from "./instrument";

/** What bends a track: the hand on the wheel, and the curve of what is played, added. */
export class BendWheel implements Wheel {
  private readonly told = new Set<(order: BendOrder) => void>();
  private hand: Semitones = 0;
  private bent = false;

  turns(told: (order: BendOrder) => void): () => void {
    this.told.add(told);
    if (this.hand !== 0) told({ say: "bend", by: this.hand });
    return () => this.told.delete(told);
  }

  /** The hand bends by so many semitones, from now on. */
  bend(by: Semitones): void {
    this.hand = by;
    this.tell({ say: "bend", by });
  }

  /** The curve of a stretch of time: from its first point on, straight to each next one. */
  follow(points: readonly { time: Seconds; by: Semitones }[]): void {
    if (points.length === 0 || (!this.bent && points.every(({ by }) => by === 0))) return;
    this.bent = true;
    this.tell({ say: "curve", points: points.map((point, i) => ({ ...point, jump: i === 0 })) });
  }

  /** Forgets what is to come of the curve, and lets go of it. */
  rest(): void {
    if (this.bent) this.tell({ say: "straight" });
  }

  private tell(order: BendOrder): void {
    for (const told of this.told) told(order);
  }
}
