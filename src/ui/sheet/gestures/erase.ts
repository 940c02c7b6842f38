import { ownIds } from "../../commands/notes/notes";
import type { Gesture, Hand, Point } from "./gesture";
import { Stroke } from "./stroke";

/** Deletes each note that the stroke passes. */
export class Erase implements Gesture {
  readonly touches = false;
  private readonly stroke: Stroke;

  constructor(private readonly hand: Hand) {
    this.stroke = new Stroke(hand.from);
  }

  move(point: Point): void {
    this.stroke.along(point, (at) => {
      const note = this.hand.hitHere(at)?.note;
      if (note) this.hand.edit.erase(ownIds([note.id]));
    });
  }
}
