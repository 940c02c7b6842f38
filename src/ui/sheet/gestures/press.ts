import type { Note } from "@/core/score";
import { settings } from "../../person/settings";
import { ownIds } from "../../commands/notes/notes";
import type { Row } from "../../geometry/layout";
import { START_MOVE, START_VELOCITY, type Gesture, type Hand, type Point } from "./gesture";
import { MoveNotes } from "./move-notes";
import { Velocity } from "./velocity";

/** A press on a hit: a click deletes it, or selects it first where a person wants that; dragged up or down it is its velocity, sideways it is moved. */
export class Press implements Gesture {
  readonly touches = false;

  /** `wasSelected`: by more than a touch. `twice`: the second of a double click, which does not undo what the first did. */
  constructor(
    private readonly hand: Hand,
    private readonly on: { note: Note; row: Row },
    private readonly twice: boolean,
    private readonly wasSelected: boolean,
  ) {}

  move(point: Point): Gesture | void {
    const dx = Math.abs(point.x - this.hand.from.x);
    const dy = Math.abs(point.y - this.hand.from.y);
    // With alt, as sideways, the hit itself is moved.
    if (dy >= START_VELOCITY && dy > dx && !point.alt) return new Velocity(this.hand);
    if (Math.max(dx, point.alt ? dy : 0) >= START_MOVE) return new MoveNotes(this.hand, this.on);
  }

  up(): void {
    if (!this.wasSelected && settings().hitClick === "select")
      this.hand.state.select([this.on.note.id]);
    else if (!this.twice) this.hand.edit.deleteNotes("Delete hit", ownIds([this.on.note.id]));
  }
}
