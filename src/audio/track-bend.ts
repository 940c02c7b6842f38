import type { Seconds, Semitones } from "@/core/base";
import type { BendCommand, PitchBend } from "./instrument";

/** What bends a track: the hand on the wheel, and the curve of what is played, added. */
export class TrackBend implements PitchBend {
  private readonly listener = new Set<(command: BendCommand) => void>();
  private hand: Semitones = 0;
  private bent = false;

  turns(listener: (command: BendCommand) => void): () => void {
    this.listener.add(listener);
    if (this.hand !== 0) listener({ type: "bend", by: this.hand });
    return () => this.listener.delete(listener);
  }

  /** The hand bends by so many semitones, from now on. */
  bend(by: Semitones): void {
    this.hand = by;
    this.tell({ type: "bend", by });
  }

  /** The curve of a stretch of time: from its first point on, straight to each next one. */
  follow(points: readonly { time: Seconds; by: Semitones }[]): void {
    if (points.length === 0 || (!this.bent && points.every(({ by }) => by === 0))) return;
    this.bent = true;
    this.tell({ type: "curve", points: points.map((point, i) => ({ ...point, jump: i === 0 })) });
  }

  /** Forgets what is to come of the curve, and lets go of it. */
  rest(): void {
    if (this.bent) this.tell({ type: "straight" });
  }

  private tell(command: BendCommand): void {
    for (const listener of this.listener) listener(command);
  }
}
