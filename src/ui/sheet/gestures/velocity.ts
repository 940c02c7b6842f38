import { everyNote } from "../../commands/notes/by-part";
import { farthest, louder, velocityAllowed } from "../../commands/notes/notes";
import type { Gesture, Hand, Point } from "./gesture";

/** Selected notes made louder by dragging up, all by as much, until one is at the end of the range. */
export class Velocity implements Gesture {
  readonly touches = true;

  constructor(private readonly hand: Hand) {}

  move(point: Point): void {
    const { edit, from, host } = this.hand;
    const held = edit.selectedBefore();
    const by = farthest(-Math.round(point.y - from.y), (step) =>
      everyNote(held, (note) => velocityAllowed(note.velocity + step)),
    );
    edit.changeNotes("Velocity", held, (note) => louder(note, by));
    const now = this.hand.firstSelected();
    if (now) host.readout(`velocity ${now.velocity}`);
  }
}
